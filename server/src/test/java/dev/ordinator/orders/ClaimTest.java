package dev.ordinator.orders;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.mariadb.PrivateMariaDb;
import dev.ordinator.testing.ManyLines;
import dev.ordinator.testing.TestWorld;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Optional;
import org.jooq.CloseableDSLContext;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.json.JsonMapper;

/** Which order the desk takes next. */
class ClaimTest {
  private static final int ORDERS = 30;

  @Test
  void theMostUrgentClassFirstAndInItWhatWasDueFirstAndNoneTwice() throws Exception {
    try (TestWorld world = TestWorld.installed()) {
      DSLContext db = world.db();
      ManyLines.fill(db, ORDERS);
      db.execute("update sales_order set next_step_at = null");
      due(db, 11, 4, "2030-05-01 08:00:00");
      due(db, 12, 2, "2030-05-01 08:30:00");
      due(db, 13, 2, "2030-05-01 08:10:00");
      due(db, 14, 1, "2030-05-01 10:00:00"); // not yet
      Clock nine = Clock.fixed(Instant.parse("2030-05-01T09:00:00Z"), ZoneOffset.UTC);

      List<Long> taken = List.of(13L, 12L, 11L);
      claimAll(world, nine, taken);
    }
  }

  /** Each is claimed while the others are still being worked on. */
  private static void claimAll(TestWorld world, Clock clock, List<Long> expected) {
    try (CloseableDSLContext db =
        DSL.using(world.url(), PrivateMariaDb.USER, PrivateMariaDb.PASSWORD)) {
      db.transaction(working -> {
        Optional<Long> claimed =
            new OrderStore(working.dsl(), JsonMapper.shared(), clock)
                .claim()
                .map(Orders.Claim::orderId);
        assertThat(claimed).isEqualTo(expected.stream().findFirst());
        if (claimed.isPresent()) {
          claimAll(world, clock, expected.subList(1, expected.size()));
        }
      });
    }
  }

  private static void due(DSLContext db, long order, int priority, String at) {
    db.execute(
        "update sales_order set next_step = 'ROUTE', priority = ?, next_step_at = ? where id = ?",
        priority,
        at,
        order);
  }
}
