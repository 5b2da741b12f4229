package dev.ordinator.testing;

import dev.ordinator.OrdinatorApplication;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.awaitility.Awaitility;
import org.jspecify.annotations.Nullable;

/** The application in a process of its own, to be killed without warning. */
public final class ApplicationProcess implements AutoCloseable {
  private static final Pattern LISTENS = Pattern.compile("Tomcat started on port (\\d+)");

  /** A machine that does much else at the same time takes minutes to start it. */
  private static final Duration PATIENCE = Duration.ofMinutes(5);

  private final Process process;
  private final String address;

  private ApplicationProcess(Process process, Path log) {
    this.process = process;
    this.address = "http://127.0.0.1:" + port(process, log);
  }

  static ApplicationProcess start(List<String> options) throws IOException {
    List<String> command = new ArrayList<>(FastStart.of(options).command());
    command.add(OrdinatorApplication.class.getName());
    command.addAll(options);
    command.addAll(
        List.of("--server.port=0", "--logging.level.org.springframework.boot.tomcat=info"));
    // the output of a test's own process is spoken for: this one's goes to a file
    Path log = Files.createTempFile(Path.of("target"), "application", ".log");
    Process process =
        new ProcessBuilder(command).redirectErrorStream(true).redirectOutput(log.toFile()).start();
    return new ApplicationProcess(process, log);
  }

  public String address() {
    return address;
  }

  /** SIGKILL: no shutdown hook runs, nothing is tidied up. */
  public void kill() {
    process.destroyForcibly();
    process.onExit().join();
  }

  @Override
  public void close() {
    kill();
  }

  /**
   * The port that it chose, as soon as it answers there.
   *
   * @throws IllegalStateException with what it said, if it ended instead
   */
  private static int port(Process process, Path log) {
    Integer port =
        Awaitility.await("the application answers")
            .atMost(PATIENCE)
            .pollInterval(Duration.ofMillis(100))
            .until(
                () -> {
                  if (!process.isAlive()) {
                    throw new IllegalStateException("it ended: " + Files.readString(log));
                  }
                  return announced(log);
                },
                found -> found != null);
    return port;
  }

  private static @Nullable Integer announced(Path log) {
    try {
      Matcher said = LISTENS.matcher(Files.readString(log));
      return said.find() ? Integer.valueOf(said.group(1)) : null;
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
