package dev.ordinator.allocation;

import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.stock.LedgerCheck;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.RunWish;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.ShortWorld;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Two instances, two runs, receipts and buyers, all for the same item at the same time. */
class ManyAtOnceTest {
  private static final String SKU = "BRUSH";

  @RegisterExtension static final OwnWorld here = new OwnWorld();
  private final ShortWorld world = new ShortWorld(here);

  @Test
  void nothingIsGivenTwiceAndNoUnitIsBothAllocatedAndWaitedFor() throws Exception {
    here.world().addInstance();
    long item = world.stocked(SKU, 3);
    for (int i = 0; i < 10; i++) {
      here.world().shop().place(Sample.order("Q" + i, SKU, 4));
    }
    here.awaitMark("Q9", "waiting for stock");
    try (ExecutorService hands = Executors.newFixedThreadPool(20)) {
      List<Future<?>> doing = new ArrayList<>();
      for (int i = 0; i < 16; i++) {
        String id = "B" + i;
        doing.add(
            hands.submit(() -> here.world().shop().place(Sample.order(id, SKU, 1 + id.length()))));
      }
      for (int i = 0; i < 6; i++) {
        doing.add(hands.submit(() -> world.receive(item, 5)));
      }
      for (int i = 0; i < 2; i++) {
        doing.add(hands.submit(ManyAtOnceTest::run));
      }
      for (Future<?> one : doing) {
        one.get();
      }
    }
    for (int i = 0; i < 16; i++) {
      here.awaitStage("B" + i, "APPROVED");
    }
    await("all has come to rest").until(() -> atRest(item));
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
    assertThat(twice()).as("lines of which more is held or waited for than was ordered").isZero();
    long held =
        units(
            "select coalesce(sum(quantity), 0) from allocation where ended_at is null and item_id = ",
            item);
    long set =
        units(
            "select coalesce(sum(units), 0) from earmark where closed_at is null and kind = 'ORDER' and item_id = ",
            item);
    long free = world.available(SKU);
    long kept =
        units(
            "select coalesce(sum(units), 0) from earmark where closed_at is null and kind = 'WAITING' and item_id = ",
            item);
    assertThat(held + set + free + kept).as("3 and six receipts of 5").isEqualTo(33);
    // who is in front could not have had what is left
    long first =
        units(
            "select coalesce(min(units), 1000) from backorder where closed_at is null and item_id = ",
            item);
    assertThat(free + kept).isLessThan(first);
  }

  /** No order is to be routed, no run under way, no queue to be looked at. */
  private boolean atRest(long item) {
    return units(
            "select (select count(*) from sales_order where next_step is not null)"
                + " + (select count(*) from allocation_run where state = 'COMMITTING')"
                + " + (select count(*) from item_queue where stale) + 0 * ",
            item)
        == 0;
  }

  private static long twice() {
    return here.world()
        .db()
        .fetchSingle(
            """
            select count(*) from (
              select l.id, (l.quantity - l.cancelled) * l.units_each as ordered,
                coalesce((select sum(c.quantity) from consignment_line c join consignment k
                  on k.id = c.consignment_id and k.state not in ('RECALLED', 'REFUSED')
                  where c.order_line_id = l.id), 0)
                + coalesce((select sum(b.units) from backorder b
                  where b.order_line_id = l.id and b.closed_at is null), 0) as claimed
              from order_line l) x
            where claimed > ordered
            """)
        .get(0, Long.class);
  }

  private static long units(String sql, long item) {
    return here.world().db().fetchSingle(sql + item).get(0, Long.class);
  }

  private static void run() {
    JsonNode seen =
        here.mara()
            .post(
                "/api/allocation/runs",
                new RunWish()
                    .of(SKU)
                    .with("by", List.of("PRIORITY", "VALUE"))
                    .with("parts", "WHOLE")
                    .with("thenRoute", true)
                    .named("race"))
            .body();
    here.mara().post("/api/allocation/runs/" + seen.path("id").asLong() + "/commit", "");
  }
}
