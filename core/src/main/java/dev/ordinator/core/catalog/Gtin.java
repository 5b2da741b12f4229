package dev.ordinator.core.catalog;

/**
 * A Global Trade Item Number of 8, 12, 13 or 14 digits with its check digit, as in the GS1 General
 * Specifications, section 7.9.
 */
public record Gtin(String digits) {

  /**
   * @throws IllegalArgumentException if the length or the check digit is wrong
   */
  public Gtin {
    if (!digits.matches("\\d{8}|\\d{12,14}")) {
      throw new IllegalArgumentException("a GTIN has 8, 12, 13 or 14 digits: ‘" + digits + "’");
    }
    if (!Gs1.endsInCheckDigit(digits)) {
      throw new IllegalArgumentException("wrong check digit: ‘" + digits + "’");
    }
  }

  /** Completes a number that lacks its check digit. */
  public static Gtin withCheckDigit(String body) {
    return new Gtin(body + Gs1.checkDigit(body));
  }

  /** The 14-digit form, in which GTINs of different lengths compare equal. */
  public String normalized() {
    return "0".repeat(14 - digits.length()) + digits;
  }
}
