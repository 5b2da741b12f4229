package dev.ordinator.core.network;

import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** A set of destinations: countries and postcode prefixes. */
public record Zone(String code, List<Match> matches) {

  /**
   * @param postcodes prefixes; empty means the whole country
   */
  public record Match(String country, List<String> postcodes) {
    public Match {
      postcodes = List.copyOf(postcodes);
    }
  }

  public Zone {
    matches = List.copyOf(matches);
  }

  /**
   * The zone with the longest prefix that matches the postcode in its country; a match without
   * postcodes counts as the empty prefix; ties go to the zone listed first.
   */
  public static Optional<Zone> of(Destination to, List<Zone> zones) {
    Zone best = null;
    int longest = -1;
    for (Zone zone : zones) {
      int length = zone.prefixLength(to);
      if (length > longest) {
        best = zone;
        longest = length;
      }
    }
    return Optional.ofNullable(best);
  }

  /** Length of the longest prefix that matches; −1 if none does. */
  private int prefixLength(Destination to) {
    String postcode = compact(to.postcode());
    int longest = -1;
    for (Match match : matches) {
      if (!match.country().equals(to.country())) {
        continue;
      }
      if (match.postcodes().isEmpty()) {
        longest = Math.max(longest, 0);
      }
      for (String prefix : match.postcodes()) {
        String wanted = compact(prefix);
        if (postcode.startsWith(wanted)) {
          longest = Math.max(longest, wanted.length());
        }
      }
    }
    return longest;
  }

  private static String compact(String postcode) {
    return postcode.replace(" ", "").toUpperCase(Locale.ROOT);
  }
}
