package dev.ordinator.files;

import dev.ordinator.channels.MessagePart.Unreadable;
import dev.ordinator.core.orders.Address;
import dev.ordinator.files.FileStore.FileHead;
import dev.ordinator.files.FileStore.FileRow;
import dev.ordinator.platform.Texts;
import dev.ordinator.sheets.CellType;
import dev.ordinator.sheets.DayStyle;
import dev.ordinator.sheets.NumberStyle;
import dev.ordinator.sheets.SheetRow;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Rows of a file as the connector reads them, and its refusals as places in the file. */
@Component
class SheetOrders {
  private static final Pattern PLACE = Pattern.compile("rows\\[(\\d+)]\\.(\\w+)");

  private final JsonMapper json;

  SheetOrders(JsonMapper json) {
    this.json = json;
  }

  /**
   * What is wrong with an order's rows.
   *
   * @param column at fault, from 0; null: the row as a whole
   */
  record Fault(int row, @Nullable Integer column, String problem) {}

  /** Cells under their fields' names, numbers and days as ours. */
  String message(FileHead file, SheetMapping mapping, List<FileRow> rows) {
    FileStyles styles = FileStyles.of(mapping, file.styles());
    String ref = rows.getFirst().orderRef();
    Map<String, Object> order = new LinkedHashMap<>();
    order.put("order", ref.startsWith("row ") ? "" : ref);
    order.put("revision", file.uploadedAt().toEpochMilli());
    order.put("rows", rows.stream().map(r -> fields(mapping, styles, r)).toList());
    return json.writeValueAsString(order);
  }

  static Fault fault(SheetMapping mapping, List<FileRow> rows, Unreadable why) {
    Matcher place = PLACE.matcher(why.place());
    if (place.matches()) {
      SheetField field = field(place.group(2));
      return new Fault(
          rows.get(Integer.parseInt(place.group(1))).rowNo(),
          mapping.columns().get(field),
          field.title() + " " + Texts.of(why));
    }
    boolean noName = why.place().equals("order");
    return new Fault(
        rows.getFirst().rowNo(),
        noName ? mapping.columns().get(SheetField.ORDER) : null,
        (noName ? "order " : "") + Texts.of(why));
  }

  /** A row that has more cells than the header names: perhaps a text that was not quoted. */
  Optional<Fault> beyondHeader(FileHead file, List<FileRow> rows) {
    int columns = file.headers().size();
    for (FileRow row : rows) {
      for (int i = columns; i < row.cells().size(); i++) {
        if (!row.cells().get(i).isBlank()) {
          return Optional.of(
              new Fault(
                  row.rowNo(),
                  null,
                  "‘%s’ stands beyond the last column; is a text with a delimiter not quoted?"
                      .formatted(Texts.cut(row.cells().get(i), 40))));
        }
      }
    }
    return Optional.empty();
  }

  private static Map<String, Object> fields(SheetMapping mapping, FileStyles styles, FileRow row) {
    Map<String, Object> fields = new LinkedHashMap<>();
    for (SheetField field : SheetField.values()) {
      Integer column = mapping.columns().get(field);
      String cell = mapping.cell(field, row.cells());
      CellType type = column == null ? CellType.TEXT : SheetRow.type(row.types(), column);
      Object value =
          switch (field) {
            case PRICE, SHIPPING, DISCOUNT -> number(cell, type, styles.numbers().get(field));
            case QUANTITY -> whole(number(cell, type, styles.numbers().get(field)));
            case PLACED, ARRIVE_BY -> day(cell, type, styles.days().get(field));
            case COUNTRY -> cell.isEmpty() ? mapping.country() : cell;
            case PAYMENT -> cell.isEmpty() ? mapping.payment() : cell;
            case POSTCODE ->
                type == CellType.NUMBER ? Address.withLostZeros(cell, country(mapping, row)) : cell;
            default -> cell;
          };
      fields.put(name(field), value);
    }
    return fields;
  }

  private static String country(SheetMapping mapping, FileRow row) {
    String country = mapping.cell(SheetField.COUNTRY, row.cells());
    return country.isEmpty() ? mapping.country() : country;
  }

  /** A number as our messages write it; what is none stays as it is, to be refused by its words. */
  private static String number(String cell, CellType type, @Nullable NumberStyle style) {
    BigDecimal read = type == CellType.TEXT && style != null ? style.read(cell) : null;
    return read == null ? cell : read.toPlainString();
  }

  /** Likewise a whole number, also if it is written as 3.00. */
  private static Object whole(String number) {
    try {
      return new BigDecimal(number).longValueExact();
    } catch (ArithmeticException | NumberFormatException none) {
      return number;
    }
  }

  private static String day(String cell, CellType type, @Nullable DayStyle style) {
    LocalDate read = type == CellType.TEXT && style != null ? style.read(cell) : null;
    return read == null ? cell : read.toString();
  }

  private static String name(SheetField field) {
    return field == SheetField.ARRIVE_BY ? "arriveBy" : field.title();
  }

  private static SheetField field(String name) {
    for (SheetField field : SheetField.values()) {
      if (name(field).equals(name)) {
        return field;
      }
    }
    throw new IllegalArgumentException("no field " + name);
  }
}
