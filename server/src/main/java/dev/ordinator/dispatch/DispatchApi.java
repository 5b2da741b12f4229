package dev.ordinator.dispatch;

import static dev.ordinator.schema.Tables.PARCEL;

import dev.ordinator.access.Person;
import dev.ordinator.core.dispatch.PackCheck;
import dev.ordinator.dispatch.Consignments.Head;
import dev.ordinator.dispatch.DispatchBoard.Card;
import dev.ordinator.dispatch.DispatchBoard.Due;
import dev.ordinator.network.Nodes;
import dev.ordinator.orders.NewOrder.Wish;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.Personalisations;
import dev.ordinator.platform.Problem;
import dev.ordinator.stock.PickPlaces;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/dispatch")
@Tag(name = "Dispatch")
class DispatchApi {
  private final DSLContext db;
  private final DispatchBoard board;
  private final Consignments consignments;
  private final PackingBench bench;
  private final Refusals refusals;
  private final PickPlaces pickPlaces;
  private final Personalisations personalisations;
  private final Orders orders;
  private final Nodes nodes;

  DispatchApi(
      DSLContext db,
      DispatchBoard board,
      Consignments consignments,
      PackingBench bench,
      Refusals refusals,
      PickPlaces pickPlaces,
      Personalisations personalisations,
      Orders orders,
      Nodes nodes) {
    this.db = db;
    this.board = board;
    this.consignments = consignments;
    this.bench = bench;
    this.refusals = refusals;
    this.pickPlaces = pickPlaces;
    this.personalisations = personalisations;
    this.orders = orders;
    this.nodes = nodes;
  }

  /**
   * @param kit the kit of which it is a component; null: it was ordered by itself
   * @param bySerial whether each unit has a number of its own, which is scanned
   * @param wishes what is to be made of it
   * @param from the bins and lots from which it is taken, where they are known
   */
  record BenchLine(
      long id,
      String sku,
      @Nullable String gtin,
      String name,
      @Nullable String kit,
      long quantity,
      long packed,
      boolean bySerial,
      List<Wish> wishes,
      List<PickPlaces.From> from) {}

  record BenchParcel(long id, String tracking, String sscc) {}

  /** What the packing bench shows of a consignment. */
  record Bench(
      Card consignment,
      String shipTo,
      String instructions,
      String giftMessage,
      List<BenchLine> lines,
      List<BenchParcel> parcels) {}

  /**
   * @param of the SKU of the unit whose serial number the code is; null: the code is none
   */
  record ScanRequest(String code, @Nullable String of) {}

  /** What became of a scan. */
  enum ScanResult {
    COUNTED,
    WRONG_ITEM,
    WRONG_LOT,
    TOO_MANY,
    /** The item is right; its serial number is to be scanned next. */
    NEEDS_SERIAL
  }

  /**
   * @param message a sentence for the packer
   * @param serialOf the SKU of the unit whose serial number is to be scanned next; null: none
   */
  record ScanAnswer(ScanResult result, String message, @Nullable String serialOf, Bench bench) {}

  @Operation(summary = "What must leave, by node and day; overdue first")
  @GetMapping("/board")
  DispatchBoard.Board board() {
    return board.board(Person.current().onlyNode());
  }

  @Operation(summary = "Consignments that nodes have to pack or hand over, by ship-by date")
  @GetMapping("/consignments")
  List<Card> consignments(
      @RequestParam(required = false) @Nullable String node,
      @RequestParam(required = false) @Nullable Due due,
      @RequestParam(required = false) DispatchBoard.@Nullable Doing doing) {
    return board.consignments(Person.current().onlyNode(), node, due, doing);
  }

  @Operation(summary = "Find a consignment by its number, as scanned from a slip")
  @GetMapping("/find")
  Card find(@RequestParam String number) {
    return board.byNumber(Person.current().onlyNode(), number.strip());
  }

  @Operation(summary = "One consignment at the packing bench")
  @GetMapping("/consignments/{id}")
  Bench bench(@PathVariable long id) {
    Head head = visible(id);
    OrderHead order = orders.head(head.orderId());
    Map<Long, List<PickPlaces.From>> from = pickPlaces.of(id);
    Map<Long, List<Wish>> wishes = personalisations.ofOrder(head.orderId());
    var texts = board.texts(head.orderId());
    return new Bench(
        board.card(id),
        String.join(
            ", ",
            order.shipTo().name(),
            order.shipTo().street(),
            order.shipTo().postcode() + " " + order.shipTo().city(),
            order.shipTo().country()),
        texts.instructions(),
        texts.giftMessage(),
        consignments.lines(id).stream()
            .map(l ->
                new BenchLine(
                    l.id(),
                    l.sku(),
                    l.gtin(),
                    l.name(),
                    l.kit(),
                    l.quantity(),
                    l.packed(),
                    l.bySerial(),
                    wishes.getOrDefault(l.orderLineId(), List.of()),
                    from.getOrDefault(l.id(), List.of())))
            .toList(),
        db.select(PARCEL.ID, PARCEL.TRACKING, PARCEL.SSCC)
            .from(PARCEL)
            .where(PARCEL.CONSIGNMENT_ID.eq(id))
            .orderBy(PARCEL.ID)
            .fetch(r -> new BenchParcel(r.value1(), r.value2(), r.value3())));
  }

  @Operation(
      summary = "Scan one unit into the parcel, by SKU, GTIN, lot, serial number or GS1 barcode")
  @PostMapping("/consignments/{id}/scans")
  ScanAnswer scan(@PathVariable long id, @RequestBody ScanRequest request) {
    PackCheck.Scan scan = bench.scan(id, request.code(), request.of(), Person.current());
    Bench now = bench(id);
    return switch (scan) {
      case PackCheck.Scan.Counted(long line, PackCheck after) ->
          new ScanAnswer(ScanResult.COUNTED, counted(line, after), null, now);
      case PackCheck.Scan.WrongItem(String code) ->
          new ScanAnswer(
              ScanResult.WRONG_ITEM, "‘" + code + "’ does not belong in this parcel", null, now);
      case PackCheck.Scan.WrongLot(String sku, String lot, Set<String> wanted) ->
          new ScanAnswer(
              ScanResult.WRONG_LOT,
              "%s of lot %s: take it from lot %s".formatted(sku, lot, String.join(" or ", wanted)),
              null,
              now);
      case PackCheck.Scan.TooMany(String sku, long quantity) ->
          new ScanAnswer(
              ScanResult.TOO_MANY, "all " + quantity + " of " + sku + " are in already", null, now);
      case PackCheck.Scan.NeedsSerial(String sku) ->
          new ScanAnswer(ScanResult.NEEDS_SERIAL, sku + ": now scan its serial number", sku, now);
    };
  }

  @Operation(summary = "Take everything out again and start over")
  @PostMapping("/consignments/{id}/start-over")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void startOver(@PathVariable long id) {
    bench.startOver(id, Person.current());
  }

  /**
   * @param missing units of each consignment line that are not there, or are damaged
   */
  record RefusalRequest(Refusals.Reason reason, Map<Long, Long> missing, String note) {}

  @Operation(
      summary = "Say that the node can’t fill a consignment: its order is routed elsewhere",
      description = "Units that are missing or damaged leave the node’s stock with it.")
  @PostMapping("/consignments/{id}/refusal")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void refuse(@PathVariable long id, @RequestBody RefusalRequest request) {
    visible(id);
    refusals.refuse(
        id,
        new Refusals.Refusal(request.reason(), request.missing(), request.note()),
        Person.current().displayName());
  }

  @Operation(summary = "What was in the parcel of something that was taken back is out again")
  @PostMapping("/consignments/{id}/unpacked")
  Bench unpacked(@PathVariable long id) {
    bench.unpacked(id, Person.current());
    return bench(id);
  }

  record Reason(String reason) {}

  @Operation(
      summary = "What waited for its buyer goes back to stock",
      description = "Its order is held until a person says what becomes of it.")
  @PostMapping("/consignments/{id}/not-collected")
  Bench notCollected(@PathVariable long id, @RequestBody Reason reason) {
    bench.putBack(id, reason.reason(), Person.current());
    return bench(id);
  }

  @Operation(
      summary = "Close the parcel and get its label; asking again gives the same label",
      description = "What the buyer collects has no label: the buyer is told that it is ready.")
  @PostMapping("/consignments/{id}/label")
  Bench label(@PathVariable long id) {
    bench.close(id, Person.current());
    return bench(id);
  }

  @Operation(summary = "Hand the parcel over to its carrier, or its buyer; this can’t be undone")
  @PostMapping("/consignments/{id}/hand-over")
  Bench handOver(@PathVariable long id) {
    bench.handOver(id, Person.current());
    return bench(id);
  }

  @Operation(summary = "A parcel’s label, as PDF")
  @GetMapping(path = "/parcels/{id}/label.pdf", produces = MediaType.APPLICATION_PDF_VALUE)
  ResponseEntity<byte[]> labelPdf(@PathVariable long id) {
    var parcel =
        db.select(PARCEL.CONSIGNMENT_ID, PARCEL.LABEL)
            .from(PARCEL)
            .where(PARCEL.ID.eq(id))
            .fetchOptional()
            .orElseThrow(() -> Problem.notFound("parcel " + id));
    Head head = visible(parcel.value1());
    return pdf(head.number() + "-label.pdf", parcel.value2());
  }

  @Operation(summary = "A consignment’s packing slip, as PDF")
  @GetMapping(path = "/consignments/{id}/slip.pdf", produces = MediaType.APPLICATION_PDF_VALUE)
  ResponseEntity<byte[]> slipPdf(@PathVariable long id) {
    Head head = visible(id);
    return pdf(
        head.number() + "-slip.pdf",
        PackingSlip.pdf(
            orders.head(head.orderId()),
            head,
            nodes.byId(head.nodeId()),
            consignments.lines(id),
            personalisations.ofOrder(head.orderId()),
            board.texts(head.orderId()).giftMessage()));
  }

  private Head visible(long id) {
    Head head = consignments.byId(id);
    PackingBench.requireNode(head, Person.current());
    return head;
  }

  private static String counted(long line, PackCheck after) {
    if (after.complete()) {
      return "everything is in: close the parcel";
    }
    return after.lines().stream()
        .filter(l -> l.id() == line)
        .findFirst()
        .map(l -> l.sku() + ": " + l.packed() + " of " + l.quantity())
        .orElse("");
  }

  private static ResponseEntity<byte[]> pdf(String name, byte[] content) {
    return ResponseEntity.ok()
        .header(HttpHeaders.CONTENT_DISPOSITION, "inline; filename=\"" + name + "\"")
        .body(content);
  }
}
