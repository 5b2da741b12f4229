package dev.ordinator.mariadb;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.file.FileStore;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;

/**
 * A throw-away MariaDB server: the machine's mariadbd, as a child process, on a random loopback
 * port with a temporary data directory. Fast and not durable. It dies with this JVM, even when the
 * JVM is killed with SIGKILL.
 */
public final class PrivateMariaDb implements AutoCloseable {
  public static final String USER = "test", PASSWORD = "test";

  /** A user with no right to anything until somebody gives it some; with the same password. */
  public static final String APPLICATION = "application";

  private final Path home;
  private final Process process;
  private final int port;
  private final Process keeper;

  private PrivateMariaDb(Path home, Process process, int port) throws IOException {
    this.home = home;
    this.process = process;
    this.port = port;
    this.keeper = keep(home);
  }

  public int port() {
    return port;
  }

  public String jdbcUrl(String database) {
    // the user may create databases, so that each test class can have its own
    return "jdbc:mariadb://127.0.0.1:" + port + "/" + database + "?createDatabaseIfNotExist=true";
  }

  /** An empty server. */
  public static PrivateMariaDb start() {
    return start(null);
  }

  /**
   * A server that begins with what another had.
   *
   * @param template a server that was {@link #shutDown() shut down} and not closed
   */
  public static PrivateMariaDb copyOf(PrivateMariaDb template) {
    return start(template.data());
  }

  private static PrivateMariaDb start(@Nullable Path template) {
    for (int attempt = 1; ; attempt++) {
      try {
        return startOnce(template);
      } catch (IOException e) { // somebody took the free port between our look and mariadbd's bind
        if (attempt == 3) {
          throw new UncheckedIOException(e);
        }
      }
    }
  }

  private static PrivateMariaDb startOnce(@Nullable Path template) throws IOException {
    Path home = Files.createTempDirectory(base(), "mdb-");
    Path data = home.resolve("d"), log = home.resolve("log"), init = home.resolve("init.sql");
    String me = System.getProperty("user.name");
    // a server that starts removes what others keep for the moment in the same folder
    Path moments = Files.createDirectory(home.resolve("t"));
    List<String> fast =
        List.of(
            "--tmpdir=" + moments,
            "--innodb-log-file-size=8M",
            "--innodb-flush-log-at-trx-commit=0",
            "--innodb-doublewrite=0",
            "--innodb-flush-method=nosync",
            "--innodb-use-native-aio=0");
    if (template != null) {
      copyTree(template, data);
    } else {
      run(
          log,
          concat(
              List.of(
                  bin("mariadb-install-db"),
                  "--no-defaults",
                  "--datadir=" + data,
                  "--user=" + me,
                  "--skip-test-db",
                  "--skip-name-resolve",
                  "--auth-root-authentication-method=socket",
                  "--auth-root-socket-user=" + me),
              fast));
    }
    // runs at start-up, before connections are accepted; one statement a line
    Files.writeString(
        init,
        """
        create user if not exists '%1$s'@'127.0.0.1' identified by '%2$s';
        grant all on *.* to '%1$s'@'127.0.0.1' with grant option;
        create user if not exists '%3$s'@'127.0.0.1' identified by '%2$s';
        """
            .formatted(USER, PASSWORD, APPLICATION));
    int port;
    try (ServerSocket s = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
      port = s.getLocalPort();
    }
    List<String> server =
        concat(
            List.of(
                bin("mariadbd"),
                "--no-defaults",
                "--user=" + me,
                "--datadir=" + data,
                "--socket=" + home.resolve("s"),
                "--pid-file=" + home.resolve("pid"),
                "--bind-address=127.0.0.1",
                "--port=" + port,
                "--skip-name-resolve",
                "--init-file=" + init,
                "--character-set-server=utf8mb4",
                "--collation-server=utf8mb4_unicode_ci",
                "--default-time-zone=+00:00",
                "--transaction-isolation=READ-COMMITTED",
                "--sql-mode=STRICT_TRANS_TABLES,STRICT_ALL_TABLES,ERROR_FOR_DIVISION_BY_ZERO,NO_ZERO_DATE,NO_ZERO_IN_DATE,NO_ENGINE_SUBSTITUTION",
                "--innodb-buffer-pool-size=" + System.getProperty("mariadb.buffer-pool", "64M"),
                "--innodb-buffer-pool-load-at-startup=0",
                "--innodb-buffer-pool-dump-at-shutdown=0",
                "--performance-schema=OFF",
                "--table-definition-cache=2000"),
            fast);
    // The shell reads our end of a pipe: when this JVM goes away, however it goes, `cat` ends and
    // the server is killed.
    // (A background command's stdin is /dev/null in sh, hence descriptor 3; the watcher ignores the
    // signals a Ctrl-C or
    // `timeout` sends to the whole process group, so that it always gets to clean up.)
    List<String> cmd =
        new ArrayList<>(
            List.of(
                "/bin/sh",
                "-c",
                """
                exec 3<&0
                "$@" </dev/null 3<&- & p=$!
                ( trap '' INT TERM HUP; cat <&3 >/dev/null; kill -9 $p ) >/dev/null 2>&1 &
                exec 3<&-; wait $p\
                """,
                "mdb"));
    cmd.addAll(server);
    Process p =
        new ProcessBuilder(cmd)
            .redirectErrorStream(true)
            .redirectOutput(ProcessBuilder.Redirect.appendTo(log.toFile()))
            .start();
    PrivateMariaDb db = new PrivateMariaDb(home, p, port);
    long deadline = System.nanoTime() + TimeUnit.SECONDS.toNanos(60);
    while (true) {
      try (Connection c =
          DriverManager.getConnection(
              "jdbc:mariadb://127.0.0.1:" + port + "/?connectTimeout=500", USER, PASSWORD)) {
        return db;
      } catch (SQLException e) {
        if (!p.isAlive() || System.nanoTime() > deadline) {
          String tail = Files.exists(log) ? Files.readString(log) : "";
          db.close();
          throw new IOException("mariadbd did not start: " + e.getMessage() + "\n" + tail);
        }
        try {
          Thread.sleep(20);
        } catch (InterruptedException i) {
          Thread.currentThread().interrupt();
          throw new IOException(i);
        }
      }
    }
  }

  /** Removes a folder as soon as this JVM has gone, however it went. */
  private static Process keep(Path folder) throws IOException {
    String wait = "trap '' INT TERM HUP; cat >/dev/null; sleep 0.2; rm -rf \"$1\"";
    return new ProcessBuilder("/bin/sh", "-c", wait, "keeper", folder.toString()).start();
  }

  private Path data() {
    return home.resolve("d");
  }

  /** Ends the server in order, and keeps its data: it can be copied from now on. */
  public void shutDown() {
    try (Connection c =
            DriverManager.getConnection("jdbc:mariadb://127.0.0.1:" + port + "/", USER, PASSWORD);
        Statement statement = c.createStatement()) {
      statement.execute("shutdown");
    } catch (SQLException e) {
      throw new IllegalStateException("the database could not be shut down", e);
    }
    try {
      process.waitFor();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(e);
    }
  }

  @Override
  public void close() {
    try {
      process.getOutputStream().close(); // the watcher sees end-of-file and kills the server
      if (!process.waitFor(10, TimeUnit.SECONDS)) {
        process.descendants().forEach(ProcessHandle::destroyForcibly);
        process.destroyForcibly();
      }
      deleteTree(home);
      keeper.getOutputStream().close();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  private static Path base() throws IOException {
    Path shm = Path.of("/dev/shm");
    if (Files.isWritable(shm)) {
      FileStore s = Files.getFileStore(shm);
      if (s.getUsableSpace() > 1L << 30) {
        return shm;
      }
    }
    return Path.of(System.getProperty("java.io.tmpdir"));
  }

  private static String bin(String name) {
    for (String d :
        (System.getenv("PATH") + ":/usr/sbin:/usr/bin:/usr/local/sbin:/usr/local/bin").split(":")) {
      Path p = Path.of(d, name);
      if (!d.isEmpty() && Files.isExecutable(p)) {
        return p.toString();
      }
    }
    throw new IllegalStateException(name + " not found: apt-get install -y mariadb-server");
  }

  private static void run(Path log, List<String> cmd) throws IOException {
    try {
      Process p =
          new ProcessBuilder(cmd)
              .redirectErrorStream(true)
              .redirectOutput(ProcessBuilder.Redirect.appendTo(log.toFile()))
              .start();
      if (p.waitFor() != 0) {
        throw new IllegalStateException(cmd + " failed:\n" + Files.readString(log));
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IOException(e);
    }
  }

  private static void deleteTree(Path dir) throws IOException {
    if (!Files.exists(dir)) {
      return;
    }
    try (var s = Files.walk(dir)) {
      for (Path p : s.sorted(Comparator.reverseOrder()).toList()) {
        Files.deleteIfExists(p);
      }
    }
  }

  private static void copyTree(Path from, Path to) throws IOException {
    try (var tree = Files.walk(from)) {
      for (Path p : tree.toList()) {
        Files.copy(p, to.resolve(from.relativize(p).toString()));
      }
    }
  }

  private static <T> List<T> concat(List<T> a, List<T> b) {
    List<T> r = new ArrayList<>(a);
    r.addAll(b);
    return r;
  }
}
