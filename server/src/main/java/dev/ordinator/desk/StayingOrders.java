package dev.ordinator.desk;

import static dev.ordinator.schema.Tables.RULE_STAY;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static org.jooq.impl.DSL.selectOne;

import dev.ordinator.core.rules.DeskRule;
import dev.ordinator.core.rules.RuleEvent;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.Transactions;
import dev.ordinator.platform.WorkLoops;
import dev.ordinator.rulebook.Editions;
import dev.ordinator.rulebook.Editions.Edition;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** Orders that stand in a stage for longer than a rule says: it looks at each of them once. */
@Component
class StayingOrders {
  private static final int AT_ONCE = 100;
  private static final Duration PAUSE = Duration.ofSeconds(20);

  private final DSLContext db;
  private final Transactions transactions;
  private final Editions editions;
  private final Orders orders;
  private final RuleDesk rules;
  private final Clock clock;
  private volatile Instant nextLook = Instant.EPOCH;

  StayingOrders(
      DSLContext db,
      Transactions transactions,
      Editions editions,
      Orders orders,
      RuleDesk rules,
      Clock clock,
      WorkLoops loops) {
    this.db = db;
    this.transactions = transactions;
    this.editions = editions;
    this.orders = orders;
    this.rules = rules;
    this.clock = clock;
    loops.add("staying-orders", this::lookNowAndThen);
  }

  private boolean lookNowAndThen() {
    if (clock.instant().isBefore(nextLook)) {
      return false;
    }
    boolean any = look() > 0;
    if (!any) {
      nextLook = clock.instant().plus(PAUSE);
    }
    return any;
  }

  /** Gives how many orders were looked at; more may be left. */
  private int look() {
    return editions.liveIfAny().map(this::look).orElse(0);
  }

  private int look(Edition edition) {
    List<DeskRule> staying =
        edition.body().rules().filter(r -> r.on() && r.event() == RuleEvent.STAYS).toList();
    int looked = 0;
    for (DeskRule rule : staying) {
      for (long order : due(rule)) {
        transactions.run(() -> lookAt(order, edition, rule));
        looked++;
      }
    }
    return looked;
  }

  private List<Long> due(DeskRule rule) {
    DeskRule.Stay stay = Objects.requireNonNull(rule.stay());
    return db.select(SALES_ORDER.ID)
        .from(SALES_ORDER)
        .where(SALES_ORDER.STAGE.eq(stay.stage().name()))
        .and(SALES_ORDER.STAGE_SINCE.le(clock.instant().minus(Duration.ofHours(stay.hours()))))
        .andNotExists(
            selectOne()
                .from(RULE_STAY)
                .where(RULE_STAY.RULE.eq(rule.id()))
                .and(RULE_STAY.ORDER_ID.eq(SALES_ORDER.ID)))
        .orderBy(SALES_ORDER.STAGE_SINCE)
        .limit(AT_ONCE)
        .fetch(SALES_ORDER.ID);
  }

  /** Another instance may have looked at it just now: the row that says so is written once. */
  private void lookAt(long order, Edition edition, DeskRule rule) {
    orders.lock(order);
    int first =
        db.insertInto(RULE_STAY)
            .set(RULE_STAY.RULE, rule.id())
            .set(RULE_STAY.ORDER_ID, order)
            .onDuplicateKeyIgnore()
            .execute();
    if (first == 1) {
      rules.apply(order, edition, rule);
    }
  }
}
