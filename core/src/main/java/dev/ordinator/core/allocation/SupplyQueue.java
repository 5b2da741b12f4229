package dev.ordinator.core.allocation;

import dev.ordinator.core.stock.Atp;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalInt;

/**
 * When those who wait for items will have them, as things stand. Each is given the earliest day on
 * which what there is and what has come by then is enough for them <em>without delaying anybody in
 * front of them</em>: one who needs little may be served before one who needs more than has come,
 * but only from what that one will not need.
 *
 * <p>One whose order may be sent in part has what can be given now, and waits for the rest.
 *
 * <p>An order that waits until it can be sent whole takes what it waits for on the day on which the
 * last of it is there; until then others may be served from what comes earlier, if enough comes
 * after it. One of which some will never be there takes nothing from anybody.
 */
public final class SupplyQueue {
  private SupplyQueue() {}

  /**
   * @param order tells orders from one another, as {@code line} does lines and {@code item} items
   * @param units positive
   * @param notBefore the first day on which it may be served; 0: any
   * @param whole whether its order is sent only when all of it is there
   */
  public record Need(long order, long line, long item, long units, int notBefore, boolean whole) {
    public Need {
      if (units <= 0 || notBefore < 0) {
        throw new IllegalArgumentException("nobody waits for nothing, or in the past");
      }
    }
  }

  /**
   * What there will be of an item.
   *
   * @param free units that nobody holds, those kept for who waits among them
   */
  public record Supplied(long free, List<Atp.Supply> supplies) {
    public static final Supplied NOTHING = new Supplied(0, List.of());
  }

  /**
   * What comes of it.
   *
   * @param days on which each need is met, as the supplies count them; of an order that is sent
   *     whole, the day of the last. Those with no day in sight are missing
   * @param now units that can be given to each at once, from what is there
   * @param spare by item, units of what is there that nobody in the queues will need
   */
  public record Outlook(Map<Need, Integer> days, Map<Need, Long> now, Map<Long, Long> spare) {
    public OptionalInt of(Need need) {
      Integer day = days.get(need);
      return day == null ? OptionalInt.empty() : OptionalInt.of(day);
    }

    public long now(Need need) {
      return now.getOrDefault(need, 0L);
    }

    public long spare(long item) {
      return spare.getOrDefault(item, 0L);
    }

    /** The day on which all of some needs are met; empty if there is none in sight. */
    public OptionalInt ofAll(List<Need> needs) {
      int last = 0;
      for (Need need : needs) {
        OptionalInt day = of(need);
        if (day.isEmpty()) {
          return day;
        }
        last = Math.max(last, day.getAsInt());
      }
      return OptionalInt.of(last);
    }
  }

  /**
   * @param supplied by item; what is missing has none
   * @param queues by item, who is served first in front
   * @param days how many days are looked at, today included
   */
  public static Outlook project(
      Map<Long, Supplied> supplied, Map<Long, List<Need>> queues, int days) {
    Map<Long, List<Need>> byOrder = new HashMap<>();
    queues.values().stream()
        .flatMap(List::stream)
        .filter(Need::whole)
        .forEach(n -> byOrder.computeIfAbsent(n.order(), o -> new ArrayList<>()).add(n));
    Outlook alone = pass(supplied, queues, days, (need, day) -> OptionalInt.of(day));
    return pass(
        supplied,
        queues,
        days,
        (need, day) -> {
          if (!need.whole()) {
            return OptionalInt.of(day);
          }
          List<Need> others = new ArrayList<>(byOrder.getOrDefault(need.order(), List.of()));
          others.remove(need);
          OptionalInt all = alone.ofAll(others);
          return all.isPresent() ? OptionalInt.of(Math.max(day, all.getAsInt())) : all;
        });
  }

  /** When somebody takes what could be had on a day; empty: never. */
  private interface Taking {
    OptionalInt of(Need need, int day);
  }

  private static Outlook pass(
      Map<Long, Supplied> supplied, Map<Long, List<Need>> queues, int days, Taking taking) {
    Outlook outlook = new Outlook(new LinkedHashMap<>(), new HashMap<>(), new HashMap<>());
    queues.forEach((item, queue) -> {
      Timeline timeline = new Timeline(supplied.getOrDefault(item, Supplied.NOTHING), days);
      for (Need need : queue) {
        long part = need.whole() || need.notBefore() > 0 ? 0 : timeline.takeNow(need.units());
        long rest = need.units() - part;
        OptionalInt day = timeline.earliest(rest, need.notBefore());
        OptionalInt taken = day.isPresent() ? taking.of(need, day.getAsInt()) : day;
        if (taken.isPresent()) {
          outlook.days().put(need, taken.getAsInt());
          part += taken.getAsInt() == 0 ? timeline.takeNow(rest) : 0;
          timeline.take(need.units() - part, taken.getAsInt());
        }
        if (part > 0) {
          outlook.now().put(need, part);
        }
      }
      outlook.spare().put(item, timeline.spare());
    });
    return outlook;
  }

  /** Units there at the end of each day, of which those who were asked before have had theirs. */
  private static final class Timeline {
    private final long[] there;

    /** What nobody was given of what is there already: what is overdue is not. */
    private long now;

    Timeline(Supplied supplied, int days) {
      now = Math.max(0, supplied.free());
      there = new long[days];
      there[0] = supplied.free();
      supplied.supplies().stream()
          .filter(s -> s.countedFrom() < days)
          .forEach(s -> there[s.countedFrom()] += s.counted());
      for (int day = 1; day < days; day++) {
        there[day] += there[day - 1];
      }
    }

    /** The first day from which there are so many on every day that follows. */
    OptionalInt earliest(long units, int notBefore) {
      int day = there.length;
      while (day > notBefore && there[day - 1] >= units) {
        day--;
      }
      return day < there.length ? OptionalInt.of(day) : OptionalInt.empty();
    }

    /** Units that are there now, and that nobody will need. */
    long spare() {
      return Math.clamp(Arrays.stream(there).min().orElse(0), 0, now);
    }

    /** Takes as many of some units as can be given now. */
    long takeNow(long units) {
      long taken = Math.min(units, spare());
      now -= taken;
      take(taken, 0);
      return taken;
    }

    void take(long units, int from) {
      for (int day = from; day < there.length; day++) {
        there[day] -= units;
      }
    }
  }
}
