package dev.ordinator.standins;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/** Keeps a stand-in's memory in a file, written a moment after a change and at the end. */
final class Kept implements AutoCloseable {
  private final @Nullable Path file;
  private final Supplier<Object> state;
  private final ScheduledExecutorService writer =
      Executors.newSingleThreadScheduledExecutor(Thread.ofPlatform().daemon().factory());
  private volatile boolean changed;

  Kept(@Nullable Path folder, String name, Supplier<Object> state) {
    this.file = folder == null ? null : folder.resolve(name);
    this.state = state;
    writer.scheduleWithFixedDelay(this::writeIfChanged, 1, 1, TimeUnit.SECONDS);
  }

  void changed() {
    changed = true;
  }

  <T> @Nullable T read(Class<T> type) {
    return file != null && Files.exists(file) ? Web.JSON.readValue(file.toFile(), type) : null;
  }

  @Override
  public void close() {
    writer.shutdownNow();
    writeIfChanged();
  }

  private synchronized void writeIfChanged() {
    if (file == null || !changed) {
      return;
    }
    changed = false;
    try {
      Files.createDirectories(file.toAbsolutePath().getParent());
      Path fresh = file.resolveSibling(file.getFileName() + ".new");
      Files.write(fresh, Web.JSON.writeValueAsBytes(state.get()));
      Files.move(fresh, file, StandardCopyOption.ATOMIC_MOVE, StandardCopyOption.REPLACE_EXISTING);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
