package dev.ordinator.core.orders;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * What a channel may change about an order, and how two versions of it differ.
 *
 * @param pickUpNode the node where the buyer collects it
 * @param total minor units, with its currency, as text: compared and shown, not reckoned with
 */
public record OrderContent(
    Address shipTo,
    String service,
    @Nullable LocalDate arriveBy,
    @Nullable String pickUpNode,
    String instructions,
    String giftMessage,
    String total,
    List<Line> lines) {

  /**
   * @param id the channel's own id of the line
   * @param quantity units still wanted: ordered less cancelled
   * @param price what one unit costs, as text
   */
  public record Line(
      String id, String listing, String title, long quantity, String price, String wishes) {}

  /** One thing that is no longer as it was, each side in words; empty where there is nothing. */
  public record Change(String what, String before, String after) {}

  public OrderContent {
    lines = List.copyOf(lines);
  }

  /** What is different in {@code later}, in the order in which an order is read. */
  public List<Change> changesTo(OrderContent later) {
    List<Change> changes = new ArrayList<>();
    compare(changes, "receiver", shipTo.name(), later.shipTo.name());
    compare(changes, "address", words(shipTo), words(later.shipTo));
    compare(changes, "service", service, later.service);
    compare(changes, "arrival asked for", words(arriveBy), words(later.arriveBy));
    compare(changes, "collected at", words(pickUpNode), words(later.pickUpNode));
    compare(changes, "instructions", instructions, later.instructions);
    compare(changes, "gift message", giftMessage, later.giftMessage);
    Map<String, Line> before = byId(lines);
    Map<String, Line> after = byId(later.lines);
    before.forEach((id, line) -> {
      Line now = after.get(id);
      if (now == null || !now.listing().equals(line.listing())) {
        changes.add(new Change("line removed", words(line), ""));
      } else {
        compare(changes, line.title(), words(line), words(now));
      }
    });
    after.forEach((id, line) -> {
      Line was = before.get(id);
      if (was == null || !was.listing().equals(line.listing())) {
        changes.add(new Change("line added", "", words(line)));
      }
    });
    compare(changes, "total", total, later.total);
    return List.copyOf(changes);
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

  private static void compare(List<Change> changes, String what, String before, String after) {
    if (!before.equals(after)) {
      changes.add(new Change(what, before, after));
    }
  }

  private static Map<String, Line> byId(List<Line> lines) {
    return lines.stream()
        .filter(l -> l.quantity() > 0)
        .collect(Collectors.toMap(Line::id, Function.identity(), (a, b) -> a, LinkedHashMap::new));
  }

  private static String words(Address a) {
    return "%s, %s %s, %s".formatted(a.street(), a.postcode(), a.city(), a.country());
  }

  private static String words(Line line) {
    String wishes = line.wishes().isEmpty() ? "" : "; " + line.wishes();
    return "%d × %s at %s%s".formatted(line.quantity(), line.title(), line.price(), wishes);
  }

  private static String words(@Nullable Object value) {
    return Objects.toString(value, "");
  }
}
