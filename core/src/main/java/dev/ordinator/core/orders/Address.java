package dev.ordinator.core.orders;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A postal address, checked for what its country requires.
 *
 * @param country ISO 3166-1 alpha-2; empty if the channel sent none
 */
public record Address(String name, String street, String postcode, String city, String country) {

  /** One thing wrong, at one part of the address. */
  public record Problem(String part, String message) {}

  private static final Set<String> COUNTRIES = Set.of(Locale.getISOCountries());

  /** Postcode patterns of the countries sent to most; the Universal Postal Union's formats. */
  private static final Map<String, Pattern> POSTCODES =
      Map.ofEntries(
          Map.entry("AT", Pattern.compile("\\d{4}")),
          Map.entry("BE", Pattern.compile("\\d{4}")),
          Map.entry("CH", Pattern.compile("\\d{4}")),
          Map.entry("DE", Pattern.compile("\\d{5}")),
          Map.entry("DK", Pattern.compile("\\d{4}")),
          Map.entry("ES", Pattern.compile("\\d{5}")),
          Map.entry("FR", Pattern.compile("\\d{5}")),
          Map.entry("GB", Pattern.compile("(?i)[A-Z]{1,2}\\d[A-Z\\d]? ?\\d[A-Z]{2}")),
          Map.entry("IT", Pattern.compile("\\d{5}")),
          Map.entry("LU", Pattern.compile("\\d{4}")),
          Map.entry("NL", Pattern.compile("(?i)\\d{4} ?[A-Z]{2}")),
          Map.entry("PL", Pattern.compile("\\d{2}-\\d{3}")),
          Map.entry("SE", Pattern.compile("\\d{3} ?\\d{2}")));

  /** Countries that have no postcodes in general use. */
  private static final Set<String> WITHOUT_POSTCODE = Set.of("AE", "HK", "QA");

  /** Of countries whose postcodes are so many digits. */
  private static final Pattern DIGITS_ONLY = Pattern.compile("\\\\d\\{([0-9])}");

  /**
   * A postcode that some program took for a number, with the zeros at its beginning that it lost:
   * of Germany 1067 is 01067.
   *
   * @param country ISO 3166-1 alpha-2; of one that is not known to us it stays as it is
   */
  public static String withLostZeros(String postcode, String country) {
    Pattern pattern = POSTCODES.get(country.strip().toUpperCase(Locale.ROOT));
    Matcher digits = DIGITS_ONLY.matcher(pattern == null ? "" : pattern.pattern());
    if (!digits.matches()) {
      return postcode;
    }
    int lost = Integer.parseInt(digits.group(1)) - postcode.length();
    return "0".repeat(Math.max(0, lost)) + postcode;
  }

  /** What keeps a consignment from being sent there; empty if nothing does. */
  public List<Problem> problems() {
    List<Problem> found = new ArrayList<>();
    require(found, "name", name, "the receiver’s name is missing");
    require(found, "street", street, "the street is missing");
    require(found, "city", city, "the town is missing");
    if (country.isBlank()) {
      found.add(new Problem("country", "the country is missing"));
    } else if (!COUNTRIES.contains(country)) {
      found.add(new Problem("country", "‘" + country + "’ is not a two-letter country code"));
    } else {
      checkPostcode(found);
    }
    return List.copyOf(found);
  }

  private void checkPostcode(List<Problem> found) {
    if (postcode.isBlank()) {
      if (!WITHOUT_POSTCODE.contains(country)) {
        found.add(new Problem("postcode", "the postcode is missing"));
      }
      return;
    }
    Pattern pattern = POSTCODES.get(country);
    if (pattern != null && !pattern.matcher(postcode.strip()).matches()) {
      found.add(new Problem("postcode", "‘" + postcode + "’ is not a postcode of " + country));
    }
  }

  private static void require(List<Problem> found, String part, String value, String message) {
    if (value.isBlank()) {
      found.add(new Problem(part, message));
    }
  }
}
