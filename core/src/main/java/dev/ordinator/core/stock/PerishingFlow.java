package dev.ordinator.core.stock;

import dev.ordinator.core.stock.Atp.Commitment;
import dev.ordinator.core.stock.Atp.RunningOut;
import dev.ordinator.core.stock.Atp.Supply;
import java.util.Comparator;
import java.util.List;

/**
 * Plays the days through: what is needed is taken from what runs out first. That is best, for
 * whatever runs out later serves every need that comes after as well.
 */
final class PerishingFlow {
  private final int[] lastDay;
  private final long[] units;
  private final long free;
  private final long[] comes;
  private final long[] needed;

  PerishingFlow(
      long free,
      List<RunningOut> runningOut,
      List<Supply> supplies,
      List<Commitment> commitments,
      int days) {
    List<RunningOut> first =
        runningOut.stream().sorted(Comparator.comparingInt(RunningOut::lastDay)).toList();
    this.lastDay = first.stream().mapToInt(RunningOut::lastDay).toArray();
    this.units = first.stream().mapToLong(RunningOut::quantity).toArray();
    this.free = free;
    this.comes = new long[days];
    this.needed = new long[days];
    for (Supply supply : supplies) {
      if (supply.countedFrom() < days) {
        comes[supply.countedFrom()] += supply.counted();
      }
    }
    for (Commitment commitment : commitments) {
      if (commitment.day() < days) {
        needed[Math.max(0, commitment.day())] += commitment.quantity();
      }
    }
  }

  /**
   * The most that can be promised for a day on top of what is promised already.
   *
   * @param limit what could be if nothing ran out
   */
  long most(int day, long limit) {
    long can = 0;
    long cannot = limit + 1;
    while (cannot - can > 1) {
      long middle = can + (cannot - can) / 2;
      if (fits(day, middle)) {
        can = middle;
      } else {
        cannot = middle;
      }
    }
    return can;
  }

  /** Whether nothing is left unmet on that day or later if so much more is needed that day. */
  private boolean fits(int day, long more) {
    long[] left = units.clone();
    long runsOut = 0;
    for (long some : units) {
      runsOut += some;
    }
    long lasts = Math.max(0, free - runsOut);
    // what is kept for safety or others is no more than a limit on what is taken of all together
    long mayTake = Math.max(0, free);
    long unmet = Math.max(0, -free);
    int next = 0;
    for (int d = 0; d < needed.length; d++) {
      lasts += comes[d];
      mayTake += comes[d];
      unmet += needed[d] + (d == day ? more : 0);
      while (next < left.length && lastDay[next] < d) {
        next++;
      }
      for (int lot = next; lot < left.length && unmet > 0 && mayTake > 0; lot++) {
        long taken = Math.min(Math.min(left[lot], unmet), mayTake);
        left[lot] -= taken;
        unmet -= taken;
        mayTake -= taken;
      }
      long taken = Math.min(Math.min(lasts, unmet), mayTake);
      lasts -= taken;
      unmet -= taken;
      mayTake -= taken;
      if (d >= day && unmet > 0) {
        return false;
      }
    }
    return true;
  }
}
