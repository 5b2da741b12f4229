package dev.ordinator.core.network;

import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;

/** Which zone a destination is in, told by looking up each beginning of its postcode. */
public final class Zones {
  /** By country, then by prefix without spaces; of zones with the same, the one listed first. */
  private final Map<String, Map<String, Zone>> byPrefix = new HashMap<>();

  public Zones(List<Zone> zones) {
    for (Zone zone : zones) {
      for (Zone.Match match : zone.matches()) {
        Map<String, Zone> prefixes =
            byPrefix.computeIfAbsent(match.country(), country -> new HashMap<>());
        if (match.postcodes().isEmpty()) {
          prefixes.putIfAbsent("", zone);
        }
        match.postcodes().forEach(prefix -> prefixes.putIfAbsent(compact(prefix), zone));
      }
    }
  }

  /**
   * The zone that holds the destination: the one with the longest prefix that its postcode begins
   * with, in its country; a match without postcodes counts as the empty prefix; ties go to the zone
   * listed first. None may.
   */
  public Optional<Zone> of(Destination to) {
    Map<String, Zone> prefixes = byPrefix.getOrDefault(to.country(), Map.of());
    String prefix = compact(to.postcode());
    Zone zone = prefixes.get(prefix);
    while (zone == null && !prefix.isEmpty()) {
      prefix = prefix.substring(0, prefix.length() - 1);
      zone = prefixes.get(prefix);
    }
    return Optional.ofNullable(zone);
  }

  private static String compact(String postcode) {
    return postcode.replace(" ", "").toUpperCase(Locale.ROOT);
  }
}
