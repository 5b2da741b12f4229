package dev.ordinator.platform;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.HashSet;
import java.util.Set;
import javax.sql.DataSource;
import org.flywaydb.core.Flyway;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.flyway.autoconfigure.FlywayMigrationStrategy;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/**
 * The application's own user of the database may read and write rows, and no more; of the stock
 * ledger it may only read and append. Tables are made by another, who also gives these rights.
 */
@Configuration
class LeastRights {
  private static final Set<String> APPENDED_TO = Set.of("stock_movement");

  /**
   * @param owner who makes the tables; empty: the application's user does
   */
  @Bean
  FlywayMigrationStrategy migrateAndGrant(
      @Value("${spring.flyway.user:}") String owner,
      @Value("${spring.datasource.username:}") String user) {
    return flyway -> {
      flyway.migrate();
      if (!owner.isEmpty() && !owner.equals(user)) {
        grant(flyway, user);
      }
    };
  }

  private static void grant(Flyway flyway, String user) {
    DataSource owners = flyway.getConfiguration().getDataSource();
    String grantee = "'%s'@'127.0.0.1'".formatted(user);
    try (Connection connection = owners.getConnection();
        Statement statement = connection.createStatement()) {
      Set<String> given =
          names(
              statement,
              """
              select table_name from information_schema.table_privileges
              where table_schema = database() and privilege_type = 'INSERT' and grantee = "%s"
              """
                  .formatted(grantee));
      Set<String> tables =
          names(
              statement,
              """
              select table_name from information_schema.tables
              where table_schema = database() and table_type = 'BASE TABLE'
              """);
      tables.removeAll(given);
      for (String table : tables) {
        statement.execute(
            "grant select, insert%s on `%s` to %s"
                .formatted(APPENDED_TO.contains(table) ? "" : ", update, delete", table, grantee));
      }
    } catch (SQLException e) {
      throw new IllegalStateException("rights could not be given to " + grantee, e);
    }
  }

  private static Set<String> names(Statement statement, String query) throws SQLException {
    Set<String> names = new HashSet<>();
    try (ResultSet rows = statement.executeQuery(query)) {
      while (rows.next()) {
        names.add(rows.getString(1));
      }
    }
    return names;
  }
}
