package dev.ordinator.core.rules;

import dev.ordinator.core.orders.PaymentState;
import java.time.DayOfWeek;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/** A fact that a condition can test, with its type. */
public enum Field {
  /** The channel's code. */
  CHANNEL(f -> new Value.Text(f.channel())),
  /** The channel's country site, in its own words. */
  SITE(f -> new Value.Text(f.site())),
  PAYMENT(f -> new Value.Text(f.payment().name()), names(PaymentState.values())),
  PAYMENT_METHOD(f -> new Value.Text(f.paymentMethod())),
  SERVICE_ASKED(f -> new Value.Text(f.serviceAsked())),
  COUNTRY(f -> new Value.Text(f.country())),
  CITY(f -> new Value.Text(f.city())),
  POSTCODE(f -> new Value.Text(f.postcode())),
  /** The buyer's mail address. */
  BUYER(f -> new Value.Text(f.buyer())),
  /** The group in which the buyer is. */
  CUSTOMER_GROUP(f -> new Value.Text(f.customerGroup())),
  /** Whether the buyer never ordered before. */
  FIRST_ORDER(f -> new Value.Text(f.firstOrder() ? "YES" : "NO"), List.of("YES", "NO")),
  /** Whether the same buyer ordered the same goods some hours before. */
  ORDERED_TWICE(f -> new Value.Text(f.orderedTwice() ? "YES" : "NO"), List.of("YES", "NO")),
  WEEKDAY(f -> new Value.Text(f.weekday().name()), names(DayOfWeek.values())),
  SKU(f -> new Value.Texts(f.goods().skus())),
  GTIN(f -> new Value.Texts(f.goods().gtins())),
  CATEGORY(f -> new Value.Texts(f.goods().categories())),
  ITEM_TAG(f -> new Value.Texts(f.goods().tags())),
  /** Codes of the suppliers that offer any of its items. */
  SUPPLIER(f -> new Value.Texts(f.goods().suppliers())),
  /** Codes of the nodes at which its items are at home. */
  HOME_NODE(f -> new Value.Texts(f.goods().homes())),
  /** Codes of the nodes that have all of it. */
  STOCKED_AT(f -> new Value.Texts(f.goods().stockedAt())),
  TAG(f -> new Value.Texts(f.tags())),
  /** Minor units of the base currency. */
  VALUE(f -> new Value.Number(f.value())),
  /** Grams. */
  WEIGHT(f -> new Value.Number(f.goods().weight())),
  UNITS(f -> new Value.Number(f.goods().units())),
  LINES(f -> new Value.Number(f.goods().lines())),
  /** Units, at all nodes together, of the item of which least can be had. */
  AVAILABLE(f -> new Value.Number(f.goods().available())),
  /** 0 to 23. */
  HOUR(f -> new Value.Number((long) f.hour())),
  /** Days from today to the arrival that was asked for; none if none was. */
  DAYS_TO_ARRIVAL(f -> new Value.Number(f.daysToArrival()));

  /** What values a field has. */
  public enum Kind {
    TEXT,
    /** One of those that {@link Field#options} lists. */
    CHOICE,
    /** Several texts at once: a test holds if it does for any of them. */
    TEXTS,
    NUMBER
  }

  /** A fact's value, by its type. */
  sealed interface Value {
    record Text(String text) implements Value {}

    /** Null: there is none, and no comparison with it holds. */
    record Number(@Nullable Long number) implements Value {}

    record Texts(Set<String> texts) implements Value {}
  }

  private static final Set<Field> MANY =
      Set.of(SKU, GTIN, CATEGORY, ITEM_TAG, SUPPLIER, HOME_NODE, STOCKED_AT, TAG);
  private static final Set<Field> NUMBERS =
      Set.of(VALUE, WEIGHT, UNITS, LINES, AVAILABLE, HOUR, DAYS_TO_ARRIVAL);

  private final Function<OrderFacts, Value> of;
  private final List<String> options;

  Field(Function<OrderFacts, Value> of) {
    this(of, List.of());
  }

  Field(Function<OrderFacts, Value> of, List<String> options) {
    this.of = of;
    this.options = options;
  }

  Value of(OrderFacts facts) {
    return of.apply(facts);
  }

  /** All values that it can have; empty if there is no end of them. */
  public List<String> options() {
    return options;
  }

  public Kind kind() {
    if (NUMBERS.contains(this)) {
      return Kind.NUMBER;
    }
    if (MANY.contains(this)) {
      return Kind.TEXTS;
    }
    return options.isEmpty() ? Kind.TEXT : Kind.CHOICE;
  }

  /** Whether it can be compared so. */
  public boolean takes(Operator operator) {
    return kind() == Kind.CHOICE
        ? operator == Operator.IS
        : operator.numeric() == (kind() == Kind.NUMBER);
  }

  private static List<String> names(Enum<?>[] values) {
    return Arrays.stream(values).map(Enum::name).toList();
  }
}
