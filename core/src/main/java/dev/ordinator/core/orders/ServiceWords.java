package dev.ordinator.core.orders;

import dev.ordinator.core.network.ServiceLevel;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;

/** A channel's own wordings of its shipping services, mapped to levels. Never guesses. */
public record ServiceWords(List<Entry> entries) {

  /** How a wording is compared; without regard to case and outer spaces. */
  public enum How {
    EXACT,
    BEGINS_WITH,
    CONTAINS
  }

  public record Entry(How how, String wording, ServiceLevel level) {
    boolean matches(String asked) {
      String wanted = normal(wording);
      return switch (how) {
        case EXACT -> asked.equals(wanted);
        case BEGINS_WITH -> asked.startsWith(wanted);
        case CONTAINS -> asked.contains(wanted);
      };
    }
  }

  public ServiceWords {
    entries = List.copyOf(entries);
  }

  /**
   * The level of the closest entry: exact before begins-with before contains, and among equals the
   * longest wording. Empty if none matches: then a person must say. An order that asks for nothing
   * gets the standard level.
   */
  public Optional<ServiceLevel> level(String wording) {
    String asked = normal(wording);
    if (asked.isEmpty()) {
      return Optional.of(ServiceLevel.STANDARD);
    }
    return entries.stream()
        .filter(e -> e.matches(asked))
        .min(
            Comparator.comparing(Entry::how)
                .thenComparing(e -> -e.wording().length())
                .thenComparing(Entry::wording))
        .map(Entry::level);
  }

  private static String normal(String wording) {
    return wording.strip().toLowerCase(Locale.ROOT);
  }
}
