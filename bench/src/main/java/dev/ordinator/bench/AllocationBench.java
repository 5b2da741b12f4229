package dev.ordinator.bench;

import dev.ordinator.platform.Transactions;
import dev.ordinator.stock.LedgerCheck;
import dev.ordinator.stock.StockLedger;
import dev.ordinator.stock.StockLedger.Want;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.TestWorld;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;
import javax.sql.DataSource;
import org.awaitility.Awaitility;
import org.jooq.Record;
import org.jooq.Result;
import org.jooq.impl.DSL;
import org.springframework.context.ConfigurableApplicationContext;

/**
 * 32 threads of two instances hold units of the same three items: through the ledger, and by the
 * bare statement that would do if nobody had to know for whom.
 */
public final class AllocationBench {
  private static final int THREADS = 32;
  private static final int ROUNDS = 5;
  private static final int EACH = 6_000;
  private static final String ITEMS = "'TOOL-J', 'BRUSH', 'TOOL-STD'";
  private static final String BARE =
      """
      update stock_level set allocated = allocated + ?
      where item_id = ? and node_id = ? and on_hand - allocated - safety >= ?
      """;

  private AllocationBench() {}

  /** What a thread does for the n-th line. */
  private interface Work {
    void forLine(ConfigurableApplicationContext instance, Record line) throws SQLException;
  }

  public static void main(String[] args) throws Exception {
    try (TestWorld world = TestWorld.installed()) {
      var instances = List.of(world.addInstance(), world.addInstance());
      var lines = lines(world);
      LocalDate arrival = LocalDate.now().plusDays(3);
      Work bare =
          (instance, line) -> {
            try (Connection connection = instance.getBean(DataSource.class).getConnection();
                PreparedStatement update = connection.prepareStatement(BARE)) {
              update.setLong(1, 1);
              update.setLong(2, line.get("item_id", Long.class));
              update.setLong(3, line.get("node_id", Long.class));
              update.setLong(4, 1);
              update.executeUpdate();
            }
          };
      Work ledger =
          (instance, line) ->
              instance
                  .getBean(Transactions.class)
                  .run(() ->
                      instance
                          .getBean(StockLedger.class)
                          .allocate(
                              line.get("order_id", Long.class),
                              line.get("node_id", Long.class),
                              List.of(
                                  new Want(
                                      line.get("id", Long.class),
                                      line.get("item_id", Long.class),
                                      1)),
                              arrival));
      double[] byLedger = new double[ROUNDS];
      double[] byStatement = new double[ROUNDS];
      int size = lines.size() / (ROUNDS + 1);
      for (int round = 0; round <= ROUNDS; round++) {
        var some = lines.subList(round * size, (round + 1) * size);
        double ledgerRound = perSecond(instances, some, ledger);
        double bareRound = perSecond(instances, some, bare);
        takeBack(world, size / 3);
        if (round > 0) { // the first only warms up
          byLedger[round - 1] = ledgerRound;
          byStatement[round - 1] = bareRound;
        }
      }
      var wrong = world.bean(LedgerCheck.class).discrepancies();
      if (!wrong.isEmpty()) {
        throw new AssertionError("levels are not what was allocated: " + wrong);
      }
      System.out.println("| 32 threads, two instances, three items | a second | bare ÷ this |");
      System.out.println("| --- | --- | --- |");
      System.out.printf("| bare conditional update | %.0f | 1.0 |%n", median(byStatement));
      System.out.printf(
          "| allocations through the ledger | %.0f | %.1f |%n",
          median(byLedger), median(byStatement) / median(byLedger));
    }
  }

  /** What the bare statement took, which no allocation stands behind. */
  private static void takeBack(TestWorld world, int units) {
    world
        .db()
        .execute(
            """
            update stock_level set allocated = allocated - %d
            where node_id = (select id from node where code = 'STW')
              and item_id in (select id from item where sku in (%s))
            """
                .formatted(units, ITEMS));
  }

  private static double median(double[] figures) {
    double[] sorted = figures.clone();
    Arrays.sort(sorted);
    return sorted[sorted.length / 2];
  }

  /** Consignment lines for which something can be held, item by item in turn. */
  private static Result<Record> lines(TestWorld world) {
    world.shop().place(Sample.order("A1"));
    Awaitility.await()
        .until(() ->
            world
                    .db()
                    .fetchCount(
                        DSL.table("sales_order"),
                        DSL.condition("external_id = 'A1' and stage = 'RELEASED'"))
                == 1);
    var db = world.db();
    db.execute(
        """
        insert into consignment (order_id, node_id, number, state, carrier_id, service, hand_over_on,
            ship_by, arrival_on, billable, units, carriage, handling)
        select c.order_id, n.id, concat('BENCH-', s.seq), 'PLANNED', c.carrier_id, c.service,
            c.hand_over_on, c.ship_by, c.arrival_on, c.billable, 1, 0, 0
        from consignment c join node n on n.code = 'STW' join seq_1_to_%d s
        """
            .formatted(EACH));
    db.execute(
        """
        insert into consignment_line (consignment_id, order_line_id, item_id, quantity)
        select c.id, l.id, i.id, 1
        from consignment c join order_line l on l.order_id = c.order_id
          join item i on i.sku in (%s)
        where c.number like 'BENCH-%%'
        """
            .formatted(ITEMS));
    List<Long> items = new ArrayList<>();
    long node = db.fetchSingle("select id from node where code = 'STW'").get(0, Long.class);
    db.fetch("select id from item where sku in (" + ITEMS + ")")
        .forEach(r -> items.add(r.get("id", Long.class)));
    for (long item : items) {
      world
          .bean(StockLedger.class)
          .adjust(item, node, EACH * 3L, StockLedger.Reason.RECEIPT, "bench", "");
    }
    return db.fetch(
        """
        select l.id, l.item_id, c.node_id, c.order_id
        from consignment_line l join consignment c on c.id = l.consignment_id
        where c.number like 'BENCH-%' order by c.id, l.item_id
        """);
  }

  private static double perSecond(
      List<ConfigurableApplicationContext> instances, List<Record> lines, Work work)
      throws Exception {
    AtomicInteger next = new AtomicInteger();
    long began = System.nanoTime();
    try (ExecutorService threads = Executors.newFixedThreadPool(THREADS)) {
      List<Future<?>> all = new ArrayList<>();
      for (int t = 0; t < THREADS; t++) {
        var instance = instances.get(t % instances.size());
        all.add(
            threads.submit(() -> {
              for (int i = next.getAndIncrement(); i < lines.size(); i = next.getAndIncrement()) {
                work.forLine(instance, lines.get(i));
              }
              return null;
            }));
      }
      for (Future<?> thread : all) {
        thread.get();
      }
    }
    return lines.size() / ((System.nanoTime() - began) / 1e9);
  }
}
