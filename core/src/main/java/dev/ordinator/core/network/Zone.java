package dev.ordinator.core.network;

import java.util.List;

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
}
