package dev.ordinator.core.stock;

import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * Which lots a quantity is taken from: first expired, first out (FEFO), or first in, first out
 * (FIFO). A lot that would not last long enough after its arrival is left where it is.
 */
public final class LotPick {
  private LotPick() {}

  /** What goes first. */
  public enum Order {
    FEFO,
    FIFO
  }

  /**
   * How an item's lots are taken.
   *
   * @param oneLot a single lot is preferred, even if others should go first; several are taken only
   *     if no lot has all of it
   * @param minLife days that it must last after the day of arrival; 0: until that day
   */
  public record Rule(Order order, boolean oneLot, int minLife) {
    /** The last day of arrival for which something that expires then may be taken. */
    public @Nullable LocalDate lastArrival(@Nullable LocalDate expires) {
      return expires == null ? null : expires.minusDays(minLife);
    }

    /** Whether what expires then lasts long enough if it arrives on a day. */
    public boolean lasts(@Nullable LocalDate expires, LocalDate arrival) {
      LocalDate last = lastArrival(expires);
      return last == null || !last.isBefore(arrival);
    }
  }

  /**
   * Units of a lot at a place.
   *
   * @param lot by which places of the same lot are told
   * @param expires the last day on which it may be used; null: it does not expire
   * @param came the day on which the first of the lot came
   * @param free units that nobody holds
   */
  public record Held(long place, long lot, @Nullable LocalDate expires, LocalDate came, long free) {
    /** The same place with so many units that nobody holds. */
    public Held withFree(long units) {
      return new Held(place, lot, expires, came, units);
    }
  }

  /** Units taken from a place. */
  public record Taken(long place, long units) {}

  /**
   * @param quantity units, positive
   * @return empty if what lasts long enough is not enough
   */
  public static Optional<List<Taken>> of(
      List<Held> held, long quantity, Rule rule, LocalDate arrival) {
    List<Held> usable =
        held.stream()
            .filter(h -> h.free() > 0)
            .filter(h -> rule.lasts(h.expires(), arrival))
            .sorted(order(rule.order()))
            .toList();
    if (usable.stream().mapToLong(Held::free).sum() < quantity) {
      return Optional.empty();
    }
    return Optional.of(take(rule.oneLot() ? oneLot(usable, quantity) : usable, quantity));
  }

  /** The places of the first lot that has all of it; if none has, all places. */
  private static List<Held> oneLot(List<Held> usable, long quantity) {
    Map<Long, List<Held>> lots = new LinkedHashMap<>();
    usable.forEach(h -> lots.computeIfAbsent(h.lot(), l -> new ArrayList<>()).add(h));
    return lots.values().stream()
        .filter(places -> places.stream().mapToLong(Held::free).sum() >= quantity)
        .findFirst()
        .orElse(usable);
  }

  private static List<Taken> take(List<Held> inOrder, long quantity) {
    List<Taken> taken = new ArrayList<>();
    long left = quantity;
    for (Held place : inOrder) {
      if (left == 0) {
        break;
      }
      long units = Math.min(left, place.free());
      taken.add(new Taken(place.place(), units));
      left -= units;
    }
    return taken;
  }

  private static Comparator<Held> order(Order order) {
    Comparator<Held> expiry =
        Comparator.comparing(
            Held::expires, Comparator.nullsLast(Comparator.<LocalDate>naturalOrder()));
    Comparator<Held> came = Comparator.comparing(Held::came);
    return (order == Order.FEFO ? expiry.thenComparing(came) : came.thenComparing(expiry))
        .thenComparing(Held::lot)
        .thenComparing(Held::place);
  }
}
