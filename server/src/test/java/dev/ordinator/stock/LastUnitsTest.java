package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static dev.ordinator.schema.Tables.STOCK_MOVEMENT;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatExceptionOfType;

import dev.ordinator.desk.OrderDesk;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.TestWorld;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.jooq.exception.DataAccessException;
import org.junit.jupiter.api.Test;

/** Many who want the last unit. */
class LastUnitsTest {
  private static final int BUYERS = 120;
  private static final int THREADS = 32;
  private static final String SKU = "SCALE";

  @Test
  void thirtyTwoThreadsOfTwoInstancesGiveTheLastUnitsToExactlyAsManyBuyers() throws Exception {
    try (TestWorld world = TestWorld.installed()) {
      var one = world.addInstance();
      var two = world.addInstance();
      for (int i = 0; i < BUYERS; i++) {
        world.shop().place(Sample.order("Z" + i, SKU, 2));
      }
      long units =
          world
              .db()
              .select(STOCK_LEVEL.ON_HAND)
              .from(STOCK_LEVEL)
              .join(ITEM)
              .on(ITEM.ID.eq(STOCK_LEVEL.ITEM_ID))
              .join(NODE)
              .on(NODE.ID.eq(STOCK_LEVEL.NODE_ID))
              .where(ITEM.SKU.eq(SKU))
              .and(NODE.KIND.ne("CHANNEL_DEPOT"))
              .fetch(STOCK_LEVEL.ON_HAND)
              .stream()
              .mapToLong(onHand -> onHand / 2)
              .sum();
      assertThat(units).as("too few for all").isLessThan(BUYERS);

      try (ExecutorService threads = Executors.newFixedThreadPool(THREADS)) {
        // besides the desks' own loops, sixteen more threads in each instance take orders on
        List<Callable<Boolean>> desks =
            Stream.of(one, two)
                .flatMap(instance ->
                    IntStream.range(0, THREADS / 2)
                        .<Callable<Boolean>>mapToObj(
                            i -> () -> workUntilAllRest(world, instance.getBean(OrderDesk.class))))
                .toList();
        for (var desk : threads.invokeAll(desks)) {
          assertThat(desk.get()).isTrue();
        }
      }
      assertThat(world.db().fetchCount(SALES_ORDER, SALES_ORDER.STAGE.eq("RELEASED")))
          .isEqualTo((int) units);
      assertThat(world.db().fetchCount(SALES_ORDER, SALES_ORDER.WAITING.isTrue()))
          .isEqualTo(BUYERS - (int) units);
      assertThat(world.bean(LedgerCheck.class).discrepancies()).isEmpty();
    }
  }

  @Test
  void theLedgerIsOnlyAppendedTo() throws Exception {
    try (TestWorld world = TestWorld.installed()) {
      assertThatExceptionOfType(DataAccessException.class)
          .isThrownBy(
              () -> world.db().update(STOCK_MOVEMENT).set(STOCK_MOVEMENT.QUANTITY, 1L).execute())
          .withMessageContaining("only appended to");
      assertThatExceptionOfType(DataAccessException.class)
          .isThrownBy(() -> world.db().deleteFrom(STOCK_MOVEMENT).execute())
          .withMessageContaining("only appended to");
      DSLContext application = world.addInstance().getBean(DSLContext.class);
      for (String forbidden :
          List.of(
              "update stock_movement set quantity = 1",
              "delete from stock_movement",
              "truncate stock_movement",
              "drop trigger stock_movement_stays")) {
        assertThatExceptionOfType(org.springframework.dao.DataAccessException.class)
            .as(forbidden)
            .isThrownBy(() -> application.execute(forbidden))
            .withStackTraceContaining("denied");
      }
    }
  }

  private static boolean workUntilAllRest(TestWorld world, OrderDesk desk) {
    TestWorld.await("all orders rest")
        .until(() -> {
          while (desk.workOnOne()) {
            // as fast as it can
          }
          return world.db().fetchCount(SALES_ORDER) == BUYERS
              && world.db().fetchCount(SALES_ORDER, SALES_ORDER.NEXT_STEP.isNotNull()) == 0;
        });
    return true;
  }
}
