package dev.ordinator.platform;

import java.sql.PreparedStatement;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Table;
import org.jspecify.annotations.Nullable;

/**
 * Many rows of one table, all with the same columns, written in one JDBC batch. jOOQ makes the
 * statement; the values go to the driver as they are, for wrapping each costs more than writing it.
 */
public final class RowBatch {
  private final DSLContext db;
  private final Table<?> table;
  private final List<Map<Field<?>, @Nullable Object>> rows = new ArrayList<>();

  public RowBatch(DSLContext db, Table<?> table) {
    this.db = db;
    this.table = table;
  }

  /**
   * @param row in the same order of columns as the first
   */
  public void add(Map<Field<?>, @Nullable Object> row) {
    rows.add(row);
  }

  /** Writes what was added. */
  public void insert() {
    if (rows.isEmpty()) {
      return;
    }
    List<Field<?>> columns = List.copyOf(rows.getFirst().keySet());
    String sql = db.insertInto(table, columns).values(new Object[columns.size()]).getSQL();
    db.connection(connection -> {
      try (PreparedStatement statement = connection.prepareStatement(sql)) {
        for (Map<Field<?>, @Nullable Object> row : rows) {
          int place = 1;
          for (Object value : row.values()) {
            statement.setObject(place++, plain(value));
          }
          statement.addBatch();
        }
        statement.executeBatch();
      }
    });
  }

  private static @Nullable Object plain(@Nullable Object value) {
    return value instanceof Instant moment
        ? LocalDateTime.ofInstant(moment, ZoneOffset.UTC)
        : value;
  }
}
