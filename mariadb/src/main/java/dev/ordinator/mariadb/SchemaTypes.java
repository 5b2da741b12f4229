package dev.ordinator.mariadb;

import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.security.MessageDigest;
import java.util.HexFormat;
import org.flywaydb.core.Flyway;
import org.jooq.Constants;
import org.jooq.codegen.GenerationTool;
import org.jooq.meta.jaxb.Configuration;
import org.jooq.meta.jaxb.Database;
import org.jooq.meta.jaxb.ForcedType;
import org.jooq.meta.jaxb.Generate;
import org.jooq.meta.jaxb.Generator;
import org.jooq.meta.jaxb.Jdbc;
import org.jooq.meta.jaxb.Logging;
import org.jooq.meta.jaxb.Target;

/**
 * Writes the jOOQ types: migrates a throw-away MariaDB and generates from what is there. Skipped
 * while the migrations are unchanged.
 *
 * <p>Arguments: migrations folder, output folder, Java package.
 */
public final class SchemaTypes {
  /** Raise when the generator's settings change, so that stamped output is made anew. */
  private static final String SETTINGS = "2";

  private static final String UTC_CONVERTER =
      "org.jooq.Converter.ofNullable(java.time.LocalDateTime.class, java.time.Instant.class,"
          + " t -> t.toInstant(java.time.ZoneOffset.UTC),"
          + " t -> java.time.LocalDateTime.ofInstant(t, java.time.ZoneOffset.UTC))";

  private SchemaTypes() {}

  public static void main(String[] args) throws Exception {
    Path migrations = Path.of(args[0]);
    Path out = Path.of(args[1]);
    String wanted = fingerprint(migrations, args[2]);
    Path stamp = out.resolve(".stamp");
    if (Files.exists(stamp) && Files.readString(stamp).equals(wanted)) {
      return;
    }
    try (PrivateMariaDb db = PrivateMariaDb.start()) {
      String url = db.jdbcUrl("app");
      Flyway.configure()
          .dataSource(url, PrivateMariaDb.USER, PrivateMariaDb.PASSWORD)
          .locations("filesystem:" + migrations)
          .load()
          .migrate();
      GenerationTool.generate(configuration(url, args[2], out));
    }
    Files.writeString(stamp, wanted);
  }

  private static Configuration configuration(String url, String javaPackage, Path out) {
    return new Configuration()
        .withLogging(Logging.WARN)
        .withJdbc(
            new Jdbc()
                .withDriver("org.mariadb.jdbc.Driver")
                .withUrl(url)
                .withUser(PrivateMariaDb.USER)
                .withPassword(PrivateMariaDb.PASSWORD))
        .withGenerator(
            new Generator()
                .withDatabase(
                    new Database()
                        .withName("org.jooq.meta.mariadb.MariaDBDatabase")
                        .withInputSchema("app")
                        .withOutputSchemaToDefault(true)
                        .withExcludes("flyway_schema_history|SPRING_SESSION.*|scheduled_tasks")
                        .withForcedTypes(
                            new ForcedType()
                                .withName("BOOLEAN")
                                .withIncludeTypes("(?i:tinyint\\(1\\))"),
                            // DATETIME has no zone: all of ours are UTC
                            new ForcedType()
                                .withUserType("java.time.Instant")
                                .withIncludeTypes("(?i:datetime.*|timestamp.*)")
                                .withConverter(UTC_CONVERTER)))
                .withGenerate(
                    new Generate()
                        .withJavaTimeTypes(true)
                        .withRecords(true)
                        .withFluentSetters(true)
                        .withGlobalCatalogReferences(false)
                        .withImplicitJoinPathsToMany(false)
                        .withImplicitJoinPathsManyToMany(false))
                .withTarget(
                    new Target()
                        .withPackageName(javaPackage)
                        .withDirectory(out.toString())
                        .withClean(true)));
  }

  private static String fingerprint(Path migrations, String javaPackage) throws Exception {
    MessageDigest digest = MessageDigest.getInstance("SHA-256");
    digest.update(bytes(Constants.FULL_VERSION + javaPackage + SETTINGS));
    try (var files = Files.walk(migrations)) {
      for (Path file : files.filter(Files::isRegularFile).sorted().toList()) {
        digest.update(bytes(migrations.relativize(file).toString()));
        digest.update(Files.readAllBytes(file));
      }
    }
    return HexFormat.of().formatHex(digest.digest());
  }

  private static byte[] bytes(String text) {
    return text.getBytes(StandardCharsets.UTF_8);
  }
}
