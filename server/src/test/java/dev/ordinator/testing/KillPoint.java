package dev.ordinator.testing;

import dev.ordinator.mariadb.PrivateMariaDb;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;

/**
 * Stops the application in the middle of a transaction: just before it would write a chosen row, a
 * trigger waits for a lock that this holds. All that the transaction did before is done, nothing of
 * it is committed, and what it told others has been told.
 */
public final class KillPoint implements AutoCloseable {
  private final Connection connection;

  /** Before an event of a kind. */
  public KillPoint(String jdbcUrl) throws SQLException {
    this(jdbcUrl, "event", "new.kind");
  }

  /**
   * @param column by which a row of a table is known
   */
  public KillPoint(String jdbcUrl, String table, String column) throws SQLException {
    connection = DriverManager.getConnection(jdbcUrl, PrivateMariaDb.USER, PrivateMariaDb.PASSWORD);
    run("create table kill_point (kind varchar(24) not null)");
    run("insert into kill_point values ('')");
    run(
        """
        create trigger kill_here before insert on %s for each row
        begin
          if %s = (select kind from kill_point) then
            set @waited = get_lock('kill-point', 300);
          end if;
        end
        """
            .formatted(table, column));
  }

  public void set(String value) throws SQLException {
    run("do get_lock('kill-point', 10)");
    run("update kill_point set kind = '" + value + "'");
  }

  /** Whether somebody stands at the point. */
  public boolean isReached() throws SQLException {
    try (Statement statement = connection.createStatement();
        ResultSet waiting =
            statement.executeQuery(
                "select count(*) from information_schema.processlist where state = 'User lock'")) {
      waiting.next();
      return waiting.getLong(1) > 0;
    }
  }

  public void lift() throws SQLException {
    run("update kill_point set kind = ''");
    run("do release_lock('kill-point')");
  }

  private void run(String sql) throws SQLException {
    try (Statement statement = connection.createStatement()) {
      statement.execute(sql);
    }
  }

  @Override
  public void close() throws SQLException {
    connection.close();
  }
}
