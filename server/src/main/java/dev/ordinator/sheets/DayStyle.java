package dev.ordinator.sheets;

import dev.ordinator.core.limits.Limits;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.time.format.ResolverStyle;
import java.util.Locale;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** How a text writes a day. A time of day behind it doesn't matter. */
public enum DayStyle implements Style<LocalDate> {
  YEAR_FIRST("uuuu-M-d", "2026-11-24"),
  YEAR_FIRST_SLASHES("uuuu/M/d", "2026/11/24"),
  DOTS("d.M.uuuu", "24.11.2026"),
  DAY_FIRST("d/M/uuuu", "24/11/2026"),
  MONTH_FIRST("M/d/uuuu", "11/24/2026"),
  DASHES("d-M-uuuu", "24-11-2026");

  private static final Pattern TIME = Pattern.compile("[ T][0-9]{1,2}:[0-9]{2}.*$");

  /** What looks like no day at all is not tried: an exception for each cell would take long. */
  private final Pattern shape;

  private final DateTimeFormatter format;
  private final String example;

  DayStyle(String pattern, String example) {
    this.shape =
        Pattern.compile(
            pattern
                .replace("uuuu", "[0-9]{4}")
                .replace("M", "[0-9]{1,2}")
                .replace("d", "[0-9]{1,2}")
                .replace(".", "\\."));
    this.format =
        DateTimeFormatter.ofPattern(pattern, Locale.ROOT).withResolverStyle(ResolverStyle.STRICT);
    this.example = example;
  }

  @Override
  public @Nullable LocalDate read(String text) {
    String bare = text.indexOf(':') < 0 ? text : TIME.matcher(text).replaceFirst("");
    if (!shape.matcher(bare).matches()) {
      return null;
    }
    try {
      LocalDate day = LocalDate.parse(bare, format);
      return Limits.holds(day) ? day : null;
    } catch (DateTimeException otherwise) {
      return null;
    }
  }

  @Override
  public String example() {
    return example;
  }
}
