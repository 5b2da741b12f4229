package dev.ordinator.today;

import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.EVENT;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static java.util.Objects.requireNonNull;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.count;

import dev.ordinator.backorders.BreakingPromises;
import dev.ordinator.core.orders.Stage;
import dev.ordinator.dispatch.DispatchBoard;
import dev.ordinator.dispatch.DispatchBoard.Due;
import dev.ordinator.dispatch.DispatchBoard.NodeRow;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Texts;
import dev.ordinator.platform.WorkHealth;
import dev.ordinator.returns.Returns;
import dev.ordinator.worklist.OrderFilter;
import dev.ordinator.worklist.SnagQueries;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.OptionalLong;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@Tag(name = "Today")
class TodayApi {
  private static final int MOST_PROMISES = 20;
  private static final int COUNT_UP_TO = 10_000;

  private final DSLContext db;
  private final DispatchBoard board;
  private final SnagQueries snags;
  private final Returns returns;
  private final OrdinatorSettings settings;
  private final Clock clock;
  private final WorkHealth health;

  TodayApi(
      DSLContext db,
      DispatchBoard board,
      SnagQueries snags,
      Returns returns,
      OrdinatorSettings settings,
      Clock clock,
      WorkHealth health) {
    this.db = db;
    this.board = board;
    this.snags = snags;
    this.returns = returns;
    this.settings = settings;
    this.clock = clock;
    this.health = health;
  }

  /**
   * @param orders that are open; in the last stage those that came there since {@code since}.
   *     Counting stops at 10,000, as it does for {@code stuck}
   * @param stuck of {@code orders}, those held or snagged
   * @param since the company's day, from its first hour on; null: whenever they came there
   */
  record Stop(Stage stage, long orders, long stuck, @Nullable LocalDate since) {}

  /** A promise that breaks unless something is done. */
  record Promise(long orderId, String orderNumber, String problem, LocalDate was, boolean broken) {}

  record Since(Instant from, long received, long routed, long handedOver, long delivered) {}

  /**
   * Work that the application does by itself, and that fails again and again.
   *
   * @param failures in a row
   * @param error what the last of them said
   */
  record Trouble(String name, Instant since, int failures, String error) {}

  /**
   * @param mustLeave consignments due today or overdue; {@code willLeave} of them, those before
   *     their node's cut-off
   * @param openSnags how many there are, of which {@code snags} are the dearest
   * @param late consignments under way that should have arrived
   */
  record Today(
      List<Stop> stops,
      long waiting,
      long mustLeave,
      long willLeave,
      long late,
      List<NodeRow> nodes,
      List<Promise> promises,
      List<SnagQueries.OpenSnag> snags,
      int openSnags,
      List<Trouble> troubles,
      Since since) {}

  /**
   * @param backorders orders whose promise breaks unless something is done
   * @param returns that came, and nobody has said what is owed
   */
  record Counts(long orders, long dispatch, long backorders, long returns, long channels) {}

  @Operation(summary = "What needs a person now, and whether today’s promises will be kept")
  @GetMapping("/api/today")
  Today today(@RequestParam(required = false) @Nullable Instant since) {
    List<NodeRow> nodes = board.board(OptionalLong.empty()).nodes();
    long must = nodes.stream().mapToLong(TodayApi::dueNow).sum();
    long will =
        nodes.stream()
            .filter(n -> n.worksToday() && n.minutesLeft() >= 0)
            .mapToLong(n -> Math.min(dueNow(n), room(n)))
            .sum();
    return new Today(
        stops(),
        db.fetchCount(SALES_ORDER, SALES_ORDER.WAITING.isTrue()),
        must,
        will,
        board.late(),
        nodes,
        promises(),
        snags.open(settings.baseCurrency()),
        snags.openInAll(),
        troubles(),
        since(since == null ? clock.instant().minusSeconds(24 * 3600) : since));
  }

  @Operation(summary = "The counts beside the rail’s names: only what waits for a person")
  @GetMapping("/api/today/counts")
  Counts counts() {
    long dispatch =
        board.board(OptionalLong.empty()).nodes().stream().mapToLong(TodayApi::dueNow).sum();
    return new Counts(
        db.fetchCount(SALES_ORDER, OrderFilter.IS_STUCK),
        dispatch,
        db.fetchCount(SALES_ORDER, BreakingPromises.BREAKS),
        returns.owed(),
        snags.ofChannels());
  }

  private List<Trouble> troubles() {
    return health.troubles().stream()
        .map(w -> new Trouble(w.name(), requireNonNull(w.failingSince()), w.failures(), w.error()))
        .toList();
  }

  private List<Stop> stops() {
    List<Stop> stops = new ArrayList<>();
    for (Stage stage : Stage.values()) {
      Condition there = SALES_ORDER.OPEN.isTrue().and(SALES_ORDER.STAGE.eq(stage.name()));
      if (stage == Stage.DELIVERED) {
        LocalDate today = today();
        Instant midnight = today.atStartOfDay(settings.timeZone()).toInstant();
        Condition since = SALES_ORDER.STAGE_SINCE.ge(midnight);
        stops.add(
            new Stop(stage, counted(SALES_ORDER.STAGE.eq(stage.name()).and(since)), 0, today));
      } else if (stage != Stage.CANCELLED) {
        stops.add(new Stop(stage, counted(there), counted(there.and(OrderFilter.IS_STUCK)), null));
      }
    }
    return stops;
  }

  private long counted(Condition which) {
    return db.fetchCount(
        db.select(SALES_ORDER.ID).from(SALES_ORDER).where(which).limit(COUNT_UP_TO));
  }

  private LocalDate today() {
    return clock.instant().atZone(settings.timeZone()).toLocalDate();
  }

  private List<Promise> promises() {
    LocalDate today = today();
    List<Promise> promises = new ArrayList<>();
    // each state by itself, and only then those in front of all: so each is read in its order
    Stream.of("PLANNED", "RELEASED", "PACKED")
        .flatMap(state -> overdue(state, today).stream())
        .sorted(Comparator.comparing(Promise::was).thenComparing(Promise::orderId))
        .limit(MOST_PROMISES)
        .forEach(promises::add);
    db.select(
            SALES_ORDER.ID,
            SALES_ORDER.NUMBER,
            SALES_ORDER.PROMISED_ON,
            SALES_ORDER.EXPECTED_ON,
            SALES_ORDER.ARRIVE_BY)
        .from(SALES_ORDER)
        .where(SALES_ORDER.WAITING.isTrue())
        .and(BreakingPromises.BREAKS.or(SALES_ORDER.ARRIVE_BY.le(today.plusDays(3))))
        .orderBy(coalesce(SALES_ORDER.PROMISED_ON, SALES_ORDER.ARRIVE_BY), SALES_ORDER.ID)
        .limit(MOST_PROMISES)
        .forEach(r -> {
          LocalDate was = r.value3() == null ? r.value5() : r.value3();
          String until =
              r.value4() == null ? "no day in sight" : "arrives " + Texts.day(r.value4());
          promises.add(
              new Promise(
                  r.value1(), r.value2(), "waits for stock, " + until, was, was.isBefore(today)));
        });
    return promises;
  }

  private List<Promise> overdue(String state, LocalDate today) {
    return db.select(SALES_ORDER.ID, SALES_ORDER.NUMBER, CONSIGNMENT.SHIP_BY)
        .from(CONSIGNMENT)
        .join(SALES_ORDER)
        .on(SALES_ORDER.ID.eq(CONSIGNMENT.ORDER_ID))
        .where(CONSIGNMENT.STATE.eq(state))
        .and(CONSIGNMENT.SHIP_BY.lt(today))
        .orderBy(CONSIGNMENT.SHIP_BY, CONSIGNMENT.ID)
        .limit(MOST_PROMISES)
        .fetch(r ->
            new Promise(
                r.value1(),
                r.value2(),
                state.equals("PACKED") ? "packed, not handed over" : "not packed yet",
                r.value3(),
                true));
  }

  private Since since(Instant from) {
    var kinds =
        db.select(EVENT.KIND, count())
            .from(EVENT)
            .where(EVENT.AT.ge(from))
            .groupBy(EVENT.KIND)
            .fetchMap(EVENT.KIND, count());
    return new Since(
        from,
        kinds.getOrDefault(EventKind.RECEIVED.name(), 0),
        kinds.getOrDefault(EventKind.ROUTED.name(), 0),
        kinds.getOrDefault(EventKind.HANDED_OVER.name(), 0),
        kinds.getOrDefault(EventKind.DELIVERED.name(), 0));
  }

  private static long dueNow(NodeRow node) {
    return node.due().getOrDefault(Due.OVERDUE, 0L) + node.due().getOrDefault(Due.TODAY, 0L);
  }

  private static long room(NodeRow node) {
    return node.room() == null ? Long.MAX_VALUE : Math.max(0, node.room() - node.doneToday());
  }
}
