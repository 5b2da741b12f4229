package dev.ordinator.kits;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.KIT;
import static dev.ordinator.schema.Tables.KIT_PART;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.ORDER_LINE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.desk.OrderDesk;
import dev.ordinator.stock.Items;
import dev.ordinator.stock.LedgerCheck;
import dev.ordinator.stock.StockLedger;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.TestWorld;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** Many who want the last units of three items, and of two kits that share them. */
class LastKitsTest {
  private static final int UNITS = 100;
  private static final int EACH = 45;
  private static final int THREADS = 32;
  private static final String INNER = "BOOK-RECORD";
  private static final String OUTER = "BOOK-YEAR";
  private static final List<String> COMPONENTS = List.of("SCALE", "SMOKER-S", "TOOL-J");

  @Test
  void asMuchIsGivenAwayAsThereIsAndNobodyWaitsForWhatCouldBeHad() throws Exception {
    try (TestWorld world = TestWorld.installed()) {
      kit(world, INNER, Map.of("SCALE", 1L, "SMOKER-S", 2L));
      kit(world, OUTER, Map.of(INNER, 1L, "TOOL-J", 1L));
      stock(world);
      List<String> wanted = Stream.concat(COMPONENTS.stream(), Stream.of(INNER, OUTER)).toList();
      for (int i = 0; i < EACH; i++) {
        for (String sku : wanted) {
          world.shop().place(Sample.order(sku + i, sku, 1));
        }
      }
      workBoth(world, EACH * wanted.size());

      Items items = world.bean(Items.class);
      for (String sku : wanted) {
        long id = item(world, sku);
        long waiting =
            world
                .db()
                .fetchCount(
                    SALES_ORDER
                        .join(ORDER_LINE)
                        .on(ORDER_LINE.ORDER_ID.eq(SALES_ORDER.ID))
                        .and(ORDER_LINE.ITEM_ID.eq(id)),
                    SALES_ORDER.WAITING.isTrue());
        if (waiting > 0) {
          assertThat(items.free(List.of(id), Set.of()).getOrDefault(id, 0L))
              .as("%s, for which %d wait", sku, waiting)
              .isZero();
        }
      }
      assertThat(world.db().fetchCount(SALES_ORDER, SALES_ORDER.WAITING.isTrue()))
          .as("there was too little for all")
          .isPositive();
      assertThat(world.db().fetchCount(SALES_ORDER, SALES_ORDER.SNAGGED.isTrue()))
          .as("nothing else stopped any")
          .isEqualTo(world.db().fetchCount(SALES_ORDER, SALES_ORDER.WAITING.isTrue()));
      assertThat(world.bean(LedgerCheck.class).discrepancies()).isEmpty();
    }
  }

  private static void workBoth(TestWorld world, int orders) throws Exception {
    var instances = List.of(world.addInstance(), world.addInstance());
    try (ExecutorService threads = Executors.newFixedThreadPool(THREADS)) {
      List<Callable<Void>> desks =
          instances.stream()
              .flatMap(instance ->
                  IntStream.range(0, THREADS / 2)
                      .<Callable<Void>>mapToObj(i ->
                          () -> workUntilAllRest(world, instance.getBean(OrderDesk.class), orders)))
              .toList();
      for (var desk : threads.invokeAll(desks)) {
        desk.get();
      }
    }
  }

  private static Void workUntilAllRest(TestWorld world, OrderDesk desk, int orders) {
    await("all orders rest")
        .until(() -> {
          while (desk.workOnOne()) {
            // as fast as it can
          }
          return world.db().fetchCount(SALES_ORDER) == orders
              && world.db().fetchCount(SALES_ORDER, SALES_ORDER.NEXT_STEP.isNotNull()) == 0;
        });
    return null;
  }

  private static void kit(TestWorld world, String sku, Map<String, Long> parts) {
    world
        .db()
        .insertInto(KIT)
        .set(KIT.ITEM_ID, item(world, sku))
        .set(KIT.EXPLODE, "AT_ROUTING")
        .set(KIT.PRICING, "BY_LIST_PRICE")
        .execute();
    parts.forEach((part, quantity) ->
        world
            .db()
            .insertInto(KIT_PART)
            .set(KIT_PART.KIT_ID, item(world, sku))
            .set(KIT_PART.ITEM_ID, item(world, part))
            .set(KIT_PART.QUANTITY, quantity)
            .execute());
  }

  /** Each component is at one node only, and the kits are nowhere ready-made. */
  private static void stock(TestWorld world) {
    world.db().update(NODE).setNull(NODE.CAPACITY_PER_DAY).execute();
    long node =
        world.db().select(NODE.ID).from(NODE).where(NODE.CODE.eq("STW")).fetchSingle().value1();
    try (var instance = world.addInstance("--ordinator.working=false")) {
      StockLedger ledger = instance.getBean(StockLedger.class);
      for (String sku : Stream.concat(COMPONENTS.stream(), Stream.of(INNER, OUTER)).toList()) {
        long id = item(world, sku);
        world
            .db()
            .select(STOCK_LEVEL.NODE_ID, STOCK_LEVEL.ON_HAND)
            .from(STOCK_LEVEL)
            .where(STOCK_LEVEL.ITEM_ID.eq(id))
            .and(STOCK_LEVEL.ON_HAND.gt(0L))
            .forEach(r ->
                ledger.adjust(id, r.value1(), -r.value2(), StockLedger.Reason.SCRAP, "Mara", ""));
        if (COMPONENTS.contains(sku)) {
          ledger.adjust(id, node, UNITS, StockLedger.Reason.RECEIPT, "Mara", "");
        }
      }
    }
  }

  private static long item(TestWorld world, String sku) {
    return world.db().select(ITEM.ID).from(ITEM).where(ITEM.SKU.eq(sku)).fetchSingle().value1();
  }
}
