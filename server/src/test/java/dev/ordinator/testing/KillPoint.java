package dev.ordinator.testing;

import dev.ordinator.mariadb.PrivateMariaDb;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;

/**
 * Stops the application in the middle of a transaction: just before it would write a chosen event,
 * a trigger waits for a lock that this holds. All that the transaction did before is done, nothing
 * of it is committed, and what it told others has been told.
 */
public final class KillPoint implements AutoCloseable {
  private final Connection connection;

  public KillPoint(String jdbcUrl) throws SQLException {
    connection = DriverManager.getConnection(jdbcUrl, PrivateMariaDb.USER, PrivateMariaDb.PASSWORD);
    run("create table kill_point (kind varchar(24) not null)");
    run("insert into kill_point values ('')");
    run(
        """
        create trigger kill_here before insert on event for each row
        begin
          if new.kind = (select kind from kill_point) then
            set @waited = get_lock('kill-point', 300);
          end if;
        end
        """);
  }

  public void set(String eventKind) throws SQLException {
    run("do get_lock('kill-point', 10)");
    run("update kill_point set kind = '" + eventKind + "'");
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
