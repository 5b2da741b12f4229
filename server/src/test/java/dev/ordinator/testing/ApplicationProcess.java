package dev.ordinator.testing;

import dev.ordinator.OrdinatorApplication;
import java.io.IOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/** The application in a process of its own, to be killed without warning. */
public final class ApplicationProcess implements AutoCloseable {
  private final Process process;
  private final String address;

  private ApplicationProcess(Process process, String address) {
    this.process = process;
    this.address = address;
  }

  static ApplicationProcess start(List<String> options) throws IOException {
    int port;
    try (ServerSocket free = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
      port = free.getLocalPort();
    }
    List<String> command = new ArrayList<>();
    command.add(Path.of(System.getProperty("java.home"), "bin", "java").toString());
    command.addAll(List.of("-Duser.timezone=UTC", "--enable-native-access=ALL-UNNAMED"));
    // it lives for seconds: start fast
    command.addAll(
        List.of("-XX:TieredStopAtLevel=1", "-XX:+UseSerialGC", "-Dorg.jooq.no-logo=true"));
    command.addAll(List.of("-cp", System.getProperty("java.class.path")));
    command.add(OrdinatorApplication.class.getName());
    command.addAll(options);
    command.add("--server.port=" + port);
    Process process = new ProcessBuilder(command).inheritIO().start();
    ApplicationProcess application = new ApplicationProcess(process, "http://127.0.0.1:" + port);
    application.awaitReady();
    return application;
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

  private void awaitReady() {
    Visitor nobody = Visitor.anonymous(address);
    TestWorld.await("the application answers")
        .pollInterval(Duration.ofMillis(250))
        .ignoreExceptions()
        .until(() -> nobody.get("/actuator/health").status() == 200);
  }
}
