package dev.ordinator.core.orders;

import dev.ordinator.core.orders.OrderContent.Change;
import dev.ordinator.core.orders.OrderContent.Part;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * What is done with what a channel changed about an order that is under way. Three sides are
 * compared: what the channel said before, what it says now, and what is ours. Only what the channel
 * changed is written; a change is followed by itself unless a node already works on a parcel that
 * it touches, or people here have changed the same thing: then a person is asked.
 *
 * @param follow changes that are followed by themselves
 * @param ask changes of which a person decides
 * @param recalled parcels that must be taken back to follow them
 * @param stopped parcels on which nobody goes on until a person has decided
 */
public record Amendment(
    List<Change> follow, List<Change> ask, Set<Long> recalled, Set<Long> stopped) {

  /**
   * A part of the order that a node sends and that has not left.
   *
   * @param withNode whether the node was told of it
   * @param lines the channel's ids of the lines that it holds units of
   */
  public record Parcel(long id, boolean withNode, Set<String> lines) {
    public Parcel {
      lines = Set.copyOf(lines);
    }
  }

  /**
   * How the order stands here; lines by the channel's ids, units as it counts them.
   *
   * @param wanted units ordered less cancelled
   * @param waiting of these, units that are in no parcel and have not left
   * @param left of these, units that have left
   */
  public record Ours(
      Address shipTo,
      Map<String, Long> wanted,
      Map<String, Long> waiting,
      Map<String, Long> left,
      List<Parcel> parcels) {
    public Ours {
      wanted = Map.copyOf(wanted);
      waiting = Map.copyOf(waiting);
      left = Map.copyOf(left);
      parcels = List.copyOf(parcels);
    }

    private boolean hasNothingToSend() {
      return parcels.isEmpty() && waiting.values().stream().allMatch(units -> units == 0);
    }
  }

  /** Judges each difference between two versions of an order. */
  public static Amendment of(OrderContent said, OrderContent says, Ours ours) {
    List<Change> follow = new ArrayList<>();
    List<Change> ask = new ArrayList<>();
    for (Change change : said.changesTo(says)) {
      if (isOurs(change, says, ours)) {
        continue;
      }
      boolean both = !isOurs(change, said, ours) && isTracked(change);
      boolean atNode = touched(change, says, ours).stream().anyMatch(Parcel::withNode);
      (both || atNode || isTooLate(change, ours) ? ask : follow).add(change);
    }
    if (ask.stream().anyMatch(c -> part(c).isOfGoods())) {
      // what is to be paid goes with what is to be sent
      List<Change> money = follow.stream().filter(c -> part(c).isOfMoney()).toList();
      follow.removeAll(money);
      ask.addAll(money);
    }
    return new Amendment(
        List.copyOf(follow),
        List.copyOf(ask),
        touchedBy(follow, says, ours),
        touchedBy(ask, says, ours));
  }

  /** The same, if a person is to decide of all of it. */
  public Amendment allAsked() {
    List<Change> all = new ArrayList<>(follow);
    all.addAll(ask);
    Set<Long> parcels = new HashSet<>(recalled);
    parcels.addAll(stopped);
    return new Amendment(List.of(), List.copyOf(all), Set.of(), Set.copyOf(parcels));
  }

  /** The parcels that must be taken back if some changes are made. */
  public static Set<Long> touchedBy(List<Change> changes, OrderContent says, Ours ours) {
    return changes.stream()
        .flatMap(change -> touched(change, says, ours).stream())
        .map(Parcel::id)
        .collect(Collectors.toSet());
  }

  /** Whether all that a change is about has left. */
  public static boolean isTooLate(Change change, Ours ours) {
    Part part = part(change);
    boolean otherGoods = part == Part.LINE_LISTING || part == Part.LINE_WISHES;
    return part.isOfParcels()
        ? ours.hasNothingToSend()
        : otherGoods && ours.left().getOrDefault(line(change), 0L) > 0;
  }

  private static List<Parcel> touched(Change change, OrderContent says, Ours ours) {
    Part part = part(change);
    if (part.isOfParcels()) {
      return ours.parcels();
    }
    if (!part.isOfGoods() || part == Part.LINE_ADDED) {
      return List.of();
    }
    String line = line(change);
    long fewer = ours.wanted().getOrDefault(line, 0L) - says.wanted(line);
    boolean isOfQuantity = part == Part.LINE_QUANTITY || part == Part.LINE_REMOVED;
    if (isOfQuantity && fewer >= 0 && fewer <= ours.waiting().getOrDefault(line, 0L)) {
      return List.of();
    }
    return ours.parcels().stream().filter(p -> p.lines().contains(line)).toList();
  }

  /** Whether people here may have changed the same. */
  private static boolean isTracked(Change change) {
    return switch (part(change)) {
      case RECEIVER, ADDRESS, LINE_QUANTITY, LINE_REMOVED, LINE_ADDED -> true;
      default -> false;
    };
  }

  /** Whether what a change is about is ours as a version of the order has it. */
  private static boolean isOurs(Change change, OrderContent version, Ours ours) {
    return switch (part(change)) {
      case RECEIVER -> version.shipTo().name().equals(ours.shipTo().name());
      case ADDRESS ->
          OrderContent.words(version.shipTo()).equals(OrderContent.words(ours.shipTo()));
      case LINE_QUANTITY, LINE_REMOVED, LINE_ADDED ->
          version.wanted(line(change)) == ours.wanted().getOrDefault(line(change), 0L);
      default -> false;
    };
  }

  private static Part part(Change change) {
    return Objects.requireNonNull(change.part());
  }

  private static String line(Change change) {
    return Objects.requireNonNullElse(change.line(), "");
  }

  /** Units that have left of lines and that a version of the order no longer wants. */
  public static Map<String, Long> sentUnwanted(
      List<Change> made, OrderContent says, Map<String, Long> left) {
    Set<String> lines = new HashSet<>();
    made.stream().filter(c -> part(c).isOfGoods()).forEach(c -> lines.add(line(c)));
    return left.entrySet().stream()
        .filter(e -> lines.contains(e.getKey()) && e.getValue() > says.wanted(e.getKey()))
        .collect(Collectors.toMap(Map.Entry::getKey, e -> e.getValue() - says.wanted(e.getKey())));
  }
}
