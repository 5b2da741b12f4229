package dev.ordinator.files;

import dev.ordinator.channels.MessagePart.Unreadable;
import dev.ordinator.files.FileStore.FileHead;
import dev.ordinator.files.FileStore.FileRow;
import dev.ordinator.platform.Texts;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** Rows of a file as the connector reads them, and its refusals as places in the file. */
@Component
class SheetOrders {
  private static final Pattern WHOLE = Pattern.compile("(-?\\d{1,15})(?:\\.0+)?");
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
    String ref = rows.getFirst().orderRef();
    Map<String, Object> order = new LinkedHashMap<>();
    order.put("order", ref.startsWith("row ") ? "" : ref);
    order.put("revision", file.uploadedAt().toEpochMilli());
    order.put("rows", rows.stream().map(r -> fields(mapping, r.cells())).toList());
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

  private static Map<String, Object> fields(SheetMapping mapping, List<String> cells) {
    Map<String, Object> fields = new LinkedHashMap<>();
    for (SheetField field : SheetField.values()) {
      String cell = mapping.cell(field, cells);
      Object value =
          switch (field) {
            case PRICE, SHIPPING, DISCOUNT -> mapping.number(cell);
            case QUANTITY -> whole(mapping.number(cell));
            case PLACED, ARRIVE_BY -> {
              String day = cell.isEmpty() ? "" : mapping.day(cell);
              yield day == null ? cell : day;
            }
            case COUNTRY -> cell.isEmpty() ? mapping.country() : cell;
            case PAYMENT -> cell.isEmpty() ? mapping.payment() : cell;
            default -> cell;
          };
      fields.put(name(field), value);
    }
    return fields;
  }

  /** A whole number, also if a spreadsheet wrote it as 3.0; what is none stays as it is. */
  private static Object whole(String number) {
    Matcher whole = WHOLE.matcher(number);
    return whole.matches() ? (Object) Long.valueOf(whole.group(1)) : number;
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
