package dev.ordinator.bench;

import dev.ordinator.mariadb.PrivateMariaDb;
import dev.ordinator.stock.LedgerCheck;
import dev.ordinator.testing.ManyLines;
import dev.ordinator.testing.RunWish;
import dev.ordinator.testing.TestWorld;
import dev.ordinator.testing.Visitor;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import org.awaitility.Awaitility;

/**
 * An allocation run over 100,000 open lines of scarce items, seen and given out, beside a plain
 * JDBC batch write of the very rows that it writes: its log and what it sets aside.
 */
public final class RunBench {
  private static final int ORDERS = 50_000;
  private static final int BATCH = 5_000;

  private RunBench() {}

  public static void main(String[] args) throws Exception {
    try (TestWorld world = TestWorld.installed()) {
      world.addInstance();
      ManyLines.fill(world.db(), ORDERS);
      Visitor mara = world.visitor("mara");
      run(world, mara, "BY_ORDER"); // warms up
      System.out.println("| 100,000 open lines | s | ÷ batch |");
      System.out.println("| --- | --- | --- |");
      for (String way : List.of("BY_ORDER", "BY_ITEM")) {
        print(way, run(world, mara, way));
      }
      long begun = System.nanoTime();
      mara.post(
          "/api/allocation/runs",
          new RunWish().with("way", "BY_ITEM").with("parts", "WHOLE").named("whole"));
      System.out.printf("| BY_ITEM, all or nothing: seen | %.1f | |%n", seconds(begun));
      if (!world.bean(LedgerCheck.class).discrepancies().isEmpty()) {
        throw new AssertionError("levels are not what was given");
      }
    }
  }

  /**
   * What a run took, in seconds.
   *
   * @param batch for the same rows, written plainly
   */
  private record Took(
      long given, long asked, double seen, double givenOut, double batch, double takenBack) {}

  private static Took run(TestWorld world, Visitor mara, String way) throws SQLException {
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
    begun = System.nanoTime();
    if (mara.post(path + "/undo", "").status() != 200) {
      throw new AssertionError("it can't be taken back");
    }
    return new Took(
        seen.body().path("given").asLong(),
        seen.body().path("asked").asLong(),
        preview,
        commit,
        batch,
        seconds(begun));
  }

  private static void print(String way, Took t) {
    double both = t.seen() + t.givenOut();
    System.out.printf(
        "| %s: seen, %d of %d units | %.1f | %.1f |%n",
        way, t.given(), t.asked(), t.seen(), t.seen() / t.batch());
    System.out.printf(
        "| %s: given out | %.1f | %.1f |%n", way, t.givenOut(), t.givenOut() / t.batch());
    System.out.printf("| %s: both | %.1f | %.1f |%n", way, both, both / t.batch());
    System.out.printf("| the same rows by batch | %.1f | 1.0 |%n", t.batch());
    System.out.printf("| %s: taken back | %.1f | |%n", way, t.takenBack());
  }

  private static Map<String, Object> wish(String way) {
    return new RunWish()
        .with("way", way)
        .with("by", List.of("PRIORITY", "SHORT_FIRST", "AGE"))
        .with("share", way.equals("BY_ITEM"))
        .with("parts", "PART")
        .named("bench");
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
