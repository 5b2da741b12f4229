package dev.ordinator.allocation;

import static dev.ordinator.schema.Tables.ALLOCATION_RUN_LINE;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.stock.LedgerCheck;
import dev.ordinator.testing.ApplicationProcess;
import dev.ordinator.testing.KillPoint;
import dev.ordinator.testing.ManyLines;
import dev.ordinator.testing.RunWish;
import dev.ordinator.testing.TestWorld;
import dev.ordinator.testing.Visitor;
import java.util.HashMap;
import java.util.Map;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/** kill -9 while a run over 20,000 lines is carried out. */
class KilledRunTest {
  private static final int ORDERS = 10_000;

  /** Lines of which what is set aside is not what the log says. */
  private static final String UNTRUE =
      """
      select count(*) from allocation_run_line l
      left join (select order_line_id, sum(units) as units from earmark
        where kind = 'ORDER' and closed_at is null group by order_line_id) e
        on e.order_line_id = l.order_line_id
      where l.run_id = %d and l.no %s and coalesce(e.units, 0) <> l.given
      """;

  @Test
  void itGoesOnWhereItStoodAndItsLogIsTrue() throws Exception {
    try (TestWorld world = TestWorld.installed();
        KillPoint point = new KillPoint(world.url(), "earmark", "new.order_line_id")) {
      long run;
      long given;
      try (ApplicationProcess application = world.process()) {
        Visitor mara = Visitor.loggedIn(application.address(), "mara");
        mara.post("/api/routing/pauses", everywhere());
        ManyLines.fill(world.db(), ORDERS);
        JsonNode seen =
            mara.post("/api/allocation/runs", new RunWish().with("parts", "PART").named("many"))
                .body();
        run = seen.path("id").asLong();
        given = seen.path("given").asLong();
        assertThat(seen.path("lines").asInt()).isEqualTo(2 * ORDERS);
        point.set(String.valueOf(lineInTheMiddle(world, run)));
        mara.post("/api/allocation/runs/" + run + "/commit", "");
        await("it stands in the middle").until(point::isReached);
        application.kill();
      }
      point.lift();
      long done = done(world, run);
      assertThat(done).isBetween(4_000L, 16_000L);
      assertThat(count(world, UNTRUE.formatted(run, "< " + done))).isZero();
      assertThat(setAside(world)).isLessThan(given);
      // an instance that died keeps its claim for two minutes; nothing is lost by not waiting
      world.db().execute("update allocation_run set claimed_until = null");

      try (ApplicationProcess application = world.process()) {
        Visitor mara = Visitor.loggedIn(application.address(), "mara");
        String path = "/api/allocation/runs/" + run;
        await("it is carried out to its end")
            .until(() -> mara.read(path).path("state").asString().equals("COMMITTED"));
        assertThat(mara.read(path).path("changed").asInt()).isZero();
      }
      assertThat(count(world, UNTRUE.formatted(run, ">= 0"))).isZero();
      assertThat(setAside(world)).isEqualTo(given);
      world.addInstance("--ordinator.working=false");
      assertThat(world.bean(LedgerCheck.class).discrepancies()).isEmpty();
    }
  }

  private static Map<String, Object> everywhere() {
    Map<String, Object> pause = new HashMap<>();
    pause.put("channel", null);
    pause.put("reason", "a run first");
    return pause;
  }

  /** One that gets something. */
  private static long lineInTheMiddle(TestWorld world, long run) {
    return world
        .db()
        .select(ALLOCATION_RUN_LINE.ORDER_LINE_ID)
        .from(ALLOCATION_RUN_LINE)
        .where(ALLOCATION_RUN_LINE.RUN_ID.eq(run))
        .and(ALLOCATION_RUN_LINE.NO.gt(ORDERS))
        .and(ALLOCATION_RUN_LINE.GIVEN.gt(0L))
        .orderBy(ALLOCATION_RUN_LINE.NO)
        .limit(1)
        .fetchSingle()
        .value1();
  }

  private static long done(TestWorld world, long run) {
    return count(world, "select done from allocation_run where id = " + run);
  }

  private static long setAside(TestWorld world) {
    return count(
        world,
        "select coalesce(sum(units), 0) from earmark where kind = 'ORDER' and closed_at is null");
  }

  private static long count(TestWorld world, String sql) {
    return world.db().fetchSingle(sql).get(0, Long.class);
  }
}
