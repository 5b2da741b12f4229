package dev.ordinator.allocation;

import dev.ordinator.access.Person;
import dev.ordinator.allocation.RunLog.Compared;
import dev.ordinator.allocation.RunLog.LogLine;
import dev.ordinator.allocation.RunStore.Run;
import dev.ordinator.desk.RouteNow;
import dev.ordinator.desk.RouteNow.Turn;
import dev.ordinator.platform.Slice;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.io.IOException;
import java.io.StringWriter;
import java.io.UncheckedIOException;
import java.util.List;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/allocation")
@Tag(name = "Allocation runs")
class RunsApi {
  private final Runs runs;
  private final RunPlans plans;
  private final RunStore store;
  private final RouteNow routing;
  private final RunLog log;

  RunsApi(Runs runs, RunPlans plans, RunStore store, RouteNow routing, RunLog log) {
    this.runs = runs;
    this.plans = plans;
    this.store = store;
    this.routing = routing;
    this.log = log;
  }

  record Wish(String name, RunSettings settings) {}

  @Operation(summary = "The latest runs, newest first")
  @GetMapping("/runs")
  List<Run> all() {
    return store.all();
  }

  @Operation(summary = "See who would get what; nothing is given")
  @PostMapping("/runs")
  @ResponseStatus(HttpStatus.CREATED)
  Run preview(@RequestBody Wish wish) {
    return runs.preview(wish.name(), wish.settings(), who());
  }

  @Operation(summary = "One run, and how far it has come")
  @GetMapping("/runs/{id}")
  Run run(@PathVariable long id) {
    return store.run(id);
  }

  @Operation(
      summary = "A run’s log: each line, what it asked for, what it got, from where or why not")
  @GetMapping("/runs/{id}/lines")
  Slice<LogLine> lines(@PathVariable long id, @RequestParam(defaultValue = "0") int after) {
    return log.page(id, after);
  }

  @Operation(summary = "A run’s log as CSV")
  @GetMapping(value = "/runs/{id}/lines.csv", produces = "text/csv")
  ResponseEntity<String> csv(@PathVariable long id) throws IOException {
    StringWriter text = new StringWriter();
    try (CSVPrinter csv =
        CSVFormat.RFC4180
            .builder()
            .setHeader("turn", "order", "class", "sku", "asked", "got", "from", "why")
            .get()
            .print(text)) {
      log.each(id, line -> print(csv, line));
    }
    return ResponseEntity.ok()
        .header(
            HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"run-%d.csv\"".formatted(id))
        .body(text.toString());
  }

  @Operation(summary = "Carry a run out; it goes on by itself")
  @PostMapping("/runs/{id}/commit")
  Run commit(@PathVariable long id) {
    return runs.commit(id, who());
  }

  @Operation(summary = "Take back all that a run gave, as long as none of it has gone to a node")
  @PostMapping("/runs/{id}/undo")
  Run undo(@PathVariable long id) {
    return runs.undo(id, who());
  }

  record Routed(int routed, int left) {}

  @Operation(summary = "Route the orders to which a run gave something")
  @PostMapping("/runs/{id}/route")
  Routed route(@PathVariable long id) {
    List<Long> orders = log.givenTo(id);
    int routed = (int) orders.stream().filter(order -> routing.route(order) == Turn.SENT).count();
    return new Routed(routed, orders.size() - routed);
  }

  @Operation(summary = "What lines get in one run and in another, where that differs")
  @GetMapping("/runs/{id}/compared")
  List<Compared> compare(@PathVariable long id, @RequestParam long with) {
    return log.compare(id, with);
  }

  @Operation(summary = "Settings of runs that are kept under a name")
  @GetMapping("/plans")
  List<RunPlans.Plan> plans() {
    return plans.all();
  }

  @Operation(summary = "Keep settings under a name, to be run by hand or every so often")
  @PutMapping("/plans")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void keep(@RequestBody RunPlans.Wish wish) {
    plans.keep(wish, who());
  }

  @Operation(summary = "Forget settings")
  @DeleteMapping("/plans/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void forget(@PathVariable long id) {
    plans.forget(id);
  }

  private static void print(CSVPrinter csv, LogLine l) {
    try {
      csv.printRecord(
          l.no() + 1,
          l.orderNumber(),
          l.priority(),
          l.sku(),
          l.asked(),
          l.given(),
          l.from(),
          l.why());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static String who() {
    return Person.current().displayName();
  }
}
