package dev.ordinator.platform;

import java.util.List;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * A part of a long list, read by keyset.
 *
 * @param next give it as {@code after} to get what follows; null: that was all
 */
public record Slice<T>(List<T> rows, @Nullable String next) {

  /** Makes a slice of rows read with a limit of {@code limit + 1}. */
  public static <T> Slice<T> of(List<T> read, int limit, Function<T, String> key) {
    if (read.size() <= limit) {
      return new Slice<>(List.copyOf(read), null);
    }
    List<T> rows = List.copyOf(read.subList(0, limit));
    return new Slice<>(rows, key.apply(rows.getLast()));
  }
}
