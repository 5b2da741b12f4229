package dev.ordinator.worklist;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.ORDER_HOLD;
import static dev.ordinator.schema.Tables.RMA;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.schema.Tables.SNAG;
import static dev.ordinator.schema.Tables.SNAG_ORDER;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.row;

import dev.ordinator.core.dispatch.ConsignmentState;
import dev.ordinator.core.network.NodeKind;
import dev.ordinator.core.orders.PaymentState;
import dev.ordinator.core.orders.Stage;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Step;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Slice;
import dev.ordinator.worklist.OrderFilter.Pile;
import java.time.Clock;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.SortField;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/**
 * Lists of orders, read by keyset, so that the first page costs the same however many there are.
 */
@Component
class Worklist {
  private static final int COUNT_UP_TO = 10_000;
  private static final LocalDate NEVER = LocalDate.of(9999, 12, 31);

  private final DSLContext db;
  private final Clock clock;
  private final OrdinatorSettings settings;

  Worklist(DSLContext db, Clock clock, OrdinatorSettings settings) {
    this.db = db;
    this.clock = clock;
    this.settings = settings;
  }

  enum Sort {
    NEWEST,
    OLDEST,
    LEAVING,
    DEAREST
  }

  /** Something beside the stage that a person should see. */
  enum MarkKind {
    HELD,
    SNAG,
    WAITING,
    /** It is routed together with others, when its channel's time comes. */
    BATCH,
    UNPAID,
    LATE,
    PART_SHIPPED,
    RETURNING
  }

  record Mark(MarkKind kind, String text) {}

  /**
   * One branch of an order's track.
   *
   * @param stop 2 routed, 3 released, 4 packed, 5 shipped, 6 delivered
   * @param late its ship-by date has passed and it has not left, or its day of arrival and it has
   *     not arrived
   */
  record Branch(String node, long units, int stop, boolean late, String carrier) {}

  /**
   * @param shipBy the earliest of what has not left
   * @param promisedOn when it arrives, as the buyer was told; null: nothing was said
   * @param expectedOn when it arrives, as things stand; null: nobody can say
   */
  record Row(
      long id,
      String number,
      String externalId,
      String channel,
      String buyer,
      String country,
      String postcode,
      Stage stage,
      List<Branch> branches,
      @Nullable LocalDate shipBy,
      @Nullable LocalDate promisedOn,
      @Nullable LocalDate expectedOn,
      long units,
      long total,
      String currency,
      long baseTotal,
      Instant placedAt,
      List<Mark> marks) {}

  Slice<Row> page(OrderFilter filter, Sort sort, @Nullable String after, int limit) {
    Condition where = condition(filter).and(after(sort, after));
    List<Row> rows =
        rows(SALES_ORDER.ID.in(first(filter.pile(), where, order(sort), limit + 1)), order(sort));
    return Slice.of(rows, limit, r -> key(sort, r));
  }

  List<Row> byIds(Collection<Long> ids) {
    return rows(SALES_ORDER.ID.in(ids), order(Sort.NEWEST));
  }

  /** How many orders a filter shows; counting stops at 10,000. */
  int count(OrderFilter filter) {
    return count(condition(filter));
  }

  private Condition condition(OrderFilter filter) {
    return filter.condition(today(), settings.timeZone());
  }

  /**
   * Those in front, read from an index in its order. All open and done ones are two such lists, of
   * which one may be in front as a whole.
   */
  private List<Long> first(Pile pile, Condition where, List<SortField<?>> order, int limit) {
    List<Condition> parts =
        pile == Pile.ALL
            ? List.of(SALES_ORDER.OPEN.isTrue(), SALES_ORDER.OPEN.isFalse())
            : List.of(noCondition());
    List<Long> ids = new ArrayList<>();
    for (Condition part : parts) {
      ids.addAll(
          db.select(SALES_ORDER.ID)
              .from(SALES_ORDER)
              .where(part)
              .and(where)
              .orderBy(order)
              .limit(limit)
              .fetch(SALES_ORDER.ID));
    }
    return ids;
  }

  Map<Pile, Integer> pileCounts() {
    Map<Pile, Integer> counts = new EnumMap<>(Pile.class);
    for (Pile pile : Pile.values()) {
      counts.put(pile, count(OrderFilter.pile(pile, today())));
    }
    return counts;
  }

  LocalDate today() {
    return clock.instant().atZone(settings.timeZone()).toLocalDate();
  }

  private int count(Condition which) {
    return db.fetchCount(
        db.select(SALES_ORDER.ID).from(SALES_ORDER).where(which).limit(COUNT_UP_TO));
  }

  private List<Row> rows(Condition where, List<SortField<?>> order) {
    var found =
        db.select(
                SALES_ORDER.ID,
                SALES_ORDER.NUMBER,
                SALES_ORDER.EXTERNAL_ID,
                SALES_ORDER.CHANNEL_ID,
                SALES_ORDER.BUYER_NAME,
                SALES_ORDER.SHIP_COUNTRY,
                SALES_ORDER.SHIP_POSTCODE,
                SALES_ORDER.STAGE,
                SALES_ORDER.NEXT_STEP,
                SALES_ORDER.SHIP_BY,
                SALES_ORDER.PROMISED_ON,
                SALES_ORDER.EXPECTED_ON,
                SALES_ORDER.UNITS,
                SALES_ORDER.TOTAL,
                SALES_ORDER.CURRENCY,
                SALES_ORDER.BASE_TOTAL,
                SALES_ORDER.PLACED_AT,
                SALES_ORDER.PAYMENT_STATE,
                SALES_ORDER.HELD,
                SALES_ORDER.SNAGGED,
                SALES_ORDER.WAITING,
                SALES_ORDER.PART_SHIPPED)
            // no join: MariaDB would begin with the few channels, and sort all their orders
            .from(SALES_ORDER)
            .where(where)
            .orderBy(order)
            .fetch();
    List<Long> ids = found.getValues(SALES_ORDER.ID);
    Map<Long, List<Branch>> branches = branches(ids);
    Map<Long, List<Mark>> blocks = blocks(found);
    Set<Long> returning = returning(ids);
    Map<Long, String> channels =
        db.select(CHANNEL.ID, CHANNEL.NAME).from(CHANNEL).fetchMap(CHANNEL.ID, CHANNEL.NAME);
    return found.map(r ->
        toRow(
            r,
            channels.getOrDefault(r.get(SALES_ORDER.CHANNEL_ID), ""),
            branches.getOrDefault(r.get(SALES_ORDER.ID), List.of()),
            blocks.getOrDefault(r.get(SALES_ORDER.ID), List.of()),
            returning.contains(r.get(SALES_ORDER.ID))));
  }

  private Row toRow(
      Record r, String channel, List<Branch> branches, List<Mark> blocks, boolean returning) {
    List<Mark> marks = new ArrayList<>(blocks);
    Stage stage = Stage.valueOf(r.get(SALES_ORDER.STAGE));
    PaymentState payment = PaymentState.valueOf(r.get(SALES_ORDER.PAYMENT_STATE));
    if (Boolean.TRUE.equals(r.get(SALES_ORDER.WAITING))) {
      marks.add(new Mark(MarkKind.WAITING, "waiting for stock"));
    }
    if (Step.BATCH.name().equals(r.get(SALES_ORDER.NEXT_STEP))) {
      marks.add(new Mark(MarkKind.BATCH, "waits for its batch"));
    }
    if (stage == Stage.RECEIVED
        && (payment == PaymentState.UNPAID || payment == PaymentState.AUTHORISED)) {
      marks.add(new Mark(MarkKind.UNPAID, "payment awaited"));
    }
    if (branches.stream().anyMatch(Branch::late)) {
      marks.add(new Mark(MarkKind.LATE, "late"));
    }
    if (Boolean.TRUE.equals(r.get(SALES_ORDER.PART_SHIPPED))) {
      marks.add(new Mark(MarkKind.PART_SHIPPED, "part shipped"));
    }
    if (returning) {
      marks.add(new Mark(MarkKind.RETURNING, "being returned"));
    }
    return new Row(
        r.get(SALES_ORDER.ID),
        r.get(SALES_ORDER.NUMBER),
        r.get(SALES_ORDER.EXTERNAL_ID),
        channel,
        r.get(SALES_ORDER.BUYER_NAME),
        r.get(SALES_ORDER.SHIP_COUNTRY),
        r.get(SALES_ORDER.SHIP_POSTCODE),
        stage,
        branches,
        r.get(SALES_ORDER.SHIP_BY),
        r.get(SALES_ORDER.PROMISED_ON),
        r.get(SALES_ORDER.EXPECTED_ON),
        r.get(SALES_ORDER.UNITS),
        r.get(SALES_ORDER.TOTAL),
        r.get(SALES_ORDER.CURRENCY),
        r.get(SALES_ORDER.BASE_TOTAL),
        r.get(SALES_ORDER.PLACED_AT),
        marks);
  }

  /** Of which something is to come back, or came and is not settled. */
  private Set<Long> returning(List<Long> orderIds) {
    return db.select(RMA.ORDER_ID)
        .from(RMA)
        .where(RMA.ORDER_ID.in(orderIds))
        .and(RMA.STATE.in("AWAITED", "ARRIVED"))
        .fetchSet(RMA.ORDER_ID);
  }

  private Map<Long, List<Branch>> branches(List<Long> orderIds) {
    LocalDate today = today();
    Map<Long, List<Branch>> branches = new HashMap<>();
    db.select(
            CONSIGNMENT.ORDER_ID,
            NODE.NAME,
            CONSIGNMENT.UNITS,
            CONSIGNMENT.STATE,
            CONSIGNMENT.SHIP_BY,
            CONSIGNMENT.SERVICE,
            CONSIGNMENT.ARRIVAL_ON,
            NODE.KIND)
        .from(CONSIGNMENT)
        .join(NODE)
        .on(NODE.ID.eq(CONSIGNMENT.NODE_ID))
        .where(CONSIGNMENT.ORDER_ID.in(orderIds))
        .and(CONSIGNMENT.STATE.notIn("RECALLED", "REFUSED"))
        .orderBy(CONSIGNMENT.ID)
        .forEach(r -> {
          int stop = stop(ConsignmentState.valueOf(r.value4()));
          LocalDate until = stop < 5 ? r.value5() : r.value7();
          // of what a channel's depot sends nobody tells us that it has arrived
          boolean told = stop < 5 || !r.value8().equals(NodeKind.CHANNEL_DEPOT.name());
          boolean late = stop < 6 && told && until.isBefore(today);
          branches
              .computeIfAbsent(r.value1(), o -> new ArrayList<>())
              .add(new Branch(r.value2(), r.value3(), stop, late, r.value6()));
        });
    return branches;
  }

  private static int stop(ConsignmentState state) {
    return switch (state) {
      case PLANNED, RECALLED, REFUSED -> 2;
      case RELEASED -> 3;
      case PACKED -> 4;
      case HANDED_OVER, IN_TRANSIT -> 5;
      case DELIVERED -> 6;
    };
  }

  /** What holds and open snags say, for the orders that have any. */
  private Map<Long, List<Mark>> blocks(List<? extends Record> orders) {
    Map<Long, List<Mark>> marks = new HashMap<>();
    List<Long> held = with(orders, SALES_ORDER.HELD);
    if (!held.isEmpty()) {
      db.select(ORDER_HOLD.ORDER_ID, ORDER_HOLD.REASON)
          .from(ORDER_HOLD)
          .where(ORDER_HOLD.ORDER_ID.in(held))
          .and(ORDER_HOLD.RELEASED_AT.isNull())
          .orderBy(ORDER_HOLD.ID)
          .forEach(r ->
              marks
                  .computeIfAbsent(r.value1(), o -> new ArrayList<>())
                  .add(new Mark(MarkKind.HELD, r.value2())));
    }
    List<Long> snagged = with(orders, SALES_ORDER.SNAGGED);
    if (!snagged.isEmpty()) {
      db.select(SNAG_ORDER.ORDER_ID, SNAG.CAUSE)
          .from(SNAG_ORDER)
          .join(SNAG)
          .on(SNAG.ID.eq(SNAG_ORDER.SNAG_ID))
          .where(SNAG_ORDER.ORDER_ID.in(snagged))
          .and(SNAG.CLOSED_AT.isNull())
          .and(SNAG.CAUSE.ne(SnagCause.NO_STOCK.name()))
          .orderBy(SNAG.ID)
          .forEach(r ->
              marks
                  .computeIfAbsent(r.value1(), o -> new ArrayList<>())
                  .add(new Mark(MarkKind.SNAG, words(SnagCause.valueOf(r.value2())))));
    }
    return marks;
  }

  static String words(SnagCause cause) {
    return switch (cause) {
      case UNMATCHED_LISTING -> "unmatched listing";
      case UNKNOWN_SERVICE -> "unknown service";
      case BAD_ADDRESS -> "address incomplete";
      case CHOICE_OPEN -> "choice open";
      case NO_STOCK -> "nothing in stock";
      case NOT_TO_WAIT -> "short, may not wait";
      case NO_ROUTE -> "no way there";
      case NODES_FULL -> "nodes full";
      case UNREADABLE_ORDER -> "unreadable";
      case CHANGED_BY_CHANNEL -> "changed by channel";
      case CANCELLED_TOO_LATE -> "cancelled by channel";
      case SENT_UNWANTED -> "sent, not wanted";
      case NO_RATE -> "no exchange rate";
      case DEPOT_SHORT -> "depot count differs";
      case LEDGER_DIFFERS -> "ledger differs";
      case SUPPLY_OVERDUE -> "supply overdue";
      case UNKNOWN_CARRIER -> "carrier unknown there";
      case FEED_HELD -> "stock held by the guard";
      case NOT_TOLD -> "not told";
      case HOOK_FAILS -> "webhook fails";
      case STEP_FAILED -> "failed";
      case NOT_TRACKED -> "not tracked";
      case RULE_TOO_COSTLY -> "rule takes too long";
      case PARCEL_TROUBLE -> "parcel trouble";
      case TOTAL_DIFFERS -> "total differs";
      case ORDERED_TWICE -> "ordered twice?";
      case MONEY_TO_RETURN -> "cancelled, paid";
    };
  }

  private static List<Long> with(List<? extends Record> orders, Field<Boolean> flag) {
    return orders.stream()
        .filter(r -> Boolean.TRUE.equals(r.get(flag)))
        .map(r -> r.get(SALES_ORDER.ID))
        .collect(Collectors.toList());
  }

  private static List<SortField<?>> order(Sort sort) {
    return switch (sort) {
      case NEWEST -> List.of(SALES_ORDER.ID.desc());
      case OLDEST -> List.of(SALES_ORDER.ID.asc());
      case LEAVING -> List.of(SALES_ORDER.LEAVES_ON.asc(), SALES_ORDER.ID.asc());
      case DEAREST -> List.of(SALES_ORDER.BASE_TOTAL.desc(), SALES_ORDER.ID.desc());
    };
  }

  private static String key(Sort sort, Row last) {
    return switch (sort) {
      case NEWEST, OLDEST -> Long.toString(last.id());
      case LEAVING -> (last.shipBy() == null ? NEVER : last.shipBy()) + "_" + last.id();
      case DEAREST -> last.baseTotal() + "_" + last.id();
    };
  }

  private static Condition after(Sort sort, @Nullable String after) {
    if (after == null || after.isEmpty()) {
      return noCondition();
    }
    try {
      int cut = after.lastIndexOf('_');
      long id = Long.parseLong(after.substring(cut + 1));
      return switch (sort) {
        case NEWEST -> SALES_ORDER.ID.lt(id);
        case OLDEST -> SALES_ORDER.ID.gt(id);
        case LEAVING ->
            row(SALES_ORDER.LEAVES_ON, SALES_ORDER.ID)
                .gt(row(LocalDate.parse(after.substring(0, cut)), id));
        case DEAREST ->
            row(SALES_ORDER.BASE_TOTAL, SALES_ORDER.ID)
                .lt(row(Long.parseLong(after.substring(0, cut)), id));
      };
    } catch (IndexOutOfBoundsException | IllegalArgumentException | DateTimeException e) {
      throw Problem.invalid("after", "‘" + after + "’ is no place in this list");
    }
  }
}
