package dev.ordinator.files;

import dev.ordinator.channels.Channels;
import dev.ordinator.files.FileStore.FileState;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Component;

/** Brings files in as if somebody had done so, for the demo's past. */
@Component
@Profile("seed")
public class PastFiles {
  private final Channels channels;
  private final FileIntake files;
  private final FileStore store;

  PastFiles(Channels channels, FileIntake files, FileStore store) {
    this.channels = channels;
    this.files = files;
    this.store = store;
  }

  /**
   * @param take whether its good orders are taken in as well
   * @return the orders that came from it
   */
  public List<Long> bring(String channel, String name, String csv, boolean take, String actor) {
    try {
      Path content = Files.createTempFile("ordinator-past", ".csv");
      try {
        Files.writeString(content, csv);
        long id = files.upload(channels.byCode(channel).orElseThrow().id(), name, content, actor);
        if (store.file(id).state() == FileState.UPLOADED) {
          files.map(id, SheetMapping.guess(store.file(id).headers()), actor);
        }
        if (take) {
          files.take(id, actor);
        }
        return store.orderIds(id);
      } finally {
        Files.delete(content);
      }
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
