package dev.ordinator.views;

import static dev.ordinator.schema.Tables.SAVED_VIEW;

import dev.ordinator.access.Person;
import dev.ordinator.platform.Problem;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.util.List;
import java.util.Set;
import org.jooq.DSLContext;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Filters of a list under a name, the same for everybody. */
@RestController
@RequestMapping("/api/views/{view}")
@Tag(name = "Views")
class SavedViewsApi {
  private static final Set<String> VIEWS = Set.of("orders", "stock", "backorders");

  private final DSLContext db;

  SavedViewsApi(DSLContext db) {
    this.db = db;
  }

  /**
   * @param query as in the view's address, without a question mark
   */
  record SavedView(String name, String query, String madeBy) {}

  record Wish(String query) {}

  @Operation(summary = "A list’s saved views, by name")
  @GetMapping
  List<SavedView> all(@PathVariable String view) {
    return db.select(SAVED_VIEW.NAME, SAVED_VIEW.QUERY, SAVED_VIEW.MADE_BY)
        .from(SAVED_VIEW)
        .where(SAVED_VIEW.VIEW.eq(known(view)))
        .orderBy(SAVED_VIEW.NAME)
        .fetch(r -> new SavedView(r.value1(), r.value2(), r.value3()));
  }

  @Operation(summary = "Keep filters under a name; the same name is changed")
  @PutMapping("/{name}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void keep(@PathVariable String view, @PathVariable String name, @RequestBody Wish wish) {
    if (name.isBlank() || name.length() > 60) {
      throw Problem.invalid("name", "1 to 60 characters");
    }
    if (wish.query().length() > 400) {
      throw Problem.invalid("query", "at most 400 characters");
    }
    String who = Person.current().displayName();
    db.insertInto(SAVED_VIEW)
        .set(SAVED_VIEW.VIEW, known(view))
        .set(SAVED_VIEW.NAME, name.strip())
        .set(SAVED_VIEW.QUERY, wish.query())
        .set(SAVED_VIEW.MADE_BY, who)
        .onDuplicateKeyUpdate()
        .set(SAVED_VIEW.QUERY, wish.query())
        .set(SAVED_VIEW.MADE_BY, who)
        .execute();
  }

  @Operation(summary = "Forget a saved view")
  @DeleteMapping("/{name}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void forget(@PathVariable String view, @PathVariable String name) {
    db.deleteFrom(SAVED_VIEW)
        .where(SAVED_VIEW.VIEW.eq(known(view)))
        .and(SAVED_VIEW.NAME.eq(name))
        .execute();
  }

  private static String known(String view) {
    if (!VIEWS.contains(view)) {
      throw Problem.notFound("view " + view);
    }
    return view;
  }
}
