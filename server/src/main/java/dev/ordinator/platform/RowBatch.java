package dev.ordinator.platform;

import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Types;
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
            set(statement, place++, value);
          }
          statement.addBatch();
        }
        statement.executeBatch();
      }
    });
  }

  /** By its type: for an object the driver would look through all the types it knows. */
  private static void set(PreparedStatement statement, int place, @Nullable Object value)
      throws SQLException {
    switch (value) {
      case Long number -> statement.setLong(place, number);
      case Integer number -> statement.setInt(place, number);
      case String text -> statement.setString(place, text);
      case Boolean flag -> statement.setBoolean(place, flag);
      case Instant moment ->
          statement.setObject(place, LocalDateTime.ofInstant(moment, ZoneOffset.UTC));
      case null -> statement.setNull(place, Types.NULL);
      default -> statement.setObject(place, value);
    }
  }
}
