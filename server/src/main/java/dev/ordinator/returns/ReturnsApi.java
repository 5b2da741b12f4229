package dev.ordinator.returns;

import dev.ordinator.access.Person;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.Slice;
import dev.ordinator.returns.ReturnStore.Arrival;
import dev.ordinator.returns.ReturnStore.Line;
import dev.ordinator.returns.ReturnStore.Pile;
import dev.ordinator.returns.ReturnStore.Sent;
import dev.ordinator.returns.ReturnStore.Sort;
import dev.ordinator.returns.Returns.Part;
import dev.ordinator.returns.Returns.Wish;
import dev.ordinator.stock.CameBack;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.io.IOException;
import java.io.StringWriter;
import java.math.BigDecimal;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@Tag(name = "Returns")
class ReturnsApi {
  private static final int PAGE = 200;
  private static final int MOST_IN_FILE = 100_000;

  private final Returns returns;
  private final ReturnStore store;
  private final Orders orders;
  private final CameBack cameBack;

  ReturnsApi(Returns returns, ReturnStore store, Orders orders, CameBack cameBack) {
    this.returns = returns;
    this.store = store;
    this.orders = orders;
    this.cameBack = cameBack;
  }

  /** How many returns there are of each pile, and some of one of them. */
  record ReturnList(Map<Pile, Integer> counts, Slice<ReturnCard> part) {}

  /**
   * @param lots codes of which it was sent; empty if they are not tracked
   */
  record SentLine(
      long id,
      String consignment,
      String sku,
      String item,
      boolean tracked,
      Set<String> lots,
      long units,
      long left) {}

  /**
   * What of an order can come back.
   *
   * @param node id of the node to which it goes, unless somebody says otherwise; 0: nothing can
   */
  record Returnable(String number, long node, List<SentLine> lines) {}

  record ReturnLine(long id, SentLine sent, long units, long came) {}

  /**
   * @param atSupplier whether it goes to a supplier's node, where nothing of it is sold again
   * @param whole units that came back whole by the order's lines, as the channel counts them
   */
  record ReturnSheet(
      ReturnCard card,
      boolean atSupplier,
      List<ReturnLine> lines,
      List<Arrival> arrivals,
      Map<Long, Long> whole) {}

  /**
   * @param restComes whether what is short is still to come
   */
  record Came(List<Part> parts, boolean restComes) {}

  record Closing(String why) {}

  @Operation(summary = "Returns, by when they were opened")
  @GetMapping("/api/returns")
  ReturnList list(
      @RequestParam(defaultValue = "ALL") Pile pile,
      @RequestParam(defaultValue = "") String search,
      @RequestParam(defaultValue = "NEWEST") Sort sort,
      @RequestParam(required = false) @Nullable Long after) {
    Map<Pile, Integer> counts = new EnumMap<>(Pile.class);
    for (Pile each : Pile.values()) {
      counts.put(each, store.count(each));
    }
    return new ReturnList(
        counts,
        Slice.of(
            store.list(pile, search, sort, after, PAGE + 1),
            PAGE,
            card -> Long.toString(card.id())));
  }

  @Operation(summary = "Returns as CSV, by when they were opened")
  @GetMapping(value = "/api/returns.csv", produces = "text/csv")
  ResponseEntity<String> csv(
      @RequestParam(defaultValue = "ALL") Pile pile,
      @RequestParam(defaultValue = "") String search,
      @RequestParam(defaultValue = "NEWEST") Sort sort)
      throws IOException {
    StringWriter text = new StringWriter();
    try (CSVPrinter csv = new CSVPrinter(text, CSVFormat.EXCEL)) {
      csv.printRecord(
          "return",
          "order",
          "buyer",
          "channel",
          "node",
          "reason",
          "state",
          "units",
          "came",
          "opened at",
          "refund",
          "currency");
      for (ReturnCard r : store.list(pile, search, sort, null, MOST_IN_FILE)) {
        csv.printRecord(
            r.number(),
            r.orderNumber(),
            r.buyer(),
            r.channel(),
            r.node(),
            r.reason(),
            r.stage(),
            r.units(),
            r.came(),
            r.openedAt(),
            BigDecimal.valueOf(r.refunded(), 2),
            r.currency());
      }
    }
    return ResponseEntity.ok()
        .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"returns.csv\"")
        .body(text.toString());
  }

  @Operation(summary = "A return, with what came and what is most likely owed")
  @GetMapping("/api/returns/{id}")
  ReturnSheet sheet(@PathVariable long id) {
    ReturnCard card = returns.card(id);
    List<Line> lines = store.lines(id);
    return new ReturnSheet(
        card,
        returns.isSuppliers(card),
        lines.stream()
            .map(l -> new ReturnLine(l.id(), sentLine(l.sent()), l.units(), l.came()))
            .toList(),
        store.arrivals(id),
        returns.whole(lines, card.orderId()));
  }

  @Operation(summary = "What of an order was sent and can come back")
  @GetMapping("/api/orders/{order}/returnable")
  Returnable returnable(@PathVariable long order) {
    List<Sent> sent = store.sent(order);
    return new Returnable(
        orders.head(order).number(),
        sent.isEmpty() ? 0 : store.comesBackTo(sent.getFirst().nodeId()),
        sent.stream().map(this::sentLine).toList());
  }

  @Operation(summary = "Returns of an order")
  @GetMapping("/api/orders/{order}/returns")
  List<ReturnCard> ofOrder(@PathVariable long order) {
    return store.ofOrder(order);
  }

  @Operation(summary = "Open a return for units that were sent")
  @PostMapping("/api/orders/{order}/returns")
  @ResponseStatus(HttpStatus.CREATED)
  ReturnCard open(@PathVariable long order, @RequestBody Wish wish) {
    return returns.card(returns.open(order, wish, who()));
  }

  @Operation(summary = "Say what came, and what becomes of it")
  @PostMapping("/api/returns/{id}/arrival")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void arrived(@PathVariable long id, @RequestBody Came came) {
    returns.arrive(id, came.parts(), came.restComes(), who());
  }

  @Operation(summary = "The buyer keeps it")
  @PostMapping("/api/returns/{id}/call-off")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void callOff(@PathVariable long id) {
    returns.callOff(id, who());
  }

  @Operation(summary = "Close a return for which nothing is paid back")
  @PostMapping("/api/returns/{id}/close")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void close(@PathVariable long id, @RequestBody Closing closing) {
    returns.close(id, closing.why(), who());
  }

  @Operation(summary = "Open a return again that was called off, or closed without a refund")
  @PostMapping("/api/returns/{id}/reopen")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void reopen(@PathVariable long id) {
    returns.reopen(id, who());
  }

  private SentLine sentLine(Sent sent) {
    return new SentLine(
        sent.id(),
        sent.consignment(),
        sent.sku(),
        sent.item(),
        sent.tracked(),
        sent.tracked() ? cameBack.lotsSent(sent.consignmentId(), sent.itemId()).keySet() : Set.of(),
        sent.units(),
        sent.left());
  }

  private static String who() {
    return Person.current().displayName();
  }
}
