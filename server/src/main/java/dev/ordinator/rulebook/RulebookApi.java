package dev.ordinator.rulebook;

import dev.ordinator.access.Person;
import dev.ordinator.core.network.NodeKind;
import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.core.orders.Stage;
import dev.ordinator.core.rules.Expression;
import dev.ordinator.core.rules.Field;
import dev.ordinator.core.rules.Operator;
import dev.ordinator.core.rules.RuleEvent;
import dev.ordinator.core.rules.RuleReview;
import dev.ordinator.platform.Problem;
import dev.ordinator.rulebook.Editions.Edition;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.core.io.ClassPathResource;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;

/**
 * The rulebook: the live edition, the draft, and the editions before. Rules and ladders are told
 * and taken as the JSON Schema at {@code /api/rulebook/schema} says.
 */
@RestController
@RequestMapping("/api/rulebook")
@Tag(name = "Rulebook")
class RulebookApi {
  private final Editions editions;
  private final Draft draft;
  private final RulebookJson json;

  RulebookApi(Editions editions, Draft draft, RulebookJson json) {
    this.editions = editions;
    this.draft = draft;
    this.json = json;
  }

  /**
   * @param by who made it live, and {@code at} when
   */
  record Live(int number, String by, Instant at, String note) {}

  /**
   * @param number that it would have
   * @param changes to be said when it is made live
   * @param by who changed it last, and {@code at} when
   */
  record DraftHead(
      int number, int begunFrom, int changes, String by, Instant at, Differences.Found differs) {}

  /**
   * @param draft null: nothing is being changed
   * @param body the draft's, or else the live edition's
   * @param findings what is certainly wrong with its rules
   */
  record Shown(
      Live live, @Nullable DraftHead draft, Rulebook body, List<RuleReview.Finding> findings) {}

  /**
   * @param options all values that it can have; empty: any
   */
  record FieldTerm(Field field, Field.Kind kind, List<Operator> operators, List<String> options) {}

  /**
   * What rules can be made of.
   *
   * @param names what expressions can ask for
   */
  record Terms(
      List<RuleEvent> events,
      List<FieldTerm> fields,
      List<Expression.Name> names,
      List<Stage> stages,
      List<ServiceLevel> levels,
      List<NodeKind> nodeKinds) {}

  record MakeLive(int changes, String note) {}

  @Operation(
      summary = "The draft, or the live edition if there is none, with what is wrong with it")
  @GetMapping
  Shown shown() {
    Edition live = editions.live();
    Editions.Summary told =
        editions.all().stream().filter(Editions.Summary::live).findFirst().orElseThrow();
    DraftHead head =
        draft
            .now()
            .map(d ->
                new DraftHead(
                    d.number(),
                    d.begunFrom(),
                    d.changes(),
                    d.by(),
                    d.at(),
                    Differences.between(live.body(), d.body())))
            .orElse(null);
    Rulebook body = draft.now().map(Draft.State::body).orElse(live.body());
    return new Shown(
        new Live(live.number(), told.by(), told.at(), told.note()),
        head,
        body,
        RuleReview.of(body.groups()));
  }

  @Operation(summary = "What rules can be made of")
  @GetMapping("/terms")
  Terms terms() {
    return new Terms(
        List.of(RuleEvent.values()),
        Arrays.stream(Field.values())
            .map(f ->
                new FieldTerm(
                    f,
                    f.kind(),
                    Arrays.stream(Operator.values()).filter(f::takes).toList(),
                    f.options()))
            .toList(),
        Expression.names(),
        List.of(Stage.values()),
        List.of(ServiceLevel.values()),
        List.of(NodeKind.values()));
  }

  record Text(String text) {}

  @Operation(summary = "What is wrong with an expression in CEL; nothing if it is sound")
  @PostMapping("/expressions")
  List<Expression.Fault> faults(@RequestBody Text expression) {
    return Expression.faults(expression.text());
  }

  @Operation(summary = "Change the draft: all of it or nothing; begins one if there is none")
  @PostMapping("/draft/changes")
  Shown change(@RequestBody JsonNode changes) {
    draft.change(List.of(json.read(changes, Change[].class)), who());
    return shown();
  }

  @Operation(summary = "Make a file, or what the live edition once said, the draft")
  @PutMapping("/draft")
  Shown replace(@RequestBody JsonNode book) {
    draft.replace(json.read(book, Rulebook.class), who());
    return shown();
  }

  @Operation(summary = "Make an edition’s words the draft, to go back to it")
  @PostMapping("/editions/{number}/draft")
  Shown goBack(@PathVariable int number) {
    draft.replace(editions.published(number).body(), who());
    return shown();
  }

  @Operation(summary = "Throw the draft away")
  @DeleteMapping("/draft")
  Shown discard() {
    draft.discard();
    return shown();
  }

  @Operation(summary = "Make the draft the edition that decides")
  @PostMapping("/draft/live")
  Shown makeLive(@RequestBody MakeLive wish) {
    draft.makeLive(wish.changes(), wish.note(), who());
    return shown();
  }

  @Operation(summary = "All editions that were ever live, the latest first")
  @GetMapping("/editions")
  List<Editions.Summary> all() {
    return editions.all();
  }

  @Operation(summary = "In what an edition differs from the one before it")
  @GetMapping("/editions/{number}/differences")
  Differences.Found differences(@PathVariable int number) {
    return Differences.between(
        editions.published(number - 1).body(), editions.published(number).body());
  }

  @Operation(summary = "An edition as a file")
  @GetMapping("/editions/{number}/file")
  ResponseEntity<Rulebook> file(@PathVariable int number) {
    return asFile(editions.published(number).body(), "edition-" + number);
  }

  @Operation(summary = "The draft as a file")
  @GetMapping("/draft/file")
  ResponseEntity<Rulebook> draftFile() {
    Draft.State now = draft.now().orElseThrow(() -> Problem.notFound("a draft"));
    return asFile(now.body(), "draft-of-edition-" + now.number());
  }

  @Operation(summary = "The JSON Schema of such files")
  @GetMapping("/schema")
  ResponseEntity<String> schema() throws IOException {
    return ResponseEntity.ok()
        .contentType(MediaType.parseMediaType("application/schema+json"))
        .body(
            new ClassPathResource("rulebook.schema.json")
                .getContentAsString(StandardCharsets.UTF_8));
  }

  private static ResponseEntity<Rulebook> asFile(Rulebook book, String name) {
    return ResponseEntity.ok()
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            ContentDisposition.attachment().filename(name + ".json").build().toString())
        .body(book);
  }

  private static String who() {
    return Person.current().displayName();
  }
}
