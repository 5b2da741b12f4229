package dev.ordinator.core.stock;

import java.util.List;
import java.util.OptionalInt;

/**
 * What of an item can still be promised, day by day (time-phased ATP, cumulative with look-ahead).
 * Day 0 is today; days are as long as who asks says.
 *
 * <p>With {@code c(d) = free + Σ supplies due by d − Σ commitments due by d}, what can be promised
 * for day {@code d} is {@code min c(e) over e ≥ d}, not below zero: a promise for an early day must
 * leave enough for every later commitment. Free units that do not last are promised until their day
 * and no longer; what runs out first is given first.
 */
public final class Atp {
  private final long[] promisable;

  private Atp(long[] promisable) {
    this.promisable = promisable;
  }

  /**
   * Free units that run out.
   *
   * @param lastDay the last day for which they may be promised
   */
  public record RunningOut(int lastDay, long quantity) {
    public RunningOut {
      if (quantity < 0) {
        throw new IllegalArgumentException("what runs out is not negative");
      }
    }
  }

  /**
   * Goods that are expected.
   *
   * @param day when they are due; what is overdue is not counted on: nobody knows when it comes
   * @param quantity units, not negative
   * @param confidencePercent the part of them that is counted on, rounded down to whole units
   * @param slipDays days that they are assumed to come late
   */
  public record Supply(int day, long quantity, int confidencePercent, int slipDays) {
    public Supply {
      if (quantity < 0 || confidencePercent < 0 || confidencePercent > 100 || slipDays < 0) {
        throw new IllegalArgumentException(
            "a supply is not negative, its confidence 0 to 100 %, its slip no less than no day");
      }
    }

    /** Units that are counted on. */
    public long counted() {
      return day < 0 ? 0 : quantity * confidencePercent / 100;
    }

    /** The day from which it is counted on. */
    public int countedFrom() {
      return Math.max(0, day) + slipDays;
    }
  }

  /**
   * Units that are promised already.
   *
   * @param day when they are needed; what was needed before is needed today
   */
  public record Commitment(int day, long quantity) {
    public Commitment {
      if (quantity < 0) {
        throw new IllegalArgumentException("a commitment is not negative");
      }
    }
  }

  /**
   * @param free units that are there and held for nobody; negative if more is owed than there is
   * @param days how many days are looked at, today included; at least one. What comes later is not
   *     seen
   */
  public static Atp of(long free, List<Supply> supplies, List<Commitment> commitments, int days) {
    if (days < 1) {
      throw new IllegalArgumentException("at least today is looked at");
    }
    long[] level = new long[days];
    level[0] = free;
    for (Supply supply : supplies) {
      if (supply.countedFrom() < days) {
        level[supply.countedFrom()] += supply.counted();
      }
    }
    for (Commitment commitment : commitments) {
      if (commitment.day() < days) {
        level[Math.max(0, commitment.day())] -= commitment.quantity();
      }
    }
    for (int day = 1; day < days; day++) {
      level[day] += level[day - 1];
    }
    for (int day = days - 2; day >= 0; day--) {
      level[day] = Math.min(level[day], level[day + 1]);
    }
    return new Atp(level);
  }

  /**
   * The same where some of what is free runs out.
   *
   * @param runningOut of the units that are free; the rest of them lasts. May be more than is free,
   *     if some of them are kept for safety or for others
   */
  public static Atp of(
      long free,
      List<RunningOut> runningOut,
      List<Supply> supplies,
      List<Commitment> commitments,
      int days) {
    Atp lasting = of(free, supplies, commitments, days);
    if (runningOut.isEmpty()) {
      return lasting;
    }
    var flow = new PerishingFlow(free, runningOut, supplies, commitments, days);
    long[] promisable = new long[days];
    for (int day = 0; day < days; day++) {
      promisable[day] = flow.most(day, lasting.at(day));
    }
    return new Atp(promisable);
  }

  /** Units that can be promised for a day; for days beyond what is looked at, as for the last. */
  public long at(int day) {
    return Math.max(0, promisable[Math.min(Math.max(0, day), promisable.length - 1)]);
  }

  /** The earliest day for which so many units can be promised; empty if none is in sight. */
  public OptionalInt promise(long quantity) {
    for (int day = 0; day < promisable.length; day++) {
      if (promisable[day] >= quantity) {
        return OptionalInt.of(day);
      }
    }
    return OptionalInt.empty();
  }
}
