package dev.ordinator.backorders;

import dev.ordinator.access.Person;
import dev.ordinator.backorders.BreakingPromises.Breaking;
import dev.ordinator.backorders.ItemQueue.Effect;
import dev.ordinator.backorders.ItemQueue.Move;
import dev.ordinator.backorders.ItemQueue.Sheet;
import dev.ordinator.backorders.ShortItems.Pile;
import dev.ordinator.backorders.ShortItems.ShortItem;
import dev.ordinator.platform.OrdinatorSettings;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.time.LocalDate;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@Tag(name = "Backorders")
class BackordersApi {
  private final ShortItems shortItems;
  private final ItemQueue queue;
  private final ServedLately servedLately;
  private final SlipEffects effects;
  private final BreakingPromises breaking;
  private final OrdinatorSettings settings;

  BackordersApi(
      ShortItems shortItems,
      ItemQueue queue,
      ServedLately servedLately,
      SlipEffects effects,
      BreakingPromises breaking,
      OrdinatorSettings settings) {
    this.shortItems = shortItems;
    this.queue = queue;
    this.servedLately = servedLately;
    this.effects = effects;
    this.breaking = breaking;
    this.settings = settings;
  }

  /**
   * @param currency of what the items are worth
   */
  record Short(String currency, List<ShortItem> items) {}

  @Operation(summary = "The items for which orders wait, what is worst first")
  @GetMapping("/api/backorders")
  Short all(
      @RequestParam(defaultValue = "ALL") Pile pile,
      @RequestParam(defaultValue = "") String search,
      @RequestParam(defaultValue = "0") long channelId) {
    return new Short(settings.baseCurrency(), shortItems.of(pile, search, channelId));
  }

  @Operation(summary = "Who waits for an item, until when, and what is expected of it")
  @GetMapping("/api/backorders/items/{id}")
  Sheet sheet(@PathVariable long id) {
    return queue.of(id);
  }

  @Operation(summary = "Who waited for an item and was served in the last fourteen days")
  @GetMapping("/api/backorders/items/{id}/served")
  List<ServedLately.Served> served(@PathVariable long id) {
    return servedLately.of(id);
  }

  @Operation(summary = "What it would do to put somebody elsewhere in an item’s queue")
  @PostMapping("/api/backorders/items/{id}/move/preview")
  List<Effect> preview(@PathVariable long id, @RequestBody Move move) {
    return queue.preview(id, move);
  }

  @Operation(summary = "Put somebody elsewhere in an item’s queue")
  @PostMapping("/api/backorders/items/{id}/move")
  List<Effect> move(@PathVariable long id, @RequestBody Move move) {
    return queue.move(id, move, Person.current().displayName());
  }

  @Operation(summary = "Promises that will not be kept as things stand, soonest first")
  @GetMapping("/api/backorders/promises")
  List<Breaking> breaking(@RequestParam(defaultValue = "0") long itemId) {
    return breaking.of(itemId);
  }

  @Operation(
      summary = "Who waits for an expected supply, and until when if it came on another day",
      description = "Without a day: if it does not come at all.")
  @GetMapping("/api/stock/expected/{id}/dependents")
  List<SlipEffects.Dependent> dependents(
      @PathVariable long id, @RequestParam(required = false) @Nullable LocalDate due) {
    return effects.of(id, due);
  }
}
