package dev.ordinator.core.orders;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * What a channel may change about an order, and how two versions of it differ. Amounts are texts
 * with their currency: compared and shown, not reckoned with.
 *
 * @param pickUpNode the node where the buyer collects it
 * @param account who pays, and what besides the lines; null for orders taken in before it was kept
 */
public record OrderContent(
    Address shipTo,
    String service,
    @Nullable LocalDate arriveBy,
    @Nullable String pickUpNode,
    String instructions,
    String giftMessage,
    String total,
    List<Line> lines,
    @Nullable Account account) {

  /**
   * @param id the channel's own id of the line
   * @param quantity units still wanted: ordered less cancelled
   * @param price what one unit costs
   * @param discount off the whole line; null for orders taken in before it was kept
   */
  public record Line(
      String id,
      String listing,
      String title,
      long quantity,
      String price,
      String wishes,
      @Nullable String discount) {

    private Line withQuantity(long other) {
      return new Line(id, listing, title, other, price, wishes, discount);
    }
  }

  /**
   * @param billTo empty: as ship-to
   * @param currency ISO 4217
   */
  public record Account(
      String name,
      String email,
      String phone,
      String billTo,
      String shippingCharge,
      String discount,
      String currency) {}

  /** Parts of an order of which one can change without the others. */
  public enum Part {
    RECEIVER,
    ADDRESS,
    SERVICE,
    ARRIVE_BY,
    PICK_UP,
    INSTRUCTIONS,
    GIFT_MESSAGE,
    BUYER,
    BILLING_ADDRESS,
    LINE_ADDED,
    LINE_REMOVED,
    /** The line is for another product. */
    LINE_LISTING,
    LINE_QUANTITY,
    LINE_WISHES,
    LINE_PRICE,
    SHIPPING_CHARGE,
    DISCOUNT,
    TOTAL;

    private static final Set<Part> OF_PARCELS =
        Set.of(RECEIVER, ADDRESS, SERVICE, ARRIVE_BY, PICK_UP);
    private static final Set<Part> OF_GOODS =
        Set.of(LINE_ADDED, LINE_REMOVED, LINE_LISTING, LINE_QUANTITY, LINE_WISHES);
    private static final Set<Part> OF_MONEY = Set.of(LINE_PRICE, SHIPPING_CHARGE, DISCOUNT, TOTAL);

    /** Where and how everything of it is sent. */
    public boolean isOfParcels() {
      return OF_PARCELS.contains(this);
    }

    /** What of one line is sent. */
    public boolean isOfGoods() {
      return OF_GOODS.contains(this);
    }

    /** What is paid. */
    public boolean isOfMoney() {
      return OF_MONEY.contains(this);
    }
  }

  /**
   * One thing that is no longer as it was, each side in words; empty where there is nothing.
   *
   * @param part null: kept before parts were told apart
   * @param line the channel's id of the line that it is about; empty: of none
   */
  public record Change(
      @Nullable Part part, @Nullable String line, String what, String before, String after) {}

  public OrderContent {
    lines = List.copyOf(lines);
  }

  /** What is different in {@code later}, in the order in which an order is read. */
  public List<Change> changesTo(OrderContent later) {
    List<Change> changes = new ArrayList<>();
    compare(changes, Part.RECEIVER, "receiver", shipTo.name(), later.shipTo.name());
    compare(changes, Part.ADDRESS, "address", words(shipTo), words(later.shipTo));
    compare(changes, Part.SERVICE, "service", service, later.service);
    compare(changes, Part.ARRIVE_BY, "arrival asked for", words(arriveBy), words(later.arriveBy));
    compare(changes, Part.PICK_UP, "collected at", words(pickUpNode), words(later.pickUpNode));
    compare(changes, Part.INSTRUCTIONS, "instructions", instructions, later.instructions);
    compare(changes, Part.GIFT_MESSAGE, "gift message", giftMessage, later.giftMessage);
    if (account != null && later.account != null) {
      compare(changes, Part.BUYER, "buyer", who(account), who(later.account));
      compare(
          changes,
          Part.BILLING_ADDRESS,
          "billing address",
          account.billTo(),
          later.account.billTo());
    }
    changesOfLines(changes, later);
    if (account != null && later.account != null) {
      compare(
          changes,
          Part.SHIPPING_CHARGE,
          "shipping charge",
          account.shippingCharge(),
          later.account.shippingCharge());
      compare(changes, Part.DISCOUNT, "discount", account.discount(), later.account.discount());
    }
    compare(changes, Part.TOTAL, "total", total, later.total);
    return List.copyOf(changes);
  }

  private void changesOfLines(List<Change> changes, OrderContent later) {
    Map<String, Line> before = byId(lines);
    Map<String, Line> after = byId(later.lines);
    before.forEach((id, line) -> {
      Line now = after.get(id);
      if (now == null) {
        changes.add(new Change(Part.LINE_REMOVED, id, "line removed", words(line), ""));
      } else if (!now.listing().equals(line.listing())) {
        changes.add(new Change(Part.LINE_LISTING, id, line.title(), words(line), words(now)));
      } else {
        changesOfLine(changes, line, now);
      }
    });
    after.forEach((id, line) -> {
      if (!before.containsKey(id)) {
        changes.add(new Change(Part.LINE_ADDED, id, "line added", "", words(line)));
      }
    });
  }

  private static void changesOfLine(List<Change> changes, Line line, Line now) {
    if (line.quantity() != now.quantity()) {
      changes.add(
          new Change(
              Part.LINE_QUANTITY,
              line.id(),
              line.title(),
              words(line),
              words(line.withQuantity(now.quantity()))));
    }
    if (!line.wishes().equals(now.wishes())) {
      changes.add(
          new Change(
              Part.LINE_WISHES,
              line.id(),
              "wishes of " + line.title(),
              line.wishes(),
              now.wishes()));
    }
    boolean otherDiscount =
        line.discount() != null
            && now.discount() != null
            && !line.discount().equals(now.discount());
    if (!line.price().equals(now.price()) || otherDiscount) {
      changes.add(
          new Change(
              Part.LINE_PRICE, line.id(), "price of " + line.title(), price(line), price(now)));
    }
  }

  /** This, with those changes to {@code later} made and no others. */
  public OrderContent with(List<Change> made, OrderContent later) {
    Set<Part> parts = made.stream().map(OrderContent::part).collect(Collectors.toSet());
    Address where = from(later, parts.contains(Part.ADDRESS)).shipTo;
    return new OrderContent(
        new Address(
            from(later, parts.contains(Part.RECEIVER)).shipTo.name(),
            where.street(),
            where.postcode(),
            where.city(),
            where.country()),
        from(later, parts.contains(Part.SERVICE)).service,
        from(later, parts.contains(Part.ARRIVE_BY)).arriveBy,
        from(later, parts.contains(Part.PICK_UP)).pickUpNode,
        from(later, parts.contains(Part.INSTRUCTIONS)).instructions,
        from(later, parts.contains(Part.GIFT_MESSAGE)).giftMessage,
        from(later, parts.contains(Part.TOTAL)).total,
        lines(made, later),
        account == null || later.account == null ? later.account : account(parts, later.account));
  }

  private static Part part(Change change) {
    return Objects.requireNonNull(change.part(), "an old change says no part");
  }

  private OrderContent from(OrderContent later, boolean isMade) {
    return isMade ? later : this;
  }

  private Account account(Set<Part> parts, Account later) {
    Account ours = Objects.requireNonNull(account);
    Account buyer = parts.contains(Part.BUYER) ? later : ours;
    return new Account(
        buyer.name(),
        buyer.email(),
        buyer.phone(),
        (parts.contains(Part.BILLING_ADDRESS) ? later : ours).billTo(),
        (parts.contains(Part.SHIPPING_CHARGE) ? later : ours).shippingCharge(),
        (parts.contains(Part.DISCOUNT) ? later : ours).discount(),
        ours.currency());
  }

  private List<Line> lines(List<Change> made, OrderContent later) {
    Map<String, Set<Part>> byLine = new LinkedHashMap<>();
    made.stream()
        .filter(c -> c.line() != null && !c.line().isEmpty())
        .forEach(c ->
            byLine
                .computeIfAbsent(Objects.requireNonNull(c.line()), l -> new HashSet<>())
                .add(part(c)));
    Map<String, Line> after =
        later.lines.stream().collect(Collectors.toMap(Line::id, Function.identity(), (a, b) -> a));
    List<Line> merged = new ArrayList<>();
    for (Line line : lines) {
      Set<Part> parts = byLine.getOrDefault(line.id(), Set.of());
      Line now = after.get(line.id());
      if (parts.contains(Part.LINE_REMOVED)) {
        merged.add(now == null ? line.withQuantity(0) : now);
      } else if (now == null || parts.isEmpty()) {
        merged.add(line);
      } else if (parts.contains(Part.LINE_LISTING) || parts.contains(Part.LINE_ADDED)) {
        merged.add(now);
      } else {
        merged.add(
            new Line(
                line.id(),
                line.listing(),
                line.title(),
                (parts.contains(Part.LINE_QUANTITY) ? now : line).quantity(),
                (parts.contains(Part.LINE_PRICE) ? now : line).price(),
                (parts.contains(Part.LINE_WISHES) ? now : line).wishes(),
                (parts.contains(Part.LINE_PRICE) ? now : line).discount()));
      }
    }
    Set<String> known = lines.stream().map(Line::id).collect(Collectors.toSet());
    later.lines.stream()
        .filter(l -> !known.contains(l.id()) && byLine.containsKey(l.id()))
        .forEach(merged::add);
    return merged;
  }

  /**
   * The same order of which so much is wanted.
   *
   * @param units by the channel's ids of the lines
   */
  public OrderContent withWanted(Map<String, Long> units) {
    return new OrderContent(
        shipTo,
        service,
        arriveBy,
        pickUpNode,
        instructions,
        giftMessage,
        total,
        lines.stream().map(l -> l.withQuantity(units.getOrDefault(l.id(), 0L))).toList(),
        account);
  }

  /** Units that are wanted of a line; 0 if there is none such. */
  public long wanted(String line) {
    return lines.stream().filter(l -> l.id().equals(line)).mapToLong(Line::quantity).sum();
  }

  /** Changes as one sentence for a person. */
  public static String words(List<Change> changes) {
    return changes.stream()
        .map(c ->
            c.before().isEmpty()
                ? "%s: %s".formatted(c.what(), c.after())
                : c.after().isEmpty()
                    ? "%s: %s".formatted(c.what(), c.before())
                    : "%s: %s → %s".formatted(c.what(), c.before(), c.after()))
        .collect(Collectors.joining("; "));
  }

  private static void compare(
      List<Change> changes, Part part, String what, String before, String after) {
    if (!before.equals(after)) {
      changes.add(new Change(part, "", what, before, after));
    }
  }

  private static Map<String, Line> byId(List<Line> lines) {
    return lines.stream()
        .filter(l -> l.quantity() > 0)
        .collect(Collectors.toMap(Line::id, Function.identity(), (a, b) -> a, LinkedHashMap::new));
  }

  /** An address in one line, without who receives there. */
  public static String words(Address a) {
    return "%s, %s %s, %s".formatted(a.street(), a.postcode(), a.city(), a.country());
  }

  private static String who(Account a) {
    return List.of(a.name(), a.email(), a.phone()).stream()
        .filter(text -> !text.isEmpty())
        .collect(Collectors.joining(", "));
  }

  private static String words(Line line) {
    String wishes = line.wishes().isEmpty() ? "" : "; " + line.wishes();
    return "%d × %s at %s%s".formatted(line.quantity(), line.title(), line.price(), wishes);
  }

  private static String price(Line line) {
    String off = line.discount();
    boolean none = off == null || off.matches("0[.0]* .*");
    return line.price() + (none ? "" : ", less " + off);
  }

  private static String words(@Nullable Object value) {
    return Objects.toString(value, "");
  }
}
