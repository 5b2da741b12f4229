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
      assertThat(troubles(doctor))
          .as("nobody would go on")
          .containsExactly("3 break it, such as BR-1; BR-2; BR-3");
      db.execute("update sales_order set next_step = 'BATCH'");

      db.execute("update channel set last_error = 'it said 503', paused = id > 1");
      assertThat(troubles(doctor)).singleElement().asString().startsWith("1 channel answers");
      db.execute("update channel set paused = true");
      assertThat(troubles(doctor)).as("those paused are not asked").isEmpty();

      db.execute("update sales_order set stage = 'CANCELLED' where id = 2");
      assertThat(troubles(doctor))
          .as("its units are wanted")
          .singleElement()
          .asString()
          .contains("BR-2");
      db.execute("update sales_order set stage = 'APPROVED' where id = 2");
      db.execute("update order_line set cancelled = quantity where order_id = 2");
      assertThat(troubles(doctor)).as("none of its units is").containsExactly("1 breaks it: BR-2");
      db.execute("update order_line set cancelled = 0 where order_id = 2");
      db.execute("update sales_order set stage = 'SHIPPED' where id = 2");
      assertThat(troubles(doctor))
          .as("and none has left")
          .singleElement()
          .asString()
          .contains("BR-2, line ");
      db.execute("update sales_order set stage = 'APPROVED' where id = 2");

      db.execute(
          "insert into backorder (order_id, order_line_id, item_id, units, lacking, place, since)"
              + " select 3, l.id, l.item_id, 1, true, 1, now(3) from order_line l where l.order_id = 3"
              + " order by l.id limit 1");
      db.execute("update sales_order set next_step = null, snagged = true where id = 3");
      assertThat(troubles(doctor)).as("a snag waits for a person").isEmpty();
      db.execute("update sales_order set snagged = false, held = true where id = 3");
      assertThat(troubles(doctor)).singleElement().asString().contains("BR-3, item ");
      db.execute("update backorder set closed_at = now(3)");

      db.execute(
          "insert into node_load (node_id, day, consignments) select min(id), curdate(), 2 from node");
      assertThat(troubles(doctor)).singleElement().asString().startsWith("1 breaks it: node ");
      db.execute("delete from node_load");

      db.execute(
          "update sales_order o set tax = 0, prices_with_tax = true, shipping_charge = 0, total ="
              + " (select sum(unit_price * quantity - discount - order_discount) from order_line l"
              + " where l.order_id = o.id) where id = 2");
      assertThat(troubles(doctor)).isEmpty();
      db.execute("update sales_order set total = total + 1 where id = 2");
      assertThat(troubles(doctor)).as("a cent too much").containsExactly("1 breaks it: BR-2");
      db.execute("update sales_order set total = total - 1 where id = 2");

      db.execute(
          "insert into refund (order_id, no, amount, shipping, fee, reason, state, asked_by, asked_at)"
              + " values (1, 1, 99999999, 0, 0, 'twice', 'ASKED', 'test', now(3))");
      assertThat(troubles(doctor))
          .as("never more than came in")
          .containsExactly("1 breaks it: BR-1");
    }
  }

  private static List<String> troubles(Doctor doctor) {
    return doctor.look().stream().filter(f -> !f.isWell()).map(Finding::trouble).toList();
  }
}
