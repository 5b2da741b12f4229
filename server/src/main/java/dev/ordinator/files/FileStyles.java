package dev.ordinator.files;

import dev.ordinator.sheets.ColumnStyle;
import dev.ordinator.sheets.DayStyle;
import dev.ordinator.sheets.NumberStyle;
import dev.ordinator.sheets.Style;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * How the fields of a file are written: as their columns tell, else as its other columns do, else
 * as a person says; and what has to be asked before any of it is read.
 *
 * @param numbers of the fields that hold numbers
 * @param days of those that hold days
 * @param asks what a person must say
 */
record FileStyles(
    Map<SheetField, NumberStyle> numbers, Map<SheetField, DayStyle> days, List<Ask> asks) {

  private static final Set<SheetField> NUMBERS =
      EnumSet.of(SheetField.QUANTITY, SheetField.PRICE, SheetField.SHIPPING, SheetField.DISCOUNT);
  private static final Set<SheetField> DAYS = EnumSet.of(SheetField.PLACED, SheetField.ARRIVE_BY);

  /** What is open. */
  enum What {
    NUMBERS,
    DAYS
  }

  /** A way to read the example. */
  record Reading(String style, String written, String meaning) {}

  /**
   * @param field in whose column it shows
   * @param example a text of it that can be read in several ways; if its texts contradict each
   *     other, perhaps only one of them
   */
  record Ask(What what, SheetField field, String example, List<Reading> readings) {}

  static FileStyles of(SheetMapping mapping, ColumnStyles columns) {
    List<Ask> asks = new ArrayList<>();
    Map<SheetField, NumberStyle> numbers =
        settle(
            NUMBERS,
            mapping,
            columns.numbers(),
            mapping.numbers(),
            NumberStyle.POINT,
            (field, open) -> asks.add(ask(What.NUMBERS, field, open, FileStyles::plain)));
    Map<SheetField, DayStyle> days =
        settle(
            DAYS,
            mapping,
            columns.days(),
            mapping.days(),
            DayStyle.YEAR_FIRST,
            (field, open) -> asks.add(ask(What.DAYS, field, open, LocalDate::toString)));
    return new FileStyles(Map.copyOf(numbers), Map.copyOf(days), List.copyOf(asks));
  }

  private interface Asking<S> {
    void ask(SheetField field, ColumnStyle<S> open);
  }

  private static <S extends Enum<S> & Style<?>> Map<SheetField, S> settle(
      Set<SheetField> fields,
      SheetMapping mapping,
      List<ColumnStyle<S>> columns,
      @Nullable S said,
      S otherwise,
      Asking<S> asking) {
    Map<SheetField, ColumnStyle<S>> shown = new EnumMap<>(SheetField.class);
    for (SheetField field : fields) {
      Integer column = mapping.columns().get(field);
      if (column != null && column < columns.size()) {
        shown.put(field, columns.get(column));
      }
    }
    List<S> told =
        shown.values().stream()
            .filter(ColumnStyle::tells)
            .map(c -> c.possible().getFirst())
            .distinct()
            .toList();
    boolean contradicts = shown.values().stream().anyMatch(ColumnStyle::contradicts);
    Map<SheetField, S> settled = new EnumMap<>(SheetField.class);
    shown.forEach((field, column) -> {
      boolean othersTell =
          told.size() == 1 && !contradicts && column.possible().contains(told.getFirst());
      if (column.tells()) {
        settled.put(field, column.possible().getFirst());
      } else if (!column.leavesOpen()) {
        settled.put(field, column.possible().stream().findFirst().orElse(otherwise));
      } else if (othersTell) {
        settled.put(field, told.getFirst());
      } else if (said != null) {
        settled.put(field, said);
      } else {
        asking.ask(field, column);
      }
    });
    return settled;
  }

  private static String plain(BigDecimal number) {
    return number.stripTrailingZeros().toPlainString();
  }

  private static <S extends Enum<S> & Style<V>, V> Ask ask(
      What what, SheetField field, ColumnStyle<S> open, Function<V, String> meaning) {
    return new Ask(
        what,
        field,
        open.example(),
        open.possible().stream()
            .flatMap(style ->
                Stream.ofNullable(style.read(open.example()))
                    .map(read -> new Reading(style.name(), style.example(), meaning.apply(read))))
            .toList());
  }
}
