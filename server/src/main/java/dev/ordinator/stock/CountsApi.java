package dev.ordinator.stock;

import dev.ordinator.access.Person;
import dev.ordinator.stock.CountSheets.Head;
import dev.ordinator.stock.CountSheets.Sheet;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/counts")
@Tag(name = "Counts")
class CountsApi {
  private final Counts counts;
  private final CountSheets sheets;

  CountsApi(Counts counts, CountSheets sheets) {
    this.counts = counts;
    this.sheets = sheets;
  }

  /**
   * @param lines ids
   * @param let whether their differences are let in
   */
  record Verdict(List<Long> lines, boolean let) {}

  @Operation(summary = "Count lists, open ones first")
  @GetMapping
  List<Head> all() {
    return sheets.all(Person.current().onlyNode());
  }

  @Operation(summary = "A count list, by bin")
  @GetMapping("/{id}")
  Sheet sheet(@PathVariable long id) {
    return sheets.sheet(id, Person.current().onlyNode());
  }

  @Operation(summary = "Make a list of what lies in some bins, to be counted")
  @PostMapping
  Sheet begin(@RequestBody Counts.Wish wish) {
    return sheet(counts.begin(wish, who()));
  }

  @Operation(summary = "Say how many of something were found in a bin")
  @PostMapping("/{id}/found")
  Sheet found(@PathVariable long id, @RequestBody Counts.Found found) {
    sheet(id);
    counts.found(id, found, who());
    return sheet(id);
  }

  @Operation(
      summary = "Let the differences in",
      description = "Those of a high value, and those that orders hold, wait for a manager.")
  @PostMapping("/{id}/finish")
  Sheet finish(@PathVariable long id) {
    sheet(id);
    counts.finish(id, who());
    return sheet(id);
  }

  @Operation(summary = "Let differences in that wait for it, or refuse them")
  @PostMapping("/{id}/verdicts")
  Sheet settle(@PathVariable long id, @RequestBody Verdict verdict) {
    counts.settle(id, verdict.lines(), verdict.let(), who());
    return sheet(id);
  }

  @Operation(summary = "Close a list; what is not let in stays as it is on record")
  @PostMapping("/{id}/close")
  Sheet close(@PathVariable long id) {
    counts.close(id, who());
    return sheet(id);
  }

  private static String who() {
    return Person.current().displayName();
  }
}
