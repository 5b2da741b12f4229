package dev.ordinator.core.catalog;

/** GS1's modulo-10 check digit (GS1 General Specifications, section 7.9.1). */
public final class Gs1 {
  private Gs1() {}

  /**
   * The digit d that makes Σ 3 × (digits at odd places from the right, d excluded) + Σ (the others)
   * + d divisible by ten.
   *
   * @param body digits without the check digit
   */
  public static char checkDigit(String body) {
    if (body.isEmpty() || !body.chars().allMatch(c -> c >= '0' && c <= '9')) {
      throw new IllegalArgumentException("digits only: ‘" + body + "’");
    }
    int sum = 0;
    for (int fromRight = 1; fromRight <= body.length(); fromRight++) {
      int digit = body.charAt(body.length() - fromRight) - '0';
      sum += fromRight % 2 == 1 ? 3 * digit : digit;
    }
    return (char) ('0' + (10 - sum % 10) % 10);
  }

  /** Whether the last digit is the right check digit of those before it. */
  public static boolean endsInCheckDigit(String digits) {
    int last = digits.length() - 1;
    return last >= 1 && checkDigit(digits.substring(0, last)) == digits.charAt(last);
  }
}
