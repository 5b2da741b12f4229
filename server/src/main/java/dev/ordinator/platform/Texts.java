package dev.ordinator.platform;

import java.text.Normalizer;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.Locale;
import java.util.regex.Pattern;

/** Fits texts of others into our columns. */
public final class Texts {
  private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("EEE d MMM", Locale.UK);
  private static final DateTimeFormatter DATE =
      DateTimeFormatter.ofPattern("EEE d MMM yyyy", Locale.UK);

  /** Those of Unicode's category Cc, but for the ones between words and lines. */
  private static final Pattern CONTROL = Pattern.compile("[\\p{Cc}&&[^\\n\\r\\t]]");

  private Texts() {}

  /** A cell that no spreadsheet takes for a formula; a number below zero is none. */
  public static String harmless(String text) {
    return !text.isEmpty()
            && !text.matches("-\\d+(\\.\\d+)?")
            && "=+-@\t\r".indexOf(text.charAt(0)) >= 0
        ? "'" + text
        : text;
  }

  /** In Unicode's composed form (NFC): two texts that look the same are the same. */
  public static String composed(String text) {
    return Normalizer.normalize(text, Normalizer.Form.NFC);
  }

  /** Likewise, without blanks around it. */
  public static String canonical(String text) {
    return composed(text).strip();
  }

  /** Whether a text has characters that nobody can write or read (control characters). */
  public static boolean hasControls(String text) {
    return CONTROL.matcher(text).find();
  }

  /**
   * At most {@code length} characters, an ellipsis for the rest; never half of a surrogate pair.
   */
  public static String cut(String text, int length) {
    if (text.length() <= length) {
      return text;
    }
    int end = Character.isHighSurrogate(text.charAt(length - 2)) ? length - 2 : length - 1;
    return text.substring(0, end) + "…";
  }

  /** A day as people say it, such as Thu 26 Nov. */
  public static String day(LocalDate day) {
    return DAY.format(day);
  }

  /** A day for who may read of it long after, such as Thu 26 Nov 2026. */
  public static String date(LocalDate day) {
    return DATE.format(day);
  }

  /** An error as one line for a person: its message, or its name if it has none. */
  public static String of(Throwable error) {
    String message = error.getMessage();
    return message == null || message.isBlank() ? error.getClass().getSimpleName() : message;
  }
}
