package dev.ordinator.today;

import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.EVENT;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static java.util.Objects.requireNonNull;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.count;
import static org.jooq.impl.DSL.sum;
import static org.jooq.impl.DSL.when;

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
import dev.ordinator.worklist.SnagQueries;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.math.BigDecimal;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.OptionalLong;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

@RestController
@Tag(name = "Today")
class TodayApi {
  private static final int MOST_PROMISES = 20;

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
   * @param stuck of {@code orders}, those held or snagged
   */
  record Stop(Stage stage, long orders, long stuck) {}

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
   */
  record Today(
      List<Stop> stops,
      long waiting,
      long mustLeave,
      long willLeave,
      List<NodeRow> nodes,
      List<Promise> promises,
      List<SnagQueries.OpenSnag> snags,
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
        nodes,
        promises(),
        snags.open(settings.baseCurrency()),
        troubles(),
        since(since == null ? clock.instant().minusSeconds(24 * 3600) : since));
  }

  @Operation(summary = "The counts beside the rail’s names: only what waits for a person")
  @GetMapping("/api/today/counts")
  Counts counts() {
    long dispatch =
        board.board(OptionalLong.empty()).nodes().stream().mapToLong(TodayApi::dueNow).sum();
    List<SnagQueries.OpenSnag> open = snags.open(settings.baseCurrency());
    long stuck =
        db.fetchCount(
            SALES_ORDER,
            SALES_ORDER
                .OPEN
                .isTrue()
                .and(SALES_ORDER.HELD.isTrue().or(SALES_ORDER.SNAGGED.isTrue())));
    return new Counts(
        stuck,
        dispatch,
        db.fetchCount(SALES_ORDER, BreakingPromises.BREAKS),
        returns.owed(),
        open.stream().filter(s -> s.listingId() != null || s.refusedId() != null).count());
  }

  private List<Trouble> troubles() {
    return health.troubles().stream()
        .map(w -> new Trouble(w.name(), requireNonNull(w.failingSince()), w.failures(), w.error()))
        .toList();
  }

  private List<Stop> stops() {
    var stuck =
        sum(
            when(SALES_ORDER.HELD.isTrue().or(SALES_ORDER.SNAGGED.isTrue()), BigDecimal.ONE)
                .otherwise(BigDecimal.ZERO));
    var byStage =
        db.select(SALES_ORDER.STAGE, count(), stuck)
            .from(SALES_ORDER)
            .groupBy(SALES_ORDER.STAGE)
            .fetchMap(
                r -> Stage.valueOf(r.value1()),
                r -> new long[] {r.value2(), r.value3().longValueExact()});
    List<Stop> stops = new ArrayList<>();
    for (Stage stage : Stage.values()) {
      if (stage != Stage.CANCELLED) {
        long[] numbers = byStage.getOrDefault(stage, new long[] {0, 0});
        stops.add(new Stop(stage, numbers[0], numbers[1]));
      }
    }
    return stops;
  }

  private List<Promise> promises() {
    LocalDate today = clock.instant().atZone(settings.timeZone()).toLocalDate();
    List<Promise> promises = new ArrayList<>();
    db.select(SALES_ORDER.ID, SALES_ORDER.NUMBER, CONSIGNMENT.SHIP_BY, CONSIGNMENT.STATE)
        .from(CONSIGNMENT)
        .join(SALES_ORDER)
        .on(SALES_ORDER.ID.eq(CONSIGNMENT.ORDER_ID))
        .where(CONSIGNMENT.STATE.in("PLANNED", "RELEASED", "PACKED"))
        .and(CONSIGNMENT.SHIP_BY.lt(today))
        .orderBy(CONSIGNMENT.SHIP_BY, CONSIGNMENT.ID)
        .limit(MOST_PROMISES)
        .forEach(r ->
            promises.add(
                new Promise(
                    r.value1(),
                    r.value2(),
                    r.value4().equals("PACKED") ? "packed, not handed over" : "not packed yet",
                    r.value3(),
                    true)));
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
