package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.EXPECTED_SUPPLY;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.LOT;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.RECEIPT;
import static dev.ordinator.schema.Tables.RECEIPT_LINE;
import static dev.ordinator.schema.Tables.STOCK_PLACE;

import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.schema.tables.records.ExpectedSupplyRecord;
import dev.ordinator.stock.Lots.Tracked;
import dev.ordinator.stock.StockLedger.Reason;
import dev.ordinator.stock.StockPlaces.Because;
import dev.ordinator.stock.StockPlaces.Spot;
import java.time.Clock;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.IntStream;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Deliveries that come: what was expected, what came of it, and where it was put. */
@Service
public class Receiving {
  private static final long MOST_UNITS = 1_000_000;
  private static final int MOST_DELIVERIES = 500;
  private static final int LONGEST_NOTE = 400;

  private final DSLContext db;
  private final StockLedger ledger;
  private final Lots lots;
  private final Transfers transfers;
  private final Expected expected;
  private final Events events;
  private final ApplicationEventPublisher publisher;
  private final Clock clock;

  Receiving(
      DSLContext db,
      StockLedger ledger,
      Lots lots,
      Transfers transfers,
      Expected expected,
      Events events,
      ApplicationEventPublisher publisher,
      Clock clock) {
    this.db = db;
    this.ledger = ledger;
    this.lots = lots;
    this.transfers = transfers;
    this.expected = expected;
    this.events = events;
    this.publisher = publisher;
    this.clock = clock;
  }

  /**
   * Something expected with a delivery.
   *
   * @param lot known if one of our nodes sent it
   */
  record Awaited(
      long expectedId,
      long itemId,
      String sku,
      @Nullable String gtin,
      String name,
      Tracked tracked,
      LocalDate due,
      long quantity,
      @Nullable String lot,
      @Nullable LocalDate expires) {}

  /** What is expected under one number at one node. */
  record Delivery(
      String supplier,
      String number,
      long nodeId,
      String node,
      LocalDate due,
      List<Awaited> lines) {}

  /**
   * Units that came together.
   *
   * @param bin empty: not said
   * @param lot empty if the item's lots are not tracked
   * @param expires for items that are tracked with it
   */
  public record Part(
      long units, String bin, String lot, @Nullable LocalDate expires, Condition state) {}

  /**
   * @param expectedId the supply that it is of; null: nobody expected it
   */
  public record Line(long itemId, @Nullable Long expectedId, List<Part> parts) {}

  /**
   * @param restComes whether what is short is still to come; otherwise it is expected no more
   */
  public record Wish(
      long nodeId,
      String supplier,
      String number,
      String note,
      boolean restComes,
      List<Line> lines) {}

  /** What came of a line, in units; {@code damaged} ones are among those that came. */
  public record Outcome(String sku, long expected, long came, long damaged) {}

  public record Receipt(long id, List<Outcome> lines) {}

  /** Deliveries that are expected, soonest first. */
  List<Delivery> deliveries() {
    record Key(String supplier, String number, long nodeId, String node) {}
    Map<Key, List<Awaited>> byDelivery = new LinkedHashMap<>();
    db.select(
            EXPECTED_SUPPLY.SUPPLIER,
            EXPECTED_SUPPLY.NUMBER,
            NODE.ID,
            NODE.NAME,
            EXPECTED_SUPPLY.DUE,
            EXPECTED_SUPPLY.ID,
            ITEM.ID,
            ITEM.SKU,
            ITEM.GTIN,
            ITEM.NAME,
            ITEM.TRACKED,
            EXPECTED_SUPPLY.QUANTITY,
            LOT.CODE,
            LOT.EXPIRES)
        .from(EXPECTED_SUPPLY)
        .leftJoin(LOT)
        .on(LOT.ID.eq(EXPECTED_SUPPLY.LOT_ID))
        .join(NODE)
        .on(NODE.ID.eq(EXPECTED_SUPPLY.NODE_ID))
        .join(ITEM)
        .on(ITEM.ID.eq(EXPECTED_SUPPLY.ITEM_ID))
        .where(EXPECTED_SUPPLY.OPEN.isTrue())
        .orderBy(EXPECTED_SUPPLY.DUE, EXPECTED_SUPPLY.NUMBER, ITEM.SKU, EXPECTED_SUPPLY.ID)
        .forEach(r -> {
          Key key = new Key(r.value1(), r.value2(), r.value3(), r.value4());
          byDelivery
              .computeIfAbsent(key, k -> new ArrayList<>())
              .add(
                  new Awaited(
                      r.value6(),
                      r.value7(),
                      r.value8(),
                      r.value9(),
                      r.value10(),
                      Tracked.valueOf(r.value11()),
                      r.value5(),
                      r.value12(),
                      r.value13(),
                      r.value14()));
        });
    return byDelivery.entrySet().stream()
        .limit(MOST_DELIVERIES)
        .map(d ->
            new Delivery(
                d.getKey().supplier(),
                d.getKey().number(),
                d.getKey().nodeId(),
                d.getKey().node(),
                d.getValue().getFirst().due(),
                d.getValue()))
        .toList();
  }

  /**
   * Takes a delivery in, all of it or nothing.
   *
   * @throws Problem naming the line that is not right
   */
  @Transactional
  public Receipt receive(Wish wish, String actor) {
    check(wish);
    long receipt =
        db.insertInto(RECEIPT)
            .set(RECEIPT.NODE_ID, wish.nodeId())
            .set(RECEIPT.SUPPLIER, wish.supplier().strip())
            .set(RECEIPT.NUMBER, wish.number().strip())
            .set(RECEIPT.NOTE, wish.note())
            .set(RECEIPT.ACTOR, actor)
            .set(RECEIPT.AT, clock.instant())
            .returningResult(RECEIPT.ID)
            .fetchSingle()
            .value1();
    Outcome[] outcomes = new Outcome[wish.lines().size()];
    // levels are changed in the order of the items, as everywhere
    IntStream.range(0, wish.lines().size())
        .boxed()
        .sorted(Comparator.comparingLong((Integer i) -> wish.lines().get(i).itemId()))
        .forEach(i -> outcomes[i] = line(wish, i, receipt, actor));
    long units = 0;
    for (Outcome outcome : outcomes) {
      units += outcome.came();
    }
    String from = (wish.supplier().strip() + " " + wish.number().strip()).strip();
    events.record(
        EventKind.STOCK_CHANGED,
        null,
        null,
        actor,
        "%d units came from %s".formatted(units, from),
        wish.note());
    return new Receipt(receipt, List.of(outcomes));
  }

  /**
   * Takes in units of one expected supply, put wherever there is room; the rest is still to come.
   */
  @Transactional
  Receipt receive(long expectedId, long units, String actor) {
    return db.selectFrom(EXPECTED_SUPPLY)
        .where(EXPECTED_SUPPLY.ID.eq(expectedId))
        .and(EXPECTED_SUPPLY.OPEN.isTrue())
        .fetchOptional()
        .map(e ->
            receive(
                new Wish(
                    e.getNodeId(),
                    e.getSupplier(),
                    e.getNumber(),
                    "",
                    true,
                    List.of(
                        new Line(
                            e.getItemId(),
                            expectedId,
                            List.of(new Part(units, "", "", null, Condition.SELLABLE))))),
                actor))
        .orElseThrow(() -> Problem.conflict("that supply has come, or will not come"));
  }

  private Outcome line(Wish wish, int i, long receipt, String actor) {
    Line line = wish.lines().get(i);
    String place = "lines[%d]".formatted(i);
    var item =
        db.select(ITEM.SKU)
            .from(ITEM)
            .where(ITEM.ID.eq(line.itemId()))
            .fetchOptional()
            .orElseThrow(() -> Problem.invalid(place + ".itemId", "there is no such item"));
    long came = line.parts().stream().mapToLong(Part::units).sum();
    long damaged =
        line.parts().stream()
            .filter(p -> p.state() == Condition.DAMAGED)
            .mapToLong(Part::units)
            .sum();
    Settled settled =
        line.expectedId() == null
            ? new Settled(0, 0)
            : close(wish, line, came, place + ".expectedId", receipt, actor);
    if (line.expectedId() != null) {
      publisher.publishEvent(new SupplyMoved(line.itemId()));
    }
    Tracked tracked = lots.tracking(line.itemId()).by();
    String from = (wish.supplier().strip() + " " + wish.number().strip()).strip();
    for (int p = 0; p < line.parts().size(); p++) {
      Part part = line.parts().get(p);
      ledger.put(
          new Spot(
              line.itemId(),
              wish.nodeId(),
              part.bin().strip(),
              lot(line.itemId(), tracked, part, "%s.parts[%d].lot".formatted(place, p)),
              part.state()),
          part.units(),
          Because.came(
              isTransfer(line) ? Reason.TRANSFER_IN : Reason.RECEIPT, receipt, actor, from));
    }
    if (line.parts().stream().anyMatch(p -> p.state() == Condition.SELLABLE)) {
      publisher.publishEvent(new StockGrew(line.itemId(), actor));
    }
    db.insertInto(RECEIPT_LINE)
        .set(RECEIPT_LINE.RECEIPT_ID, receipt)
        .set(RECEIPT_LINE.LINE, i)
        .set(RECEIPT_LINE.ITEM_ID, line.itemId())
        .set(RECEIPT_LINE.EXPECTED_SUPPLY_ID, line.expectedId())
        .set(RECEIPT_LINE.EXPECTED, settled.awaited())
        .set(RECEIPT_LINE.SETTLED, settled.units())
        .set(RECEIPT_LINE.CAME, came)
        .set(RECEIPT_LINE.DAMAGED, damaged)
        .execute();
    return new Outcome(item.value1(), settled.awaited(), came, damaged);
  }

  private boolean isTransfer(Line line) {
    return line.expectedId() != null
        && db.fetchExists(
            EXPECTED_SUPPLY,
            EXPECTED_SUPPLY.ID.eq(line.expectedId()).and(EXPECTED_SUPPLY.FROM_NODE.isNotNull()));
  }

  /**
   * @param awaited units that were expected
   * @param units of them that are expected no more, as they came or will not
   */
  private record Settled(long awaited, long units) {}

  /** The supply is closed with the last of it, or if no more comes. */
  private Settled close(Wish wish, Line line, long came, String field, long receipt, String actor) {
    ExpectedSupplyRecord open =
        db.selectFrom(EXPECTED_SUPPLY)
            .where(EXPECTED_SUPPLY.ID.eq(line.expectedId()))
            .and(EXPECTED_SUPPLY.ITEM_ID.eq(line.itemId()))
            .and(EXPECTED_SUPPLY.OPEN.isTrue())
            .forUpdate()
            .fetchOptional()
            .orElseThrow(() -> Problem.invalid(field, "it has come already, or will not come"));
    boolean restComes = wish.restComes();
    long left = Math.max(0, open.getQuantity() - came);
    if (open.getFromNode() != null) {
      fromUnderWay(wish, open, came, field, receipt, actor);
    }
    db.update(EXPECTED_SUPPLY)
        .set(EXPECTED_SUPPLY.QUANTITY, left)
        .set(EXPECTED_SUPPLY.OPEN, restComes && left > 0)
        .where(EXPECTED_SUPPLY.ID.eq(line.expectedId()))
        .execute();
    long awaited = open.getQuantity();
    return new Settled(awaited, restComes ? awaited - left : awaited);
  }

  /**
   * What another node of ours sent is under way no more; what is short of it and not to come is
   * lost.
   */
  private void fromUnderWay(
      Wish wish, ExpectedSupplyRecord open, long came, String field, long receipt, String actor) {
    require(
        open.getNodeId() == wish.nodeId(), field, "it was sent to another node: take it in there");
    require(
        came <= open.getQuantity(),
        field,
        "only %d of it are under way; enter what came beside it as a line of its own"
            .formatted(open.getQuantity()));
    transfers.arrive(
        open, came, Because.came(Reason.TRANSFER_IN, receipt, actor, open.getNumber()));
    if (!wish.restComes()) {
      String why = "%s: short on its receipt; %s".formatted(open.getNumber(), wish.note());
      transfers.lose(
          open, open.getQuantity() - came, Because.came(Reason.TRANSFER_LOST, receipt, actor, why));
    }
  }

  private @Nullable Long lot(long itemId, Tracked tracked, Part part, String field) {
    if (tracked == Tracked.NOTHING) {
      return null;
    }
    if (part.lot().isBlank()) {
      throw Problem.invalid(field, "say which lot it is of");
    }
    if (tracked == Tracked.SERIAL) {
      requireNew(itemId, part, field);
    }
    if (tracked == Tracked.EXPIRY && part.expires() == null && !isKnown(itemId, part.lot())) {
      throw Problem.invalid(field, "say until when lot %s may be used".formatted(part.lot()));
    }
    long lot = lots.of(itemId, part.lot(), part.expires(), expected.today(), field);
    boolean recalled = db.fetchExists(LOT, LOT.ID.eq(lot).and(LOT.RECALLED_AT.isNotNull()));
    if (recalled && part.state() == Condition.SELLABLE) {
      throw Problem.invalid(
          field, "lot %s is recalled: it can only go to quarantine".formatted(part.lot()));
    }
    return lot;
  }

  /** Each number is one unit, and is in one place. */
  private void requireNew(long itemId, Part part, String field) {
    require(part.units() == 1, field, "each unit has a number of its own");
    boolean isHere =
        db.fetchExists(
            db.selectOne()
                .from(STOCK_PLACE)
                .join(LOT)
                .on(LOT.ID.eq(STOCK_PLACE.LOT_ID))
                .where(LOT.ITEM_ID.eq(itemId))
                .and(LOT.CODE.eq(part.lot().strip()))
                .and(STOCK_PLACE.ON_HAND.gt(0L)));
    require(!isHere, field, "number %s is here already".formatted(part.lot()));
  }

  private boolean isKnown(long itemId, String lot) {
    return db.fetchExists(LOT, LOT.ITEM_ID.eq(itemId).and(LOT.CODE.eq(lot.strip())));
  }

  private void check(Wish wish) {
    if (!db.fetchExists(NODE, NODE.ID.eq(wish.nodeId()))) {
      throw Problem.invalid("nodeId", "there is no such node");
    }
    require(
        !wish.supplier().isBlank() && wish.supplier().length() <= 80,
        "supplier",
        "say in 1 to 80 characters who sent it");
    require(wish.number().length() <= 40, "number", "at most 40 characters");
    require(wish.note().length() <= LONGEST_NOTE, "note", "at most 400 characters");
    require(!wish.lines().isEmpty(), "lines", "nothing came");
    for (int i = 0; i < wish.lines().size(); i++) {
      List<Part> parts = wish.lines().get(i).parts();
      for (int p = 0; p < parts.size(); p++) {
        String place = "lines[%d].parts[%d]".formatted(i, p);
        Part part = parts.get(p);
        require(
            part.units() >= 1 && part.units() <= MOST_UNITS,
            place + ".units",
            "1 to 1,000,000 units");
        checkBin(part.bin().strip(), place + ".bin");
      }
    }
  }

  static void checkBin(String bin, String field) {
    require(
        bin.matches("|[A-Za-z0-9][A-Za-z0-9.-]{0,19}"),
        field,
        "letters, digits, points and dashes, at most 20");
  }

  private static void require(boolean holds, String field, String otherwise) {
    if (!holds) {
      throw Problem.invalid(field, otherwise);
    }
  }
}
