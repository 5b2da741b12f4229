package dev.ordinator.rehearsal;

import dev.ordinator.access.Person;
import dev.ordinator.network.Nodes;
import dev.ordinator.network.Nodes.NodeCard;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Problem;
import dev.ordinator.rehearsal.RehearsalStore.Changed;
import dev.ordinator.rehearsal.RehearsalStore.Head;
import dev.ordinator.rehearsal.SideBySide.Result;
import dev.ordinator.routing.Decisions;
import dev.ordinator.routing.Decisions.By;
import dev.ordinator.routing.Decisions.Decision;
import dev.ordinator.rulebook.RulebookJson;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.io.IOException;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Rehearsals of the rulebook's draft. */
@RestController
@RequestMapping("/api/rulebook/rehearsals")
@Tag(name = "Rulebook")
class RehearsalApi {
  private static final int SHOWN = 1_000;

  private final Rehearsals rehearsals;
  private final RehearsalStore store;
  private final Decisions decisions;
  private final Nodes nodes;
  private final RulebookJson json;
  private final OrdinatorSettings settings;

  RehearsalApi(
      Rehearsals rehearsals,
      RehearsalStore store,
      Decisions decisions,
      Nodes nodes,
      RulebookJson json,
      OrdinatorSettings settings) {
    this.rehearsals = rehearsals;
    this.store = store;
    this.decisions = decisions;
    this.nodes = nodes;
    this.json = json;
    this.settings = settings;
  }

  /**
   * @param days of how many days' orders: 1 to 90
   */
  record Wish(int days) {}

  record Begun(long id) {}

  /**
   * @param capacity consignments a day; null: no limit
   */
  record NodeName(String code, String name, @Nullable Integer capacity) {}

  /**
   * @param result null until it is done
   */
  record Rehearsal(Head head, String currency, List<NodeName> nodes, @Nullable Result result) {}

  /** Both decisions on an order, with their grounds. */
  record Grounds(Decision was, Decision would) {}

  @Operation(summary = "Route the orders of the last days again under the draft")
  @PostMapping
  @ResponseStatus(HttpStatus.ACCEPTED)
  Begun begin(@RequestBody Wish wish) {
    return new Begun(rehearsals.begin(wish.days(), Person.current().displayName()));
  }

  @Operation(summary = "The latest rehearsals")
  @GetMapping
  List<Head> all() {
    return store.all();
  }

  @Operation(summary = "How far a rehearsal has come, and what came of it")
  @GetMapping("/{id}")
  Rehearsal one(@PathVariable long id) {
    Head head = head(id);
    return new Rehearsal(
        head,
        settings.baseCurrency(),
        nodes.all().stream()
            .map((NodeCard n) -> new NodeName(n.code(), n.name(), n.capacityPerDay()))
            .toList(),
        store.result(id).map(text -> json.read(text, Result.class)).orElse(null));
  }

  @Operation(
      summary =
          "The orders whose outcome would change, at most 1,000: first those that it would change"
              + " the most for")
  @GetMapping("/{id}/orders")
  List<Changed> orders(@PathVariable long id, @RequestParam(defaultValue = "false") boolean all) {
    head(id);
    return store.changed(id, all, SHOWN);
  }

  @Operation(summary = "All orders whose outcome would change, as CSV (RFC 4180)")
  @GetMapping(path = "/{id}/csv", produces = "text/csv")
  ResponseEntity<String> csv(@PathVariable long id) throws IOException {
    head(id);
    Map<String, String> names = nodes.names();
    StringWriter text = new StringWriter();
    try (CSVPrinter csv = new CSVPrinter(text, CSVFormat.RFC4180)) {
      csv.printRecord(
          "order", "country", "was_nodes", "was_cost", "would_nodes", "would_cost", "by_draft");
      for (Changed order : store.changed(id, true, Integer.MAX_VALUE)) {
        csv.printRecord(
            order.number(),
            order.country(),
            named(order.wasNodes(), names),
            order.wasCost(),
            named(order.wouldNodes(), names),
            order.wouldCost(),
            order.byDraft());
      }
    }
    return ResponseEntity.ok()
        .header(
            HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"rehearsal-" + id + ".csv\"")
        .header(HttpHeaders.CONTENT_TYPE, "text/csv;charset=" + StandardCharsets.UTF_8)
        .body(text.toString());
  }

  @Operation(summary = "What was decided on an order and what would be, each with its grounds")
  @GetMapping("/{id}/orders/{orderId}")
  Grounds grounds(@PathVariable long id, @PathVariable long orderId) {
    Head head = head(id);
    RehearsalStore.Both both =
        store
            .both(id, orderId)
            .orElseThrow(() -> Problem.notFound("order " + orderId + " in the rehearsal"));
    Decision was = decisions.byId(both.decisionId());
    return new Grounds(
        was, decisions.shown(new By(was.at(), "rehearsal", head.edition(), null), both.would()));
  }

  @Operation(summary = "Cancel a rehearsal, or throw the result of one that has ended away")
  @DeleteMapping("/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void end(@PathVariable long id) {
    head(id);
    rehearsals.end(id);
  }

  private Head head(long id) {
    return store.head(id).orElseThrow(() -> Problem.notFound("rehearsal " + id));
  }

  private static String named(List<String> codes, Map<String, String> names) {
    return String.join(" + ", codes.stream().map(code -> names.getOrDefault(code, code)).toList());
  }
}
