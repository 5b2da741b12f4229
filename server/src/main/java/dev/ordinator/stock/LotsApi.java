package dev.ordinator.stock;

import dev.ordinator.access.Person;
import dev.ordinator.stock.LotRecall.Trace;
import dev.ordinator.stock.Lots.Place;
import dev.ordinator.stock.Lots.Tracking;
import dev.ordinator.stock.Receiving.Delivery;
import dev.ordinator.stock.Receiving.Receipt;
import dev.ordinator.stock.Receiving.Wish;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/stock")
@Tag(name = "Stock")
class LotsApi {
  private final Lots lots;
  private final LotRecall recall;
  private final Receiving receiving;
  private final ReceiptReversal reversals;
  private final Transfers transfers;
  private final Putting putting;
  private final Uncounted uncounted;
  private final ItemSettings settings;

  LotsApi(
      Lots lots,
      LotRecall recall,
      Receiving receiving,
      ReceiptReversal reversals,
      Transfers transfers,
      Putting putting,
      Uncounted uncounted,
      ItemSettings settings) {
    this.lots = lots;
    this.recall = recall;
    this.receiving = receiving;
    this.reversals = reversals;
    this.transfers = transfers;
    this.putting = putting;
    this.uncounted = uncounted;
    this.settings = settings;
  }

  /** Where an item lies, and how it is tracked. */
  record Places(Tracking tracking, List<Place> places) {}

  record Recall(String note) {}

  record Counting(boolean counted) {}

  @Operation(summary = "Where an item lies: bins, lots, states; what goes first above")
  @GetMapping("/items/{id}/places")
  Places places(@PathVariable long id) {
    return new Places(lots.tracking(id), lots.places(id));
  }

  @Operation(
      summary = "Say whether an item is tracked by lot, and which lots go first",
      description = "If-Match: the item’s settingsTag; 412 if its settings were changed since.")
  @PutMapping("/items/{id}/tracking")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void track(
      @PathVariable long id,
      @RequestHeader(name = HttpHeaders.IF_MATCH, required = false) @Nullable String seen,
      @RequestBody Tracking tracking) {
    String who = who();
    settings.run(id, seen, () -> lots.setTracking(id, tracking, who));
  }

  @Operation(
      summary = "Say whether an item is counted; of what is not, there is always enough",
      description = "If-Match: the item’s settingsTag; 412 if its settings were changed since.")
  @PutMapping("/items/{id}/counted")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void count(
      @PathVariable long id,
      @RequestHeader(name = HttpHeaders.IF_MATCH, required = false) @Nullable String seen,
      @RequestBody Counting counting) {
    String who = who();
    settings.run(id, seen, () -> uncounted.set(id, counting.counted(), who));
  }

  @Operation(summary = "Put units into another bin, or another state, at their node")
  @PostMapping("/places/{id}/moves")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void put(@PathVariable long id, @RequestBody Putting.Wish wish) {
    putting.put(id, wish, who());
  }

  @Operation(summary = "Deliveries that are expected, soonest first")
  @GetMapping("/deliveries")
  List<Delivery> deliveries() {
    return receiving.deliveries();
  }

  @Operation(
      summary = "Take a delivery in, all of it or nothing",
      description =
          "What came more, or less, than expected is kept with the receipt. Orders that waited are"
              + " routed at once.")
  @PostMapping("/receipts")
  Receipt receive(@RequestBody Wish wish) {
    return receiving.receive(wish, who());
  }

  record Reversal(String reason) {}

  @Operation(
      summary = "Take a receipt back that was entered wrongly",
      description =
          "Its goods are on their way again. 409 if something of it is used, or it is taken back"
              + " already.")
  @PostMapping("/receipts/{id}/reversal")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void reverse(@PathVariable long id, @RequestBody Reversal reversal) {
    reversals.reverse(id, reversal.reason(), who());
  }

  @Operation(
      summary = "Send goods from one of our nodes to another",
      description = "They leave at once and are expected there, under the number that is given.")
  @PostMapping("/transfers")
  Transfers.Sent transfer(@RequestBody Transfers.Wish wish) {
    return transfers.send(wish, who());
  }

  @Operation(summary = "Where a lot is, which orders hold some of it, and which got it")
  @GetMapping("/lots/{id}")
  Trace trace(@PathVariable long id) {
    return recall.trace(id);
  }

  @Operation(summary = "The orders that got a lot, with how to reach their buyers, as CSV")
  @GetMapping(path = "/lots/{id}/orders.csv", produces = "text/csv")
  ResponseEntity<String> orders(@PathVariable long id) {
    return ResponseEntity.ok()
        .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"lot-orders.csv\"")
        .contentType(MediaType.parseMediaType("text/csv;charset=UTF-8"))
        .body(recall.csv(id));
  }

  @Operation(
      summary = "Take a lot off sale",
      description =
          "What is there goes to quarantine; orders that hold some of it are routed again.")
  @PostMapping("/lots/{id}/recall")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void recall(@PathVariable long id, @RequestBody Recall request) {
    recall.recall(id, request.note(), who());
  }

  private static String who() {
    return Person.current().displayName();
  }
}
