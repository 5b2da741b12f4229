package dev.ordinator.sheets;

import java.math.BigDecimal;
import java.util.EnumMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * What a whole column shows of how it is written.
 *
 * @param possible styles that fit all its texts; if none fits all, those that fit some
 * @param contradicts whether no single style fits
 * @param example a text that means something else in another style; empty if there is none. If the
 *     texts contradict each other and each means one thing, the first of them
 * @param <S> of styles
 */
public record ColumnStyle<S>(List<S> possible, boolean contradicts, String example) {

  /** Whether the column by itself shows the one style in which it is written. */
  public boolean tells() {
    return !contradicts && possible.size() == 1;
  }

  /** Whether it could mean this or that. */
  public boolean leavesOpen() {
    return contradicts || possible.size() > 1 && !example.isEmpty();
  }

  /** Goes through a column's texts once. What fits no style at all says nothing. */
  public static final class Finder<S extends Enum<S> & Style<?>> {
    private final List<S> styles;
    private final Map<S, Integer> fits;
    private int texts;
    private String example = "";
    private String first = "";

    public Finder(Class<S> styles) {
      this.styles = List.of(styles.getEnumConstants());
      this.fits = new EnumMap<>(styles);
    }

    public void add(String text) {
      if (text.isBlank()) {
        return;
      }
      Set<Object> meanings = new HashSet<>();
      for (S style : styles) {
        Object meaning = style.read(text);
        if (meaning != null) {
          meanings.add(
              meaning instanceof BigDecimal number ? number.stripTrailingZeros() : meaning);
          fits.merge(style, 1, Integer::sum);
        }
      }
      texts += meanings.isEmpty() ? 0 : 1;
      if (first.isEmpty() && !meanings.isEmpty()) {
        first = text;
      }
      if (meanings.size() > 1 && example.isEmpty()) {
        example = text;
      }
    }

    public ColumnStyle<S> found() {
      List<S> all = styles.stream().filter(s -> fits.getOrDefault(s, 0) == texts).toList();
      return texts == 0
          ? new ColumnStyle<>(List.of(), false, "")
          : all.isEmpty()
              ? new ColumnStyle<>(
                  List.copyOf(fits.keySet()), true, example.isEmpty() ? first : example)
              : new ColumnStyle<>(all, false, example);
    }
  }
}
