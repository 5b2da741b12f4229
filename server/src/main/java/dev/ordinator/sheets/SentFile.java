package dev.ordinator.sheets;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.util.function.Function;

/** A file that somebody sends, kept on the disk while it is worked on. */
public final class SentFile {
  private static final long LARGEST = 64L * 1024 * 1024;

  private SentFile() {}

  /**
   * @throws dev.ordinator.platform.Problem if it is longer than 64 MB
   */
  public static <T> T with(InputStream content, Function<Path, T> work) {
    try {
      Path file = Files.createTempFile("ordinator-sent", "");
      try {
        Files.copy(new LimitedStream(content, LARGEST), file, StandardCopyOption.REPLACE_EXISTING);
        return work.apply(file);
      } finally {
        Files.delete(file);
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
