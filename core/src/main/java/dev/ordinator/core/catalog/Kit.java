package dev.ordinator.core.catalog;

import java.util.List;
import java.util.stream.Stream;

/**
 * An item made of other items. Its components may be kits themselves.
 *
 * @param sku the kit's own
 * @param parts what is always in it
 * @param choices what is left to the order, such as a size
 * @param explode when it is taken apart into its components
 */
public record Kit(String sku, List<Part> parts, List<Choice> choices, Explode explode) {

  /** When an order's kit becomes its components. */
  public enum Explode {
    /** As soon as the order is checked, so that rules see its components. */
    AT_INTAKE,
    /** As at intake, and its components may come from several nodes, in parcels of their own. */
    IN_PARTS,
    /** When it is routed: what is kept ready-made is used first. */
    AT_ROUTING,
    /** As at routing, but people see one kit until it is packed, and it stays together. */
    AT_BENCH;

    /** Whether orders for it ask for its components from the first. */
    public boolean isAtIntake() {
      return this == AT_INTAKE || this == IN_PARTS;
    }
  }

  /**
   * @param quantity units in one kit; positive
   */
  public record Part(String sku, long quantity) {
    public Part {
      requirePositive(quantity);
    }
  }

  /**
   * One of several items, in one quantity.
   *
   * @param name what is asked: Size. Kits within kits that ask the same get the same answer
   */
  public record Choice(String name, long quantity, List<Option> options) {
    public Choice {
      requirePositive(quantity);
      options = List.copyOf(options);
      if (name.isBlank() || options.isEmpty()) {
        throw new IllegalArgumentException("a choice has a name and something to choose from");
      }
    }
  }

  /**
   * @param label how an order says it: M
   */
  public record Option(String label, String sku) {}

  public Kit {
    parts = List.copyOf(parts);
    choices = List.copyOf(choices);
    if (parts.isEmpty() && choices.isEmpty()) {
      throw new IllegalArgumentException("kit " + sku + " has no component");
    }
  }

  /** All that may be in it, chosen or not. */
  Stream<String> mayContain() {
    return Stream.concat(
        parts.stream().map(Part::sku),
        choices.stream().flatMap(c -> c.options().stream()).map(Option::sku));
  }

  private static void requirePositive(long quantity) {
    if (quantity < 1) {
      throw new IllegalArgumentException("a kit has at least one of each component");
    }
  }
}
