package dev.ordinator.channels;

import dev.ordinator.core.limits.Limits;
import dev.ordinator.core.money.Money;
import dev.ordinator.platform.Texts;
import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Currency;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/** A part of an untrusted message, read with its place, so that each refusal says where. */
public final class MessagePart {
  private final JsonNode node;
  private final String place;

  /** Whether each value must be of the very type that belongs there, and each field be known. */
  private final boolean strict;

  private final Set<String> asked = new HashSet<>();
  private final List<MessagePart> parts = new ArrayList<>();

  private MessagePart(JsonNode node, String place, boolean strict) {
    this.node = node;
    this.place = place;
    this.strict = strict;
  }

  /** A whole message of somebody who may write more than we know, and numbers as texts. */
  static MessagePart lenient(JsonNode message) {
    return new MessagePart(message, "", false);
  }

  /** A whole message in a form of ours; {@link #refuseUnknown} ends its reading. */
  static MessagePart strict(JsonNode message) {
    return new MessagePart(message, "", true);
  }

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

  /** Refuses the first field, here or in a part that was read, that nobody asked for. */
  void refuseUnknown() {
    for (String name : node.propertyNames()) {
      if (!asked.contains(name)) {
        throw unreadable(name, "there is no such field");
      }
    }
    parts.forEach(MessagePart::refuseUnknown);
  }

  boolean isObject() {
    return node.isObject();
  }

  MessagePart object(String name) {
    JsonNode child = child(name);
    if (!child.isObject()) {
      throw unreadable(name, child.isMissingNode() ? "is missing" : "is not an object");
    }
    return part(child, at(name));
  }

  /** At least one and at most {@code most} parts. */
  List<MessagePart> list(String name, int most) {
    JsonNode child = child(name);
    if (!child.isArray() || child.isEmpty()) {
      throw unreadable(name, "has no entries");
    }
    if (child.size() > most) {
      throw unreadable(name, "has " + child.size() + " entries; at most " + most + " are taken");
    }
    List<MessagePart> entries = new ArrayList<>();
    for (int i = 0; i < child.size(); i++) {
      String where = at(name) + "[" + i + "]";
      if (!child.get(i).isObject()) {
        throw new Unreadable(where, "is not an object");
      }
      entries.add(part(child.get(i), where));
    }
    return entries;
  }

  /** As many parts as there are, none too, and at most {@code most}. */
  List<MessagePart> optionalList(String name, int most) {
    JsonNode child = child(name);
    return !has(name) || child.isArray() && child.isEmpty() ? List.of() : list(name, most);
  }

  /** Whether there is something of that name, and it is not null. */
  boolean has(String name) {
    return !child(name).isMissingNode() && !child(name).isNull();
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
    BigDecimal number;
    try {
      number = text.isEmpty() ? BigDecimal.ZERO : Limits.decimal(text);
    } catch (IllegalArgumentException e) {
      throw unreadable(name, "‘" + text + "’ " + e.getMessage());
    }
    if (number.signum() < 0 || number.scale() > 6) {
      throw unreadable(name, "‘" + text + "’ is negative or too fine a number");
    }
    return number;
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

  /**
   * A text without blanks around it, in Unicode's composed form (NFC), so that what looks the same
   * is the same; empty if there is none.
   */
  String optional(String name, int longest) {
    JsonNode child = child(name);
    if (child.isMissingNode() || child.isNull()) {
      return "";
    }
    if (strict ? !child.isString() : !child.isValueNode()) {
      throw unreadable(name, "is not a text");
    }
    String text = Texts.canonical(child.asString());
    if (Texts.hasControls(text)) {
      throw unreadable(name, "has a character that can’t be written (a control character)");
    }
    if (text.length() > longest) {
      throw unreadable(
          name, "has " + text.length() + " characters; at most " + longest + " are taken");
    }
    return text;
  }

  long whole(String name, long least, long most) {
    JsonNode child = child(name);
    if (!child.isIntegralNumber() || !child.canConvertToLong()) {
      throw unreadable(
          name,
          child.isMissingNode()
              ? "is missing"
              : "‘" + Texts.cut(child.asString(""), 40) + "’ is not a whole number");
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
    Instant moment;
    try {
      moment = Instant.parse(text);
    } catch (DateTimeException e) {
      throw unreadable(name, "‘" + text + "’ is not a time such as 2026-11-24T08:00:00Z");
    }
    believe(name, text, LocalDate.ofInstant(moment, ZoneOffset.UTC));
    return moment;
  }

  @Nullable LocalDate optionalDate(String name) {
    String text = optional(name, 40);
    if (text.isEmpty()) {
      return null;
    }
    LocalDate day;
    try {
      day = LocalDate.parse(text);
    } catch (DateTimeException e) {
      throw unreadable(name, "‘" + text + "’ is not a date such as 2026-11-24");
    }
    believe(name, text, day);
    return day;
  }

  private void believe(String name, String text, LocalDate day) {
    if (!Limits.holds(day)) {
      throw unreadable(
          name, "‘%s’ is not between %s and %s".formatted(text, Limits.FIRST_DAY, Limits.LAST_DAY));
    }
  }

  private JsonNode child(String name) {
    asked.add(name);
    return node.path(name);
  }

  private MessagePart part(JsonNode child, String where) {
    MessagePart part = new MessagePart(child, where, strict);
    parts.add(part);
    return part;
  }

  Unreadable unreadable(String name, String problem) {
    return new Unreadable(at(name), problem);
  }

  private String at(String name) {
    return place.isEmpty() ? name : place + "." + name;
  }
}
