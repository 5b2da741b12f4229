package dev.ordinator.testing;

import java.util.List;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;

/** What is in all tables of a database at a moment, to be put back later. */
final class Snapshot {
  private static final String KEPT = "kept";

  /** What an application that runs needs as it is. */
  private static final Set<String> LEFT_ALONE = Set.of("flyway_schema_history", "scheduled_tasks");

  private final DSLContext db;
  private final List<Table> tables;

  /**
   * @param columns those that are not worked out from others
   */
  private record Table(String name, String columns, boolean isEmpty) {}

  private Snapshot(DSLContext db, List<Table> tables) {
    this.db = db;
    this.tables = tables;
  }

  static Snapshot of(DSLContext db) {
    db.execute("set session group_concat_max_len = 1000000");
    db.execute("create database " + KEPT);
    List<Table> tables =
        db
            .fetch(
                """
                select t.table_name, group_concat(concat('`', c.column_name, '`'))
                from information_schema.tables t join information_schema.columns c
                  on c.table_schema = t.table_schema and c.table_name = t.table_name
                where t.table_schema = database() and t.table_type = 'BASE TABLE'
                  and c.is_generated = 'NEVER'
                group by t.table_name
                """)
            .stream()
            .filter(r -> !LEFT_ALONE.contains(r.get(0, String.class)))
            .map(r -> {
              String name = r.get(0, String.class);
              return new Table(name, r.get(1, String.class), !hasRows(db, name));
            })
            .toList();
    for (Table t : tables) {
      if (!t.isEmpty()) {
        db.execute(
            "create table %s.%s as select %s from %s"
                .formatted(KEPT, t.name(), t.columns(), t.name()));
      }
    }
    return new Snapshot(db, tables);
  }

  void putBack() {
    db.transaction(t -> {
      DSLContext one = DSL.using(t);
      one.execute("set session foreign_key_checks = 0");
      // rows of the ledger can't be deleted: this asks no trigger
      one.execute("truncate stock_movement");
      for (Table table : tables) {
        if (table.isEmpty() && !hasRows(one, table.name())) {
          continue;
        }
        one.execute("delete from " + table.name());
        if (!table.isEmpty()) {
          one.execute(
              "insert into %s (%s) select %s from %s.%s"
                  .formatted(table.name(), table.columns(), table.columns(), KEPT, table.name()));
        }
      }
    });
  }

  private static boolean hasRows(DSLContext db, String table) {
    return !db.fetch("select 1 from " + table + " limit 1").isEmpty();
  }
}
