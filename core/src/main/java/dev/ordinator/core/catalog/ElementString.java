package dev.ordinator.core.catalog;

import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * What a GS1 barcode says of a unit: which item, and of which lot or with which serial number.
 *
 * <p>Read are the forms with brackets, {@code (01)09506000134352(10)AB-12}, and as scanners send
 * them: application identifiers without brackets, fields of variable length ended by FNC1 (ASCII
 * 29), perhaps after a symbology identifier such as {@code ]C1}. Source: GS1 General
 * Specifications, sections 3 and 7.8.
 *
 * @param gtin 14 digits
 * @param lot application identifier 10
 * @param serial application identifier 21
 */
public record ElementString(String gtin, @Nullable String lot, @Nullable String serial) {
  private static final char FNC1 = 29;

  /** Lengths of the fields that are always as long, without their identifier. */
  private static final Map<String, Integer> FIXED =
      Map.of("00", 18, "01", 14, "02", 14, "11", 6, "12", 6, "13", 6, "15", 6, "16", 6, "17", 6);

  private static final Pattern BRACKETED = Pattern.compile("\\((\\d{2,4})\\)([^(]{1,90})");

  /** Empty if a scan is nothing of the sort, or names no item. */
  public static Optional<ElementString> parse(String scan) {
    String text = scan.strip().replaceFirst("^\\](C1|e0|d2|Q3|J1)", "");
    Map<String, String> fields = text.startsWith("(") ? bracketed(text) : plain(text);
    String gtin = fields.get("01");
    return gtin != null && gtin.matches("\\d{14}")
        ? Optional.of(new ElementString(gtin, fields.get("10"), fields.get("21")))
        : Optional.empty();
  }

  private static Map<String, String> bracketed(String text) {
    Map<String, String> fields = new HashMap<>();
    Matcher matcher = BRACKETED.matcher(text);
    int end = 0;
    while (matcher.find() && matcher.start() == end) {
      fields.put(matcher.group(1), matcher.group(2));
      end = matcher.end();
    }
    return end == text.length() ? fields : Map.of();
  }

  /** Only if it begins with an item, so that no SKU of digits is taken for one. */
  private static Map<String, String> plain(String text) {
    Map<String, String> fields = new HashMap<>();
    String rest = text.startsWith(String.valueOf(FNC1)) ? text.substring(1) : text;
    if (!rest.matches("01\\d{14}.+")) {
      return fields;
    }
    while (rest.length() > 2) {
      String identifier = rest.substring(0, 2);
      Integer fixed = FIXED.get(identifier);
      int stop = rest.indexOf(FNC1, 2);
      int end = fixed != null ? 2 + fixed : stop < 0 ? rest.length() : stop;
      if (end > rest.length()) {
        return Map.of();
      }
      fields.put(identifier, rest.substring(2, end));
      rest = rest.substring(end).replaceFirst("^" + FNC1, "");
    }
    return fields;
  }
}
