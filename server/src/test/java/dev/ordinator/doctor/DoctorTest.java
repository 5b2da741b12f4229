package dev.ordinator.doctor;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.doctor.Doctor.Finding;
import dev.ordinator.testing.ManyLines;
import dev.ordinator.testing.TestWorld;
import java.util.List;
import org.jooq.DSLContext;
import org.junit.jupiter.api.Test;

/** What is wrong with the data is told, and nothing else. */
class DoctorTest {
  @Test
  void eachTroubleIsToldUntilItIsMended() throws Exception {
    try (TestWorld world = TestWorld.installed()) {
      DSLContext db = world.db();
      ManyLines.fill(db, 3);
      Doctor doctor = world.addInstance("--ordinator.working=false").getBean(Doctor.class);
      assertThat(troubles(doctor)).as("at first").isEmpty();

      db.execute("update stock_level set on_hand = on_hand + 1 order by item_id, node_id limit 1");
      assertThat(troubles(doctor)).singleElement().asString().startsWith("1 is not: item");
      db.execute("update stock_level set on_hand = on_hand - 1 order by item_id, node_id limit 1");

      db.execute(
          "insert into outbox (kind, once_key, order_id, state, due_at)"
              + " values ('MAIL', 'lost', 1, 'DEAD', now(3)), ('MAIL', 'sent', 1, 'DONE', now(3))");
      assertThat(troubles(doctor)).containsExactly("1 was given up; it is a snag");
      db.execute("update outbox set state = 'SETTLED' where once_key = 'lost'");

      db.execute(
          "update sales_order set next_step = 'ROUTE', next_step_at = now(3) - interval 50 minute"
              + " where id < 3");
      assertThat(troubles(doctor)).as("less than an hour").isEmpty();
      db.execute("update sales_order set next_step_at = now(3) - interval 70 minute where id < 3");
      assertThat(troubles(doctor)).singleElement().asString().startsWith("2 orders have waited");
      db.execute("update sales_order set next_step_at = null, next_step = null");

      db.execute("update channel set last_error = 'it said 503', paused = id > 1");
      assertThat(troubles(doctor)).singleElement().asString().startsWith("1 channel answers");
      db.execute("update channel set paused = true");
      assertThat(troubles(doctor)).as("those paused are not asked").isEmpty();
    }
  }

  private static List<String> troubles(Doctor doctor) {
    return doctor.look().stream().filter(f -> !f.isWell()).map(Finding::trouble).toList();
  }
}
