package dev.ordinator.core.dispatch;

import dev.ordinator.core.catalog.Gs1;

/**
 * A Serial Shipping Container Code: 18 digits that name one parcel in the world (GS1 General
 * Specifications, section 2.2.1).
 */
public record Sscc(String digits) {

  /**
   * @throws IllegalArgumentException if it is not 18 digits with a right check digit
   */
  public Sscc {
    if (!digits.matches("\\d{18}") || !Gs1.endsInCheckDigit(digits)) {
      throw new IllegalArgumentException("not an SSCC: ‘" + digits + "’");
    }
  }

  /**
   * Extension digit 0 + company prefix + serial, filled with zeros to 17 digits, + check digit.
   *
   * @param companyPrefix 7 to 10 digits
   * @param serial not negative, and short enough for what the prefix leaves
   */
  public static Sscc of(String companyPrefix, long serial) {
    if (!companyPrefix.matches("\\d{7,10}") || serial < 0) {
      throw new IllegalArgumentException("prefix of 7 to 10 digits and serial ≥ 0 wanted");
    }
    int room = 16 - companyPrefix.length();
    String number = Long.toString(serial);
    if (number.length() > room) {
      throw new IllegalArgumentException(
          "serial " + serial + " does not fit in " + room + " digits");
    }
    String body = "0" + companyPrefix + "0".repeat(room - number.length()) + number;
    return new Sscc(body + Gs1.checkDigit(body));
  }
}
