package dev.ordinator.bench;

import dev.ordinator.mariadb.PrivateMariaDb;
import dev.ordinator.stock.LedgerCheck;
import dev.ordinator.testing.TestWorld;
import dev.ordinator.testing.Visitor;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.awaitility.Awaitility;
import org.jooq.DSLContext;

/**
 * An allocation run over 100,000 open lines of scarce items, seen and given out, beside a plain
 * JDBC batch write of the very rows that it writes: its log and what it sets aside.
 */
public final class RunBench {
  private static final int ORDERS = 50_000;
  private static final int BATCH = 5_000;

  private static final String GOODS =
      """
      create table bench_item as
      select row_number() over (order by id) - 1 as n, id from item
      where counted and id not in (select item_id from kit) limit 100
      """;

  private static final String ORDER_ROWS =
      """
      insert into sales_order (id, channel_id, external_id, external_rev, number, stage, placed_at,
        received_at, buyer_name, email, phone, ship_name, ship_street, ship_postcode, ship_city, ship_country,
        service_wording, level, payment_state, payment_method, currency, shipping_charge, discount, total,
        base_total, units, instructions, gift_message, approved_at, priority, next_step)
      select seq, 1, concat('R', seq), 1, concat('BR-', seq), 'APPROVED', date_sub(now(3), interval seq second),
        now(3), concat('Buyer ', seq), concat('b', seq, '@buyer.example'), '', 'B', 'Lindepad 1', '1012 AB', 'Stad',
        'NL', '', 'STANDARD', 'PAID', 'card', 'EUR', 0, 0, 1000, 1000 + seq * 31 %% 40000, 4, '', '', now(3),
        1 + seq %% 5, 'BATCH'
      from seq_1_to_%d
      """;

  private static final String LINE_ROWS =
      """
      insert into order_line (order_id, line_no, external_id, listing_id, item_id, title, quantity, unit_price, discount)
      select o.seq, l.seq, l.seq, 1, (select id from bench_item where n = (o.seq * 7 + l.seq * 13) %% 100),
        'a line', 1 + (o.seq + l.seq) %% 4, 1000, 0
      from seq_1_to_%d o join seq_1_to_2 l
      """;

  private RunBench() {}

  public static void main(String[] args) throws Exception {
    try (TestWorld world = TestWorld.installed()) {
      world.addInstance();
      fill(world.db());
      Visitor mara = world.visitor("mara");
      System.out.println("| 100,000 open lines | s | ÷ batch |");
      System.out.println("| --- | --- | --- |");
      for (String way : List.of("BY_ORDER", "BY_ITEM")) {
        long begun = System.nanoTime();
        var seen = mara.post("/api/allocation/runs", wish(way));
        double preview = seconds(begun);
        if (seen.status() != 201) {
          throw new AssertionError(seen.toString());
        }
        long id = seen.body().path("id").asLong();
        String path = "/api/allocation/runs/" + id;
        begun = System.nanoTime();
        mara.post(path + "/commit", "");
        Awaitility.await("the run")
            .atMost(Duration.ofMinutes(10))
            .pollInterval(Duration.ofMillis(20))
            .until(() -> mara.read(path).path("state").asString().equals("COMMITTED"));
        double commit = seconds(begun);
        double batch = batch(world, id);
        System.out.printf(
            "| %s: seen, %d of %d units | %.1f | %.1f |%n",
            way,
            seen.body().path("given").asLong(),
            seen.body().path("asked").asLong(),
            preview,
            preview / batch);
        System.out.printf("| %s: given out | %.1f | %.1f |%n", way, commit, commit / batch);
        System.out.printf(
            "| %s: both | %.1f | %.1f |%n", way, preview + commit, (preview + commit) / batch);
        System.out.printf("| the same rows by batch | %.1f | 1.0 |%n", batch);
        begun = System.nanoTime();
        if (mara.post(path + "/undo", "").status() != 200) {
          throw new AssertionError("it can't be taken back");
        }
        System.out.printf("| %s: taken back | %.1f | |%n", way, seconds(begun));
      }
      if (!world.bean(LedgerCheck.class).discrepancies().isEmpty()) {
        throw new AssertionError("levels are not what was given");
      }
    }
  }

  private static void fill(DSLContext db) {
    db.execute(
        """
        insert ignore into listing (id, channel_id, external_id, title, first_seen)
        values (1, 1, 'bench', 'a line', now(3))
        """);
    db.execute(GOODS);
    db.execute(ORDER_ROWS.formatted(ORDERS));
    db.execute(LINE_ROWS.formatted(ORDERS));
    db.execute("analyze table sales_order, order_line");
    // about a third of what is wanted is there
    db.execute(
        """
        insert into stock_movement (item_id, node_id, place_id, quantity, reason, actor, note, at)
        select p.item_id, p.node_id, p.id, 600, 'RECEIPT', 'bench', '', now(3) from stock_place p
        join bench_item b on b.id = p.item_id where p.state = 'SELLABLE' and p.lot_id is null
        """);
    db.execute(
        """
        update stock_place p join bench_item b on b.id = p.item_id set p.on_hand = p.on_hand + 600
        where p.state = 'SELLABLE' and p.lot_id is null
        """);
    db.execute(
        """
        update stock_level l set on_hand = (select coalesce(sum(p.on_hand), 0) from stock_place p
          where p.item_id = l.item_id and p.node_id = l.node_id and p.state = 'SELLABLE')
        """);
  }

  private static Map<String, Object> wish(String way) {
    Map<String, Object> scope = new HashMap<>();
    for (String none : List.of("nodes", "channels", "customers", "categories", "tags")) {
      scope.put(none, List.of());
    }
    scope.put("neededWithin", null);
    scope.put("priorityTo", null);
    scope.put("skuFrom", "");
    scope.put("skuTo", "");
    scope.put("expression", "");
    return Map.of(
        "name",
        "bench",
        "settings",
        Map.of(
            "scope",
            scope,
            "way",
            way,
            "by",
            List.of("PRIORITY", "SHORT_FIRST", "AGE"),
            "share",
            way.equals("BY_ITEM"),
            "parts",
            "PART",
            "earmarks",
            true,
            "thenRoute",
            false));
  }

  /** Seconds that it takes to write the run's rows to tables like theirs. */
  private static double batch(TestWorld world, long run) throws SQLException {
    try (Connection connection =
        DriverManager.getConnection(world.url(), PrivateMariaDb.USER, PrivateMariaDb.PASSWORD)) {
      double seconds = 0;
      for (String table : List.of("allocation_run_line", "allocation_run_part", "earmark")) {
        seconds += copy(connection, table, run);
      }
      return seconds;
    }
  }

  private static double copy(Connection connection, String table, long run) throws SQLException {
    try (Statement make = connection.createStatement()) {
      make.execute("create or replace table bench_copy like " + table);
    }
    connection.setAutoCommit(false);
    double seconds = 0;
    try (Statement read = connection.createStatement();
        ResultSet rows = read.executeQuery("select * from " + table + " where run_id = " + run)) {
      int columns = rows.getMetaData().getColumnCount();
      StringBuilder names = new StringBuilder();
      StringBuilder marks = new StringBuilder();
      for (int c = 1; c <= columns; c++) {
        names.append(c == 1 ? "" : ", ").append(rows.getMetaData().getColumnName(c));
        marks.append(c == 1 ? "?" : ", ?");
      }
      try (PreparedStatement insert =
          connection.prepareStatement(
              "insert into bench_copy (" + names + ") values (" + marks + ")")) {
        int waiting = 0;
        while (rows.next()) {
          for (int c = 1; c <= columns; c++) {
            insert.setObject(c, rows.getObject(c));
          }
          insert.addBatch();
          if (++waiting == BATCH) {
            seconds += write(insert);
            waiting = 0;
          }
        }
        seconds += write(insert);
      }
    }
    long begun = System.nanoTime();
    connection.commit();
    connection.setAutoCommit(true);
    return seconds + seconds(begun);
  }

  private static double write(PreparedStatement insert) throws SQLException {
    long begun = System.nanoTime();
    insert.executeBatch();
    return seconds(begun);
  }

  private static double seconds(long begun) {
    return (System.nanoTime() - begun) / 1e9;
  }
}
