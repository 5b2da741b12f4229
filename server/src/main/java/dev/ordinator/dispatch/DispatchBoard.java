package dev.ordinator.dispatch;

import static dev.ordinator.schema.Tables.CARRIER;
import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.CONSIGNMENT_LINE;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static java.util.Objects.requireNonNull;
import static java.util.Objects.requireNonNullElse;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.count;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.or;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.sum;
import static org.jooq.impl.DSL.val;

import dev.ordinator.core.dispatch.ConsignmentState;
import dev.ordinator.core.network.NodeKind;
import dev.ordinator.network.Closures;
import dev.ordinator.network.Nodes;
import dev.ordinator.network.Nodes.NodeCard;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Problem;
import java.math.BigDecimal;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalLong;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.SelectJoinStep;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** What leaves when: counts by node and day, and the consignments behind them. */
@Service
public class DispatchBoard {
  private static final int LONGEST_LIST = 500;

  private static final Field<BigDecimal> PACKED_UNITS =
      field(
              select(coalesce(sum(CONSIGNMENT_LINE.PACKED), val(BigDecimal.ZERO)))
                  .from(CONSIGNMENT_LINE)
                  .where(CONSIGNMENT_LINE.CONSIGNMENT_ID.eq(CONSIGNMENT.ID)))
          .as("packed_units");

  private final DSLContext db;
  private final Nodes nodes;
  private final OrdinatorSettings settings;
  private final Clock clock;

  DispatchBoard(DSLContext db, Nodes nodes, OrdinatorSettings settings, Clock clock) {
    this.db = db;
    this.settings = settings;
    this.nodes = nodes;
    this.clock = clock;
  }

  /** When something has to leave, seen from its node's day. */
  public enum Due {
    OVERDUE,
    TODAY,
    TOMORROW,
    LATER
  }

  /** What is to be done with a consignment. */
  public enum Doing {
    PACK,
    HAND_OVER,
    /** It was taken back when something of it was in a parcel already. */
    UNPACK,
    /** It is under way. */
    NOTHING,
    /** It is under way, and should have arrived. */
    ASK_CARRIER
  }

  /**
   * A node's line on the board.
   *
   * @param worksToday whether anything can leave today
   * @param cutOff local time; {@code minutesLeft} until then, negative when it has passed
   * @param room consignments per day; null: no limit
   * @param doneToday handed over today
   * @param toPack released, not packed; {@code toHandOver} packed, not handed over
   */
  public record NodeRow(
      String code,
      String name,
      boolean worksToday,
      LocalTime cutOff,
      long minutesLeft,
      @Nullable Integer room,
      long doneToday,
      long toPack,
      long toHandOver,
      Map<Due, Long> due) {}

  public record Board(List<NodeRow> nodes) {}

  /**
   * A consignment in a list.
   *
   * @param collected whether the buyer collects it at the node: it has no carrier
   * @param nodeClosed whether it is to leave on a day on which its node is closed
   */
  public record Card(
      long id,
      String number,
      long orderId,
      String orderNumber,
      String buyer,
      String country,
      String nodeCode,
      String nodeName,
      ConsignmentState state,
      String carrier,
      String service,
      LocalDate shipBy,
      Due due,
      LocalDate arrivalOn,
      long units,
      long packed,
      boolean collected,
      boolean toUnpack,
      boolean nodeClosed) {}

  public Board board(OptionalLong onlyNode) {
    Instant now = clock.instant();
    Map<String, Map<Due, Long>> due = new HashMap<>();
    Map<String, Map<ConsignmentState, Long>> states = new HashMap<>();
    Map<Long, NodeCard> byId = nodes.all().stream().collect(Collectors.toMap(NodeCard::id, n -> n));
    db.select(CONSIGNMENT.NODE_ID, CONSIGNMENT.STATE, CONSIGNMENT.SHIP_BY, count())
        .from(CONSIGNMENT)
        .where(CONSIGNMENT.NODE_ID.in(byId.keySet()))
        .and(CONSIGNMENT.STATE.in("RELEASED", "PACKED"))
        .groupBy(CONSIGNMENT.NODE_ID, CONSIGNMENT.STATE, CONSIGNMENT.SHIP_BY)
        .forEach(r -> {
          NodeCard node = requireNonNull(byId.get(r.value1()));
          LocalDate today = now.atZone(node.timeZone()).toLocalDate();
          long number = r.value4();
          due.computeIfAbsent(node.code(), n -> new EnumMap<>(Due.class))
              .merge(due(r.value3(), today), number, Long::sum);
          states
              .computeIfAbsent(node.code(), n -> new EnumMap<>(ConsignmentState.class))
              .merge(ConsignmentState.valueOf(r.value2()), number, Long::sum);
        });
    Set<String> open = nodes.openToday(now);
    return new Board(
        nodes.all().stream()
            .filter(n -> onlyNode.isEmpty() || onlyNode.getAsLong() == n.id())
            .map(n -> {
              ZonedDateTime local = now.atZone(n.timeZone());
              var inState = states.getOrDefault(n.code(), Map.of());
              return new NodeRow(
                  n.code(),
                  n.name(),
                  open.contains(n.code()),
                  n.cutOff(),
                  Duration.between(local.toLocalTime(), n.cutOff()).toMinutes(),
                  n.capacityPerDay(),
                  doneSince(n.id(), local.toLocalDate().atStartOfDay(n.timeZone()).toInstant()),
                  inState.getOrDefault(ConsignmentState.RELEASED, 0L),
                  inState.getOrDefault(ConsignmentState.PACKED, 0L),
                  due.getOrDefault(n.code(), Map.of()));
            })
            .toList());
  }

  List<Card> consignments(
      OptionalLong onlyNode, @Nullable String node, @Nullable Due due, @Nullable Doing doing) {
    Condition which = noCondition();
    if (node != null) {
      which = which.and(CONSIGNMENT.NODE_ID.eq(nodes.byCode(node).id()));
    }
    if (onlyNode.isPresent()) {
      which = which.and(CONSIGNMENT.NODE_ID.eq(onlyNode.getAsLong()));
    }
    if (due != null) {
      which = which.and(isDue(due));
    }
    // those in front of each state are read in the order of an index, and only they as a whole
    List<Long> inFront = new ArrayList<>();
    for (Condition part : parts(doing)) {
      inFront.addAll(
          db.select(CONSIGNMENT.ID)
              .from(CONSIGNMENT)
              .where(part)
              .and(which)
              .orderBy(CONSIGNMENT.SHIP_BY, CONSIGNMENT.ID)
              .limit(LONGEST_LIST)
              .fetch(CONSIGNMENT.ID));
    }
    return cards(onlyNode)
        .where(CONSIGNMENT.ID.in(inFront))
        .orderBy(CONSIGNMENT.SHIP_BY, CONSIGNMENT.ID)
        .limit(LONGEST_LIST)
        .fetch(this::card);
  }

  /** How many are under way that should have arrived. */
  public int late() {
    return parts(Doing.ASK_CARRIER).stream()
        .mapToInt(part -> db.fetchCount(CONSIGNMENT, part))
        .sum();
  }

  /**
   * @param doing null: all that has not left
   */
  private List<Condition> parts(@Nullable Doing doing) {
    LocalDate today = clock.instant().atZone(settings.timeZone()).toLocalDate();
    // of what a channel's depot sends by its own carriers nobody tells us that it has arrived
    Condition isOurs =
        CONSIGNMENT.NODE_ID.notIn(
            nodes.all().stream()
                .filter(n -> n.kind() == NodeKind.CHANNEL_DEPOT)
                .map(NodeCard::id)
                .toList());
    return switch (doing) {
      case null -> List.of(CONSIGNMENT.STATE.eq("RELEASED"), CONSIGNMENT.STATE.eq("PACKED"));
      case PACK -> List.of(CONSIGNMENT.STATE.eq("RELEASED"));
      case HAND_OVER -> List.of(CONSIGNMENT.STATE.eq("PACKED"));
      case UNPACK -> List.of(CONSIGNMENT.TO_UNPACK.isTrue());
      case NOTHING ->
          List.of(CONSIGNMENT.STATE.eq("HANDED_OVER"), CONSIGNMENT.STATE.eq("IN_TRANSIT"));
      case ASK_CARRIER ->
          parts(Doing.NOTHING).stream()
              .map(c -> c.and(CONSIGNMENT.ARRIVAL_ON.lt(today)).and(isOurs))
              .toList();
    };
  }

  /** Each node has a today of its own. */
  private Condition isDue(Due due) {
    return or(
        nodes.all().stream()
            .map(n -> {
              LocalDate today = clock.instant().atZone(n.timeZone()).toLocalDate();
              Condition days =
                  switch (due) {
                    case OVERDUE -> CONSIGNMENT.SHIP_BY.lt(today);
                    case TODAY -> CONSIGNMENT.SHIP_BY.eq(today);
                    case TOMORROW -> CONSIGNMENT.SHIP_BY.eq(today.plusDays(1));
                    case LATER -> CONSIGNMENT.SHIP_BY.gt(today.plusDays(1));
                  };
              return CONSIGNMENT.NODE_ID.eq(n.id()).and(days);
            })
            .toList());
  }

  Card byNumber(OptionalLong onlyNode, String number) {
    return cards(onlyNode)
        .where(CONSIGNMENT.NUMBER.eq(number))
        .fetchOptional(this::card)
        .orElseThrow(() -> Problem.notFound("consignment " + number));
  }

  Card card(long id) {
    return cards(OptionalLong.empty()).where(CONSIGNMENT.ID.eq(id)).fetchSingle(this::card);
  }

  /** What an order's buyer wrote to those who pack it, and to the receiver; empty: nothing. */
  record Texts(String instructions, String giftMessage) {}

  Texts texts(long orderId) {
    return db.select(SALES_ORDER.INSTRUCTIONS, SALES_ORDER.GIFT_MESSAGE)
        .from(SALES_ORDER)
        .where(SALES_ORDER.ID.eq(orderId))
        .fetchSingle(r -> new Texts(r.value1(), r.value2()));
  }

  private long doneSince(long nodeId, Instant since) {
    return db.fetchCount(
        CONSIGNMENT, CONSIGNMENT.NODE_ID.eq(nodeId).and(CONSIGNMENT.HANDED_OVER_AT.ge(since)));
  }

  private SelectJoinStep<? extends Record> cards(OptionalLong onlyNode) {
    Condition visible = onlyNode.isPresent() ? NODE.ID.eq(onlyNode.getAsLong()) : noCondition();
    return db.select(
            CONSIGNMENT.ID,
            CONSIGNMENT.NUMBER,
            CONSIGNMENT.ORDER_ID,
            SALES_ORDER.NUMBER,
            SALES_ORDER.SHIP_NAME,
            SALES_ORDER.SHIP_COUNTRY,
            NODE.CODE,
            NODE.NAME,
            NODE.TIME_ZONE,
            CONSIGNMENT.STATE,
            CARRIER.NAME,
            CONSIGNMENT.SERVICE,
            CONSIGNMENT.SHIP_BY,
            CONSIGNMENT.ARRIVAL_ON,
            CONSIGNMENT.UNITS,
            CONSIGNMENT.TO_UNPACK,
            PACKED_UNITS,
            Closures.CLOSED_THEN)
        .from(CONSIGNMENT)
        .join(NODE)
        .on(NODE.ID.eq(CONSIGNMENT.NODE_ID))
        .and(visible)
        .join(SALES_ORDER)
        .on(SALES_ORDER.ID.eq(CONSIGNMENT.ORDER_ID))
        .leftJoin(CARRIER)
        .on(CARRIER.ID.eq(CONSIGNMENT.CARRIER_ID));
  }

  private Card card(Record r) {
    LocalDate today = clock.instant().atZone(ZoneId.of(r.get(NODE.TIME_ZONE))).toLocalDate();
    return new Card(
        r.get(CONSIGNMENT.ID),
        r.get(CONSIGNMENT.NUMBER),
        r.get(CONSIGNMENT.ORDER_ID),
        r.get(SALES_ORDER.NUMBER),
        r.get(SALES_ORDER.SHIP_NAME),
        r.get(SALES_ORDER.SHIP_COUNTRY),
        r.get(NODE.CODE),
        r.get(NODE.NAME),
        ConsignmentState.valueOf(r.get(CONSIGNMENT.STATE)),
        requireNonNullElse(r.get(CARRIER.NAME), ""),
        r.get(CONSIGNMENT.SERVICE),
        r.get(CONSIGNMENT.SHIP_BY),
        due(r.get(CONSIGNMENT.SHIP_BY), today),
        r.get(CONSIGNMENT.ARRIVAL_ON),
        r.get(CONSIGNMENT.UNITS),
        r.get(PACKED_UNITS).longValueExact(),
        r.get(CARRIER.NAME) == null,
        r.get(CONSIGNMENT.TO_UNPACK),
        r.get(Closures.CLOSED_THEN));
  }

  private static Due due(LocalDate shipBy, LocalDate today) {
    if (shipBy.isBefore(today)) {
      return Due.OVERDUE;
    }
    if (shipBy.equals(today)) {
      return Due.TODAY;
    }
    return shipBy.equals(today.plusDays(1)) ? Due.TOMORROW : Due.LATER;
  }
}
