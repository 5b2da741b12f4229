package dev.ordinator.demo;

import static dev.ordinator.schema.Tables.ORDER_LINE;
import static dev.ordinator.schema.Tables.REFUND;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static org.jooq.impl.DSL.selectOne;

import dev.ordinator.core.money.Money;
import dev.ordinator.core.returns.Refund;
import dev.ordinator.dispatch.Outbox;
import dev.ordinator.returns.Refunds;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** A few buyers got one unit of their first line back, some of them less a fee. */
@Component
class DemoRefunds {
  private static final List<String> REASONS =
      List.of("came scratched", "too large", "ordered twice");
  private static final long FEE_STEP = 50;

  private final DSLContext db;
  private final Refunds refunds;
  private final Outbox outbox;

  DemoRefunds(DSLContext db, Refunds refunds, Outbox outbox) {
    this.db = db;
    this.refunds = refunds;
    this.outbox = outbox;
  }

  void payBack(String by) {
    var orders =
        db.select(SALES_ORDER.ID, ORDER_LINE.ID, SALES_ORDER.CURRENCY)
            .from(SALES_ORDER)
            .join(ORDER_LINE)
            .on(ORDER_LINE.ORDER_ID.eq(SALES_ORDER.ID))
            .and(ORDER_LINE.LINE_NO.eq(1))
            .where(SALES_ORDER.STAGE.eq("DELIVERED"))
            .and(SALES_ORDER.PAYMENT_STATE.eq("PAID"))
            .and(ORDER_LINE.UNIT_PRICE.gt(1_000L))
            .andNotExists(selectOne().from(REFUND).where(REFUND.ORDER_ID.eq(SALES_ORDER.ID)))
            .orderBy(SALES_ORDER.ID.desc())
            .limit(REASONS.size())
            .fetch();
    for (int i = 0; i < orders.size(); i++) {
      var order = orders.get(i);
      refunds.ask(
          order.value1(),
          1,
          null,
          new Refund.Asked(
              Map.of(Long.toString(order.value2()), 1L),
              Money.of(0, order.value3()),
              Money.of(0, order.value3()),
              Money.of(i * FEE_STEP, order.value3())),
          REASONS.get(i),
          by);
    }
    while (outbox.deliverOne()) {
      // until the channels have taken them on
    }
  }
}
