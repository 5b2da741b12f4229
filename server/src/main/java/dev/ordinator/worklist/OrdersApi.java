package dev.ordinator.worklist;

import dev.ordinator.access.Person;
import dev.ordinator.cancelling.Cancellations;
import dev.ordinator.cancelling.ProposedReturns;
import dev.ordinator.core.orders.Address;
import dev.ordinator.core.orders.Stage;
import dev.ordinator.dispatch.Outbox;
import dev.ordinator.dispatch.OutboxPosts;
import dev.ordinator.dispatch.Tracking;
import dev.ordinator.intake.Amendments;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.PaymentsByHand;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Slice;
import dev.ordinator.platform.Texts;
import dev.ordinator.worklist.OrderFilter.Pile;
import dev.ordinator.worklist.Worklist.Sort;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.StreamingResponseBody;

@RestController
@RequestMapping("/api/orders")
@Tag(name = "Orders")
class OrdersApi {
  private static final int LARGEST_PAGE = 500;
  private static final int LARGEST_BULK = 1_000;

  private final Worklist worklist;
  private final OrderSheets sheets;
  private final OrdersCsv csv;
  private final Orders orders;
  private final Amendments amendments;
  private final Cancellations cancellations;
  private final PaymentsByHand payments;
  private final ProposedReturns proposedReturns;
  private final Tracking tracking;
  private final OutboxPosts posts;
  private final Outbox outbox;

  OrdersApi(
      Worklist worklist,
      OrderSheets sheets,
      OrdersCsv csv,
      Orders orders,
      Amendments amendments,
      Cancellations cancellations,
      PaymentsByHand payments,
      ProposedReturns proposedReturns,
      Tracking tracking,
      OutboxPosts posts,
      Outbox outbox) {
    this.worklist = worklist;
    this.sheets = sheets;
    this.csv = csv;
    this.orders = orders;
    this.amendments = amendments;
    this.cancellations = cancellations;
    this.payments = payments;
    this.proposedReturns = proposedReturns;
    this.tracking = tracking;
    this.posts = posts;
    this.outbox = outbox;
  }

  /** The filter as it stands in an address; see {@link OrderFilter}. */
  record FilterParams(
      @Nullable Pile pile,
      @Nullable Stage stage,
      @Nullable LocalDate since,
      @Nullable String channel,
      @Nullable String country,
      @Nullable String node,
      @Nullable String buyer,
      @Nullable Long snag,
      @Nullable Long minValue,
      @Nullable String assigned,
      @Nullable String list) {
    OrderFilter filter() {
      return new OrderFilter(
          pile == null ? Pile.OPEN : pile,
          stage,
          since,
          channel,
          country,
          node,
          buyer,
          snag,
          minValue,
          assigned,
          list);
    }
  }

  record Count(int orders) {}

  record Reason(String reason) {}

  record Note(String text) {}

  /** What a bulk action can do. */
  enum BulkAction {
    APPROVE,
    HOLD,
    RELEASE_HOLD,
    CANCEL
  }

  record Bulk(BulkAction action, List<Long> orders, @Nullable String reason) {}

  record Refusal(long order, String why) {}

  record BulkResult(int done, List<Refusal> refused) {}

  @Operation(summary = "A worklist of orders, by keyset")
  @GetMapping
  Slice<Worklist.Row> page(
      @ParameterObject FilterParams filter,
      @RequestParam(defaultValue = "NEWEST") Sort sort,
      @RequestParam(required = false) @Nullable String after,
      @RequestParam(defaultValue = "100") int limit) {
    return worklist.page(filter.filter(), sort, after, Math.clamp(limit, 1, LARGEST_PAGE));
  }

  @Operation(summary = "How many orders a worklist shows; counting stops at 10,000")
  @GetMapping("/count")
  Count count(@ParameterObject FilterParams filter) {
    return new Count(worklist.count(filter.filter()));
  }

  @Operation(summary = "How many orders are in each ready-made pile; counting stops at 10,000")
  @GetMapping("/piles")
  Map<Pile, Integer> piles() {
    return worklist.pileCounts();
  }

  @Operation(summary = "A worklist as CSV (RFC 4180)")
  @GetMapping(path = "/csv", produces = "text/csv")
  ResponseEntity<StreamingResponseBody> csv(
      @ParameterObject FilterParams filter, @RequestParam(defaultValue = "NEWEST") Sort sort) {
    OrderFilter which = filter.filter();
    StreamingResponseBody body = out -> csv.write(which, sort, out);
    return ResponseEntity.ok()
        .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"orders.csv\"")
        .header(HttpHeaders.CONTENT_TYPE, "text/csv;charset=" + StandardCharsets.UTF_8)
        .body(body);
  }

  @Operation(summary = "One order in depth")
  @GetMapping("/{id}")
  OrderSheets.Sheet order(@PathVariable long id) {
    return sheets.sheet(id);
  }

  @Operation(summary = "Approve an order by hand")
  @PostMapping("/{id}/approve")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void approve(@PathVariable long id) {
    orders.approve(id, who());
  }

  @Operation(summary = "Hold an order with a reason")
  @PostMapping("/{id}/hold")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void hold(@PathVariable long id, @RequestBody Reason reason) {
    orders.hold(id, reason.reason(), who());
  }

  @Operation(summary = "Release an order’s holds; it goes on by itself")
  @PostMapping("/{id}/release-hold")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void releaseHold(@PathVariable long id) {
    orders.releaseHold(id, who());
  }

  @Operation(summary = "Add a note to an order’s timeline")
  @PostMapping("/{id}/notes")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void note(@PathVariable long id, @RequestBody Note note) {
    orders.note(id, note.text(), who());
  }

  @Operation(
      summary = "Correct where an order goes, until it is routed",
      description =
          "If-Match: the order’s shipToTag; 412 if the address was changed since it was read.")
  @PutMapping("/{id}/address")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void correctAddress(
      @PathVariable long id,
      @RequestHeader(name = HttpHeaders.IF_MATCH, required = false) @Nullable String seen,
      @RequestBody Address address) {
    orders.correctAddress(id, address, seen, who());
    orders.wake(List.of(id));
  }

  @Operation(summary = "Keep an order as it was taken in, though the channel changed it")
  @PostMapping("/{id}/keep-ours")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void keepOurs(@PathVariable long id) {
    amendments.keepOurs(id, who());
  }

  @Operation(summary = "Cancel an order that has not left; its channel is told")
  @PostMapping("/{id}/cancel")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void cancel(@PathVariable long id, @RequestBody Reason reason) {
    cancellations.byPerson(id, reason.reason(), who());
    outbox.nudge();
  }

  /**
   * @param units as the channel counts them, by line id
   */
  record UnitsCancelled(Map<Long, Long> units, String reason) {}

  @Operation(
      summary = "Cancel some units that nobody has begun to pack; the channel is told",
      description = "What is with a node is taken back, and the rest of the order routed again.")
  @PostMapping("/{id}/cancel-units")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void cancelUnits(@PathVariable long id, @RequestBody UnitsCancelled wish) {
    cancellations.unitsByPerson(id, wish.units(), wish.reason(), who());
    outbox.nudge();
  }

  @Operation(
      summary = "Note what came in for an order",
      description = "With the last of what it costs it is paid, and goes on.")
  @PostMapping("/{id}/payments")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void paid(@PathVariable long id, @RequestBody PaymentsByHand.Received received) {
    payments.record(id, received, who());
  }

  @Operation(summary = "Follow what the channel changed; what was released is taken back")
  @PostMapping("/{id}/take-theirs")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void takeTheirs(@PathVariable long id) {
    amendments.takeTheirs(id, who());
  }

  @Operation(
      summary = "Take an order that the channel cancelled back from its nodes, and cancel it")
  @PostMapping("/{id}/take-back")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void takeBack(@PathVariable long id) {
    cancellations.takeBack(id, who());
  }

  @Operation(summary = "Let an order go though the channel cancelled it")
  @PostMapping("/{id}/let-go")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void letGo(@PathVariable long id) {
    cancellations.letGo(id, who());
  }

  @Operation(summary = "Let be what has left though it is no longer wanted")
  @PostMapping("/{id}/let-be")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void letBe(@PathVariable long id) {
    proposedReturns.letBe(id, who());
  }

  @Operation(summary = "Settle by hand that a parcel is silent, damaged, lost or comes back")
  @PostMapping("/{id}/parcels/settle")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void settleParcels(@PathVariable long id) {
    tracking.settleTrouble(id, who());
  }

  @Operation(summary = "Try again to tell the channel or the buyer")
  @PostMapping("/messages/{message}/try-again")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void tryAgain(@PathVariable long message) {
    posts.tryAgain(message, who());
    outbox.nudge();
  }

  @Operation(summary = "Settle by hand what could not be told: nothing more is tried")
  @PostMapping("/messages/{message}/settle")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void settle(@PathVariable long message) {
    posts.settleByHand(message, who());
  }

  @Operation(summary = "Do one thing to many orders; what can’t be done is said for each")
  @PostMapping("/bulk")
  BulkResult bulk(@RequestBody Bulk bulk) {
    if (bulk.orders().size() > LARGEST_BULK) {
      throw Problem.invalid("orders", "at most " + LARGEST_BULK + " orders at once");
    }
    List<Refusal> refused = new ArrayList<>();
    for (Long id : bulk.orders()) {
      try {
        switch (bulk.action()) {
          case APPROVE -> orders.approve(id, who());
          case HOLD -> orders.hold(id, bulk.reason() == null ? "" : bulk.reason(), who());
          case RELEASE_HOLD -> orders.releaseHold(id, who());
          case CANCEL ->
              cancellations.byPerson(id, bulk.reason() == null ? "" : bulk.reason(), who());
        }
      } catch (Problem problem) {
        refused.add(new Refusal(id, Texts.of(problem)));
      }
    }
    return new BulkResult(bulk.orders().size() - refused.size(), refused);
  }

  private static String who() {
    return Person.current().displayName();
  }
}
