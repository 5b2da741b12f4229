package dev.ordinator.sheets;

import org.jspecify.annotations.Nullable;

/**
 * A way in which texts are written.
 *
 * @param <V> what is written
 */
public interface Style<V> {
  /** Null if the text is not written so. */
  @Nullable V read(String text);

  /** As people recognise it. */
  String example();
}
