package dev.ordinator.core.rules;

import java.util.Set;
import java.util.function.Function;

/** A fact that a condition can test, with its type. */
public enum Field {
  CHANNEL(f -> new Value.Text(f.channel())),
  PAYMENT(f -> new Value.Text(f.payment().name())),
  SERVICE_ASKED(f -> new Value.Text(f.serviceAsked())),
  COUNTRY(f -> new Value.Text(f.country())),
  POSTCODE(f -> new Value.Text(f.postcode())),
  /** Minor units of the base currency. */
  VALUE(f -> new Value.Number(f.value())),
  /** Grams. */
  WEIGHT(f -> new Value.Number(f.weight())),
  UNITS(f -> new Value.Number(f.units())),
  SKU(f -> new Value.Texts(f.skus())),
  CATEGORY(f -> new Value.Texts(f.categories())),
  TAG(f -> new Value.Texts(f.tags()));

  /** A fact's value, by its type. */
  sealed interface Value {
    record Text(String text) implements Value {}

    record Number(long number) implements Value {}

    /** Holds if any of the texts does. */
    record Texts(Set<String> texts) implements Value {}
  }

  private final Function<OrderFacts, Value> of;

  Field(Function<OrderFacts, Value> of) {
    this.of = of;
  }

  Value of(OrderFacts facts) {
    return of.apply(facts);
  }

  /** Whether it is compared as a number. */
  public boolean numeric() {
    return this == VALUE || this == WEIGHT || this == UNITS;
  }
}
