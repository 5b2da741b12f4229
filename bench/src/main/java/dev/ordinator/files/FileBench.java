package dev.ordinator.files;

import dev.ordinator.files.FileStore.FileState;
import dev.ordinator.mariadb.PrivateMariaDb;
import dev.ordinator.testing.TestWorld;
import java.io.BufferedWriter;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Collections;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
import org.jooq.impl.DSL;

/**
 * Orders from a CSV file, from its first byte until all of them are approved, against a JDBC batch
 * insert of the very rows that were written. In this package, because it drives the work itself:
 * the desk, which would go on routing, is not at work.
 */
public final class FileBench {
  private static final List<Integer> SIZES = List.of(5_000, 50_000);
  private static final int BATCH = 500;

  private FileBench() {}

  public static void main(String[] args) throws Exception {
    System.out.println(
        "| orders, lines | file to approved (s) | of that: read, checked, taken (s) |"
            + " rows written | JDBC batch of the same (s) | ratio | live heap after (MB) |");
    System.out.println("| --- | --- | --- | --- | --- | --- | --- |");
    List<Integer> sizes = args.length == 0 ? SIZES : Stream.of(args).map(Integer::valueOf).toList();
    for (int size : sizes) {
      try (TestWorld world = TestWorld.installed()) {
        world.addInstance("--ordinator.working=false");
        measure(world, size);
      }
    }
  }

  private static void measure(TestWorld world, int orders) throws Exception {
    long channel = clubs(world);
    FileIntake intake = world.bean(FileIntake.class);
    FileWork work = world.bean(FileWork.class);
    FileStore store = world.bean(FileStore.class);
    // a small one first: what starts up is not what is measured
    take(world, intake, work, store, channel, file("W", 600));

    Path file = file("B", orders);
    String since = "where id > ";
    long lastOrder = last(world, "sales_order");
    long lastLine = last(world, "order_line");
    long lastEvent = last(world, "event");
    long began = System.nanoTime();
    long id = intake.upload(channel, "bench.csv", file, "bench");
    double read = seconds(began);
    finish(work, store, id, FileState.CHECKED);
    double checked = seconds(began);
    intake.take(id, "bench");
    finish(work, store, id, FileState.TAKEN);
    double taken = seconds(began);
    int approved =
        world
            .db()
            .fetchCount(
                DSL.table("sales_order"),
                DSL.condition("stage = 'APPROVED' and id > " + lastOrder));
    if (approved != orders) {
      throw new IllegalStateException(approved + " of " + orders + " approved");
    }
    System.gc();
    Runtime runtime = Runtime.getRuntime();
    long live = (runtime.totalMemory() - runtime.freeMemory()) / 1024 / 1024;
    Copy copy = new Copy(0, 0);
    try (Connection db =
        DriverManager.getConnection(world.url(), PrivateMariaDb.USER, PrivateMariaDb.PASSWORD)) {
      copy = copy.plus(copy(db, "intake_row", "where file_id = " + id));
      copy = copy.plus(copy(db, "sales_order", since + lastOrder));
      copy = copy.plus(copy(db, "order_line", since + lastLine));
      copy = copy.plus(copy(db, "event", since + lastEvent));
    }
    System.out.printf(
        "| %,d, %,d | %.1f | %.1f, %.1f, %.1f | %,d | %.1f | %.2f | %d |%n",
        orders,
        store.file(id).rows(),
        taken,
        read,
        checked - read,
        taken - checked,
        copy.rows(),
        copy.seconds(),
        taken / copy.seconds(),
        live);
  }

  private static void take(
      TestWorld world, FileIntake intake, FileWork work, FileStore store, long channel, Path file) {
    long id = intake.upload(channel, "warm.csv", file, "bench");
    SheetMapping mapping = SheetMapping.guess(store.file(id).headers());
    intake.map(id, mapping, "bench");
    finish(work, store, id, FileState.CHECKED);
    intake.take(id, "bench");
    finish(work, store, id, FileState.TAKEN);
  }

  private static void finish(FileWork work, FileStore store, long id, FileState state) {
    while (store.file(id).state() != state) {
      work.begin(id);
    }
  }

  /** 2.2 lines an order: of five, four have two and one has three. */
  private static Path file(String prefix, int orders) throws IOException {
    Path file = Files.createTempFile("bench", ".csv");
    file.toFile().deleteOnExit();
    try (BufferedWriter out = Files.newBufferedWriter(file)) {
      out.write(
          "order,buyer,email,street,postcode,city,country,sku,title,quantity,price,shipping\n");
      for (int i = 0; i < orders; i++) {
        for (int line = 0; line < (i % 5 == 0 ? 3 : 2); line++) {
          out.write(
              "%s%d,Buyer %d,b%d@buyer.example,Lindepad %d,1012 AB,Amsterdam,NL,%s,an item,%d,%d.95,4.90%n"
                  .formatted(
                      prefix,
                      i,
                      i,
                      i,
                      i % 200,
                      List.of("TOOL-J", "BRUSH", "SMOKER-L").get((i + line) % 3),
                      1 + i % 4,
                      5 + i % 90));
        }
      }
    }
    return file;
  }

  private static long clubs(TestWorld world) {
    world.db().execute("update channel set approval = 'WHEN_PAID' where code = 'CLUBS'");
    return number(world, "select id from channel where code = 'CLUBS'");
  }

  private static long last(TestWorld world, String table) {
    return number(world, "select coalesce(max(id), 0) from " + table);
  }

  private static long number(TestWorld world, String sql) {
    return Objects.requireNonNull(world.db().fetchSingle(sql).get(0, Long.class));
  }

  private record Copy(long rows, double seconds) {
    Copy plus(Copy other) {
      return new Copy(rows + other.rows, seconds + other.seconds);
    }
  }

  /** Only writing is timed, into a table with the same columns and indexes, but no foreign keys. */
  private static Copy copy(Connection db, String table, String which) throws SQLException {
    db.setAutoCommit(true);
    String columns;
    try (Statement make = db.createStatement()) {
      make.execute("create or replace table bench_" + table + " like " + table);
      try (ResultSet all =
          make.executeQuery(
              "select column_name from information_schema.columns where table_schema = database()"
                  + " and table_name = '"
                  + table
                  + "' and generation_expression is null order by ordinal_position")) {
        StringBuilder names = new StringBuilder();
        while (all.next()) {
          names.append(names.isEmpty() ? "" : ", ").append(all.getString(1));
        }
        columns = names.toString();
      }
    }
    db.setAutoCommit(false);
    int width = columns.split(",").length;
    long rows = 0;
    double seconds = 0;
    try (Statement read = db.createStatement();
        PreparedStatement write =
            db.prepareStatement(
                "insert into bench_%s (%s) values (%s)"
                    .formatted(
                        table, columns, String.join(",", Collections.nCopies(width, "?"))))) {
      read.setFetchSize(0);
      try (ResultSet from =
          read.executeQuery("select " + columns + " from " + table + " " + which)) {
        boolean more = from.next();
        while (more) {
          int waiting = 0;
          while (more && waiting < BATCH) {
            for (int i = 1; i <= width; i++) {
              write.setObject(i, from.getObject(i));
            }
            write.addBatch();
            waiting++;
            more = from.next();
          }
          long began = System.nanoTime();
          write.executeBatch();
          db.commit();
          seconds += seconds(began);
          rows += waiting;
        }
      }
    }
    return new Copy(rows, seconds);
  }

  private static double seconds(long began) {
    return (System.nanoTime() - began) / 1e9;
  }
}
