package dev.ordinator.sheets;

import dev.ordinator.core.limits.Limits;
import java.math.BigDecimal;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** How a text writes a number: what parts its decimals, and what may part its thousands. */
public enum NumberStyle implements Style<BigDecimal> {
  POINT(',', '.', "1,234.50"),
  COMMA('.', ',', "1.234,50");

  private static final int LONGEST = 40;
  private static final Pattern AROUND_DIGITS =
      Pattern.compile("[\\s'’\\u00a0\\u202f€$£]|EUR|CHF|USD|GBP");

  private final String thousands;
  private final String decimals;
  private final Pattern pattern;
  private final String example;

  NumberStyle(char thousands, char decimals, String example) {
    this.thousands = String.valueOf(thousands);
    this.decimals = String.valueOf(decimals);
    this.example = example;
    this.pattern =
        Pattern.compile(
            "[+-]?([0-9]+|[0-9]{1,3}(%1$s[0-9]{3})+)(%2$s[0-9]+)?"
                .formatted(Pattern.quote(this.thousands), Pattern.quote(this.decimals)));
  }

  /** Blanks, apostrophes and a currency around digits don't matter. */
  @Override
  public @Nullable BigDecimal read(String text) {
    String bare = text.length() > LONGEST ? "" : AROUND_DIGITS.matcher(text).replaceAll("");
    if (bare.isEmpty() || !pattern.matcher(bare).matches()) {
      return null;
    }
    try {
      return Limits.decimal(bare.replace(thousands, "").replace(decimals, "."));
    } catch (IllegalArgumentException tooLarge) {
      return null;
    }
  }

  @Override
  public String example() {
    return example;
  }
}
