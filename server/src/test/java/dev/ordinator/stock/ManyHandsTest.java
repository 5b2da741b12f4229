package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.LOT;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.core.stock.LotPick;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Transactions;
import dev.ordinator.stock.Lots.Tracked;
import dev.ordinator.stock.Lots.Tracking;
import dev.ordinator.stock.StockLedger.Reason;
import dev.ordinator.stock.StockLedger.TakenMeanwhile;
import dev.ordinator.stock.StockLedger.Want;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.TestWorld;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.function.Consumer;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.springframework.context.ConfigurableApplicationContext;

/** Whatever many do to stock at the same time, levels and places are what the ledger adds up to. */
class ManyHandsTest {
  private static final int HANDS = 12;
  private static final int DEEDS = 60;
  private static final long SEED = 20261126;
  private static final List<String> SKUS = List.of("TOOL-J", "SYRUP-2", "SEED-MIX-100");
  private static final LocalDate TODAY = LocalDate.now(ZoneId.of("Europe/Amsterdam"));

  /** A consignment line for which something is held, or could be. */
  private record Line(long id, long orderId, long itemId, long nodeId, long units) {}

  @Test
  void levelsAreWhatTheLedgerSaysAfterAnythingThatManyDoAtOnce() throws Exception {
    try (TestWorld world = TestWorld.installed()) {
      var instances = List.of(world.addInstance(), world.addInstance());
      world
          .bean(Lots.class)
          .setTracking(
              id(world, "SYRUP-2"), new Tracking(Tracked.EXPIRY, LotPick.Order.FEFO, true, 5), "t");
      var free = new ConcurrentLinkedQueue<>(lines(world));
      var held = new ConcurrentLinkedQueue<Line>();
      long lines = free.size();
      try (ExecutorService hands = Executors.newFixedThreadPool(HANDS)) {
        List<Future<?>> all = new ArrayList<>();
        for (int hand = 0; hand < HANDS; hand++) {
          Hand one = new Hand(world, instances.get(hand % 2), new Random(SEED + hand), free, held);
          all.add(hands.submit(one::work));
        }
        for (Future<?> hand : all) {
          hand.get();
        }
      }
      assertThat(world.bean(LedgerCheck.class).discrepancies()).as("seed %d", SEED).isEmpty();
      assertThat(held.size() + free.size()).as("some were sent").isLessThan((int) lines);
      assertThat(
              world
                  .db()
                  .fetchSingle(
                      "select count(*) from stock_place where state <> 'SELLABLE' and allocated > 0")
                  .get(0, Long.class))
          .isZero();
    }
  }

  @Test
  void aLotThatManyAreTheFirstToReceiveIsOneLot() throws Exception {
    try (TestWorld world = TestWorld.installed()) {
      var instance = world.addInstance();
      long item = id(world, "SYRUP-2");
      long node = node(world, "STW");
      world
          .bean(Lots.class)
          .setTracking(item, new Tracking(Tracked.LOT, LotPick.Order.FIFO, true, 0), "t");
      try (ExecutorService hands = Executors.newFixedThreadPool(HANDS)) {
        List<Future<?>> all = new ArrayList<>();
        for (int seed = 0; seed < HANDS; seed++) {
          Hand hand =
              new Hand(
                  world,
                  instance,
                  new Random(seed),
                  new ConcurrentLinkedQueue<>(),
                  new ConcurrentLinkedQueue<>());
          all.add(
              hands.submit(
                  () -> IntStream.range(0, 20).forEach(n -> hand.receive(item, node, "NEW" + n))));
        }
        for (Future<?> hand : all) {
          hand.get();
        }
      }
      assertThat(world.db().fetchCount(LOT, LOT.ITEM_ID.eq(item).and(LOT.CODE.like("NEW%"))))
          .isEqualTo(20);
      assertThat(world.bean(LedgerCheck.class).discrepancies()).isEmpty();
    }
  }

  private static final class Hand {
    private final TestWorld world;
    private final StockLedger ledger;
    private final Outgoing outgoing;
    private final Transactions transactions;
    private final Receiving receiving;
    private final Transfers transfers;
    private final Earmarks earmarks;
    private final LotRecall recall;
    private final StockDesk desk;
    private final Random random;
    private final ConcurrentLinkedQueue<Line> free;
    private final ConcurrentLinkedQueue<Line> held;

    Hand(
        TestWorld world,
        ConfigurableApplicationContext instance,
        Random random,
        ConcurrentLinkedQueue<Line> free,
        ConcurrentLinkedQueue<Line> held) {
      this.world = world;
      this.ledger = instance.getBean(StockLedger.class);
      this.outgoing = instance.getBean(Outgoing.class);
      this.transactions = instance.getBean(Transactions.class);
      this.receiving = instance.getBean(Receiving.class);
      this.transfers = instance.getBean(Transfers.class);
      this.earmarks = instance.getBean(Earmarks.class);
      this.recall = instance.getBean(LotRecall.class);
      this.desk = instance.getBean(StockDesk.class);
      this.random = random;
      this.free = free;
      this.held = held;
    }

    Void work() {
      for (int deed = 0; deed < DEEDS; deed++) {
        String sku = SKUS.get(random.nextInt(SKUS.size()));
        try {
          one(id(world, sku), sku, node(world, random.nextBoolean() ? "STW" : "CAN"));
        } catch (TakenMeanwhile | Problem lostRaceOrTooLittle) {
          // rolled back, as it would be for anybody
        }
      }
      return null;
    }

    private void one(long item, String sku, long node) {
      switch (random.nextInt(10)) {
        case 0, 1, 2 ->
            with(
                free,
                held,
                line ->
                    ledger.allocate(
                        line.orderId(), line.nodeId(), List.of(want(line)), TODAY.plusDays(2)));
        case 3 ->
            with(
                held,
                free,
                line ->
                    outgoing.free(line.nodeId(), consignment(line), List.of(want(line)), "test"));
        case 4 ->
            with(
                held,
                null,
                line ->
                    outgoing.leave(
                        line.nodeId(),
                        consignment(line),
                        List.of(want(line)),
                        Reason.HAND_OVER,
                        "test"));
        case 9 ->
            with(
                held,
                held,
                line -> {
                  Want want = want(line);
                  outgoing.leave(
                      line.nodeId(), consignment(line), List.of(want), Reason.PICK, "test");
                  if (random.nextBoolean()) {
                    outgoing.bringBack(line.nodeId(), consignment(line), List.of(want), "test");
                  }
                });
        case 5 -> receive(item, node, sku.equals("TOOL-J") ? "" : "L" + random.nextInt(4));
        case 6 ->
            transfers.send(
                new Transfers.Wish(
                    node,
                    node(world, "FER"),
                    TODAY.plusDays(1),
                    List.of(new Transfers.Line(sku, 1 + random.nextInt(4), null))),
                "test");
        case 7 -> {
          earmarks.setAside(
              item,
              new Earmarks.Wish(
                  node, 1 + random.nextInt(3), Earmarks.Kind.CHANNEL, "WEB", null, ""),
              "test");
          earmarks.of(item).stream()
              .skip(2)
              .findFirst()
              .ifPresent(e -> earmarks.release(e.id(), "test"));
        }
        default -> {
          if (random.nextInt(6) == 0) {
            transactions.run(() ->
                recall.quarantine(
                    LOT.ITEM_ID.eq(item).and(LOT.CODE.eq("L" + random.nextInt(4))), "test", ""));
          } else {
            desk.limit(item, node, random.nextInt(4), null, "test");
          }
        }
      }
    }

    /** Moves a line from one pile to another, if what is done to it is done. */
    private void with(
        ConcurrentLinkedQueue<Line> from,
        @Nullable ConcurrentLinkedQueue<Line> to,
        Consumer<Line> what) {
      Line line = from.poll();
      if (line == null) {
        return;
      }
      try {
        transactions.run(() -> what.accept(line));
        if (to != null) {
          to.add(line);
        }
      } catch (TakenMeanwhile e) {
        from.add(line);
        throw e;
      }
    }

    private void receive(long item, long node, String lot) {
      boolean expires = !lot.isEmpty();
      LocalDate until = TODAY.plusDays(30L * (1 + Math.abs(lot.hashCode()) % 5));
      receiving.receive(
          new Receiving.Wish(
              node,
              "Meadow Seeds",
              "",
              "",
              false,
              List.of(
                  new Receiving.Line(
                      item,
                      null,
                      List.of(
                          new Receiving.Part(
                              1 + random.nextInt(5),
                              random.nextBoolean() ? "" : "B-" + random.nextInt(3),
                              lot,
                              expires ? until : null,
                              Condition.SELLABLE))))),
          "test");
    }

    private long consignment(Line line) {
      return world
          .db()
          .fetchSingle("select consignment_id from consignment_line where id = ?", line.id())
          .get(0, Long.class);
    }

    private static Want want(Line line) {
      return new Want(line.id(), line.itemId(), line.units());
    }
  }

  private static List<Line> lines(TestWorld world) {
    world.shop().place(Sample.order("H1", "BRUSH", 1));
    await("there is an order")
        .until(() ->
            world.db().fetchOne("select id from sales_order where stage = 'RELEASED'") != null);
    var db = world.db();
    db.execute(
        """
        insert into consignment (order_id, node_id, number, state, carrier_id, service, hand_over_on,
            ship_by, arrival_on, billable, units, carriage, handling)
        select c.order_id, n.id, concat(n.code, '-', s.seq), 'RECALLED', c.carrier_id, c.service,
            c.hand_over_on, c.ship_by, c.arrival_on, c.billable, 1, 0, 0
        from consignment c join node n on n.code in ('STW', 'CAN') join seq_1_to_60 s
        """);
    db.execute(
        """
        insert into consignment_line (consignment_id, order_line_id, item_id, quantity)
        select c.id, l.id, i.id, 1 + c.id % 4
        from consignment c join order_line l on l.order_id = c.order_id
          join item i on i.sku in ('TOOL-J', 'SYRUP-2', 'SEED-MIX-100')
        where c.state = 'RECALLED'
        """);
    return db.fetch(
            """
            select l.id, c.order_id, l.item_id, c.node_id, l.quantity
            from consignment_line l join consignment c on c.id = l.consignment_id
            where c.state = 'RECALLED' order by l.id
            """)
        .map(r ->
            new Line(
                r.get(0, Long.class),
                r.get(1, Long.class),
                r.get(2, Long.class),
                r.get(3, Long.class),
                r.get(4, Long.class)));
  }

  private static long id(TestWorld world, String sku) {
    return world.db().select(ITEM.ID).from(ITEM).where(ITEM.SKU.eq(sku)).fetchSingle().value1();
  }

  private static long node(TestWorld world, String code) {
    return world.db().select(NODE.ID).from(NODE).where(NODE.CODE.eq(code)).fetchSingle().value1();
  }
}
