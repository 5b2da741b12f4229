package dev.ordinator.intake;

import static dev.ordinator.schema.Tables.ALLOCATION;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.ORDER_LINE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static org.assertj.core.api.Assertions.assertThat;
import static org.jooq.impl.DSL.countDistinct;
import static org.jooq.impl.DSL.sum;

import dev.ordinator.stock.LedgerCheck;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.TestWorld;
import java.math.BigDecimal;
import org.junit.jupiter.api.Test;

/** A busy hour at a bad shop, with two instances of the application at work on it. */
class FloodTest {
  private static final int ORDERS = 500;

  @Test
  void fiveHundredOrdersThroughABadWireComeInExactlyOnceAndNothingIsPromisedTwice()
      throws Exception {
    try (TestWorld world = TestWorld.installed()) {
      world.addInstance();
      world.addInstance();
      world.db().update(NODE).setNull(NODE.CAPACITY_PER_DAY).execute();
      world.shop().webhooks().faults(20, 10, 10);
      world.shop().faults().failNext(3);
      for (int i = 0; i < ORDERS; i++) {
        // five items, so that there is not enough for all: the stores and the warehouse run out
        world.shop().place(Sample.order("L" + i, SKUS[i % SKUS.length], 2 + i % 4));
      }
      TestWorld.await("every order has come to rest")
          .until(() ->
              world.db().fetchCount(SALES_ORDER) == ORDERS
                  && world.db().fetchCount(SALES_ORDER, SALES_ORDER.NEXT_STEP.isNotNull()) == 0);

      assertThat(world.db().fetchCount(SALES_ORDER)).isEqualTo(ORDERS);
      assertThat(
              world
                  .db()
                  .select(countDistinct(SALES_ORDER.NUMBER))
                  .from(SALES_ORDER)
                  .fetchSingle()
                  .value1())
          .isEqualTo(ORDERS);
      int released = world.db().fetchCount(SALES_ORDER, SALES_ORDER.STAGE.eq("RELEASED"));
      int waiting = world.db().fetchCount(SALES_ORDER, SALES_ORDER.WAITING.isTrue());
      int unrouted =
          world
              .db()
              .fetchCount(
                  SALES_ORDER, SALES_ORDER.SNAGGED.isTrue().and(SALES_ORDER.WAITING.isFalse()));
      assertThat(released + waiting + unrouted)
          .as("each is released or says why not")
          .isEqualTo(ORDERS);
      assertThat(waiting).as("the flood is larger than the stock").isPositive();
      assertThat(world.db().fetchCount(STOCK_LEVEL, STOCK_LEVEL.ALLOCATED.gt(STOCK_LEVEL.ON_HAND)))
          .isZero();
      BigDecimal held =
          world.db().select(sum(ALLOCATION.QUANTITY)).from(ALLOCATION).fetchSingle().value1();
      BigDecimal promised =
          world
              .db()
              .select(sum(ORDER_LINE.QUANTITY))
              .from(ORDER_LINE)
              .join(SALES_ORDER)
              .on(SALES_ORDER.ID.eq(ORDER_LINE.ORDER_ID))
              .where(SALES_ORDER.STAGE.eq("RELEASED"))
              .fetchSingle()
              .value1();
      assertThat(held).as("units held are those of the released orders").isEqualTo(promised);
      assertThat(world.bean(LedgerCheck.class).discrepancies()).isEmpty();
    }
  }

  private static final String[] SKUS = {"TOOL-J", "TOOL-STD", "BRUSH", "GRIP", "MARK-PEN"};
}
