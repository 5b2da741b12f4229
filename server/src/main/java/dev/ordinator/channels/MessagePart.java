package dev.ordinator.channels;

import dev.ordinator.core.money.Money;
import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Currency;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/** A part of an untrusted message, read with its place, so that each refusal says where. */
public record MessagePart(JsonNode node, String place) {

  /** Something in a message that can't be taken in, and where. */
  public static final class Unreadable extends RuntimeException {
    private static final long serialVersionUID = 1L;

    private final String place;

    public Unreadable(String place, String problem) {
      super(problem);
      this.place = place;
    }

    public String place() {
      return place;
    }
  }

  MessagePart object(String name) {
    JsonNode child = node.path(name);
    if (!child.isObject()) {
      throw unreadable(name, child.isMissingNode() ? "is missing" : "is not an object");
    }
    return new MessagePart(child, at(name));
  }

  /** At least one and at most {@code most} parts. */
  List<MessagePart> list(String name, int most) {
    JsonNode child = node.path(name);
    if (!child.isArray() || child.isEmpty()) {
      throw unreadable(name, "has no entries");
    }
    if (child.size() > most) {
      throw unreadable(name, "has " + child.size() + " entries; at most " + most + " are taken");
    }
    List<MessagePart> parts = new ArrayList<>();
    for (int i = 0; i < child.size(); i++) {
      parts.add(new MessagePart(child.get(i), at(name) + "[" + i + "]"));
    }
    return parts;
  }

  /** As many parts as there are, none too, and at most {@code most}. */
  List<MessagePart> optionalList(String name, int most) {
    JsonNode child = node.path(name);
    return !has(name) || child.isArray() && child.isEmpty() ? List.of() : list(name, most);
  }

  /** Whether there is something of that name, and it is not null. */
  boolean has(String name) {
    return node.hasNonNull(name);
  }

  /** An ISO 4217 currency. */
  String currency(String name) {
    String code = text(name, 3);
    try {
      return Currency.getInstance(code).getCurrencyCode();
    } catch (IllegalArgumentException e) {
      throw unreadable(name, "‘" + code + "’ is no currency (ISO 4217)");
    }
  }

  /** A decimal, not negative; zero if there is none. */
  BigDecimal decimalOrZero(String name) {
    String text = optional(name, 30);
    try {
      BigDecimal number = text.isEmpty() ? BigDecimal.ZERO : new BigDecimal(text);
      if (number.signum() < 0 || number.scale() > 6 || number.precision() > 18) {
        throw unreadable(name, "‘" + text + "’ is negative, too long or too exact a number");
      }
      return number;
    } catch (NumberFormatException e) {
      throw unreadable(name, "‘" + text + "’ is not a number");
    }
  }

  /** A whole number from zero; zero if there is none. */
  long wholeOrZero(String name, long most) {
    return has(name) ? whole(name, 0, most) : 0;
  }

  /** A text that must be there. */
  String text(String name, int longest) {
    String text = optional(name, longest);
    if (text.isEmpty()) {
      throw unreadable(name, "is missing");
    }
    return text;
  }

  /** A text, stripped; empty if there is none. */
  String optional(String name, int longest) {
    JsonNode child = node.path(name);
    if (child.isMissingNode() || child.isNull()) {
      return "";
    }
    if (!child.isValueNode()) {
      throw unreadable(name, "is not a text");
    }
    String text = child.asString().strip();
    if (text.length() > longest) {
      throw unreadable(
          name, "has " + text.length() + " characters; at most " + longest + " are taken");
    }
    return text;
  }

  long whole(String name, long least, long most) {
    JsonNode child = node.path(name);
    if (!child.isIntegralNumber() || !child.canConvertToLong()) {
      throw unreadable(name, child.isMissingNode() ? "is missing" : "is not a whole number");
    }
    long number = child.asLong();
    if (number < least || number > most) {
      throw unreadable(name, number + " is not between " + least + " and " + most);
    }
    return number;
  }

  /** An amount, not negative. */
  Money money(String name, String currency) {
    Money amount;
    try {
      amount = Money.parse(text(name, 30), currency);
    } catch (IllegalArgumentException e) {
      throw unreadable(name, String.valueOf(e.getMessage()));
    }
    if (amount.minor() < 0) {
      throw unreadable(name, "is negative");
    }
    return amount;
  }

  /** An amount, not negative; zero if there is none. */
  Money moneyOrZero(String name, String currency) {
    return optional(name, 30).isEmpty() ? Money.of(0, currency) : money(name, currency);
  }

  Instant instant(String name) {
    String text = text(name, 40);
    try {
      return Instant.parse(text);
    } catch (DateTimeException e) {
      throw unreadable(name, "‘" + text + "’ is not a time such as 2026-11-24T08:00:00Z");
    }
  }

  @Nullable LocalDate optionalDate(String name) {
    String text = optional(name, 40);
    try {
      return text.isEmpty() ? null : LocalDate.parse(text);
    } catch (DateTimeException e) {
      throw unreadable(name, "‘" + text + "’ is not a date such as 2026-11-24");
    }
  }

  Unreadable unreadable(String name, String problem) {
    return new Unreadable(at(name), problem);
  }

  private String at(String name) {
    return place.isEmpty() ? name : place + "." + name;
  }
}
