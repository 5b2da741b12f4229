package dev.ordinator.testing;

import dev.ordinator.OrdinatorApplication;
import java.io.File;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.jar.JarEntry;
import java.util.jar.JarOutputStream;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * How the application is started as a process of its own, in half the time: Java has recorded once
 * what it loads and links then (JEP 483, JEP 514). That needs archives, so that classes which lie
 * in folders are packed first.
 */
final class FastStart {
  private static @Nullable FastStart known;

  private final List<String> java;
  private final Path record;

  private FastStart(List<String> java, Path record) {
    this.java = java;
    this.record = record;
  }

  /**
   * @param options of an application that can start now: it does, and ends again, the first time
   */
  static synchronized FastStart of(List<String> options) throws IOException {
    FastStart start = known;
    if (start == null) {
      Path folder = Files.createDirectories(Path.of("target", "fast-start"));
      // other test processes want the same
      try (FileChannel file =
              FileChannel.open(
                  folder.resolve("lock"), StandardOpenOption.CREATE, StandardOpenOption.WRITE);
          FileLock alone = file.lock()) {
        start = learned(folder, options);
        known = start;
      }
    }
    return start;
  }

  /** All before the main class. */
  List<String> command() {
    List<String> command = new ArrayList<>(java);
    command.add(1, "-XX:AOTCache=" + record);
    return command;
  }

  private static FastStart learned(Path folder, List<String> options) throws IOException {
    Map<Path, Path> archives = new LinkedHashMap<>();
    long changed = 0;
    for (String part : System.getProperty("java.class.path").split(File.pathSeparator)) {
      Path path = Path.of(part);
      if (!Files.isDirectory(path)) {
        archives.put(path, path);
      } else if (!path.endsWith("test-classes")) {
        archives.put(path, folder.resolve("classes-" + archives.size() + ".jar"));
        changed = Math.max(changed, lastChange(path));
      }
    }
    List<String> java =
        List.of(
            Path.of(System.getProperty("java.home"), "bin", "java").toString(),
            "-Duser.timezone=UTC",
            "--enable-native-access=ALL-UNNAMED",
            "-XX:TieredStopAtLevel=1",
            "-XX:+UseSerialGC",
            "-Dorg.jooq.no-logo=true",
            "-cp",
            archives.values().stream()
                .map(Path::toString)
                .collect(Collectors.joining(File.pathSeparator)));
    Path record = folder.resolve("start-" + changed + "-" + java.hashCode() + ".aot");
    FastStart start = new FastStart(java, record);
    if (!Files.exists(record)) {
      for (Map.Entry<Path, Path> archive : archives.entrySet()) {
        if (!archive.getKey().equals(archive.getValue())) {
          pack(archive.getKey(), archive.getValue());
        }
      }
      start.learn(options);
    }
    return start;
  }

  private static long lastChange(Path folder) throws IOException {
    try (Stream<Path> files = Files.walk(folder)) {
      return files.mapToLong(f -> f.toFile().lastModified()).max().orElse(0);
    }
  }

  private static void pack(Path folder, Path archive) throws IOException {
    try (OutputStream out = Files.newOutputStream(archive);
        JarOutputStream jar = new JarOutputStream(out);
        Stream<Path> files = Files.walk(folder)) {
      for (Path file : files.filter(f -> !f.equals(folder)).sorted().toList()) {
        String name = folder.relativize(file).toString().replace(File.separatorChar, '/');
        boolean isFolder = Files.isDirectory(file);
        // scanning for classes goes by folders
        jar.putNextEntry(new JarEntry(isFolder ? name + "/" : name));
        if (!isFolder) {
          Files.copy(file, jar);
        }
        jar.closeEntry();
      }
    }
  }

  private void learn(List<String> options) throws IOException {
    List<String> command = new ArrayList<>(java);
    command.add(1, "-XX:AOTCacheOutput=" + record);
    command.add(2, "-Dspring.context.exit=onRefresh");
    command.add(OrdinatorApplication.class.getName());
    command.addAll(options);
    command.addAll(List.of("--server.port=0", "--ordinator.working=false"));
    Path log = Path.of("target", "fast-start", "learning.log");
    Process process =
        new ProcessBuilder(command).redirectErrorStream(true).redirectOutput(log.toFile()).start();
    process.onExit().join();
    if (!Files.exists(record)) {
      throw new IllegalStateException("it did not learn to start: " + Files.readString(log));
    }
  }
}
