package dev.ordinator.bench;

import dev.ordinator.core.stock.Atp;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;

/**
 * What can be promised of 5,000 items at 25 nodes, each day of 180, on one core; beside adding up
 * as many numbers twice, which is the least that can be done.
 */
public final class AtpBench {
  private static final int ITEMS = 5_000;
  private static final int NODES = 25;
  private static final int DAYS = 180;

  /** An item at a node. */
  private record Place(long free, List<Atp.Supply> supplies, List<Atp.Commitment> commitments) {}

  private AtpBench() {}

  public static void main(String[] args) {
    List<Place> places = places(new Random(6));
    System.out.println("| 5,000 items × 25 nodes × 180 days | s | ÷ adding up |");
    System.out.println("| --- | --- | --- |");
    promise(places);
    addUp();
    for (int run = 1; run <= 3; run++) {
      long began = System.nanoTime();
      long sum = addUp();
      double least = seconds(began);
      began = System.nanoTime();
      long promised = promise(places);
      double all = seconds(began);
      System.out.printf("| adding up (%d) | %.2f | 1.0 |%n", sum % 10, least);
      System.out.printf(
          "| ATP, %d places have a day for ten | %.2f | %.1f |%n", promised, all, all / least);
    }
  }

  /** Places at which ten more units can be promised for some day. */
  private static long promise(List<Place> places) {
    long promised = 0;
    for (Place p : places) {
      if (Atp.of(p.free(), p.supplies(), p.commitments(), DAYS).promise(10).isPresent()) {
        promised++;
      }
    }
    return promised;
  }

  private static long addUp() {
    long sum = 0;
    for (int place = 0; place < ITEMS * NODES; place++) {
      long[] level = new long[DAYS];
      for (int day = 0; day < DAYS; day++) {
        level[day] = place ^ day;
      }
      for (int day = 1; day < DAYS; day++) {
        level[day] += level[day - 1];
      }
      for (int day = DAYS - 2; day >= 0; day--) {
        level[day] = Math.min(level[day], level[day + 1]);
      }
      sum += level[0];
    }
    return sum;
  }

  private static List<Place> places(Random random) {
    List<Place> places = new ArrayList<>();
    for (int i = 0; i < ITEMS * NODES; i++) {
      List<Atp.Supply> supplies = new ArrayList<>();
      for (int s = random.nextInt(4); s > 0; s--) {
        supplies.add(new Atp.Supply(random.nextInt(DAYS), random.nextInt(50), 90, 2));
      }
      List<Atp.Commitment> commitments = new ArrayList<>();
      for (int c = random.nextInt(8); c > 0; c--) {
        commitments.add(new Atp.Commitment(random.nextInt(DAYS), random.nextInt(4)));
      }
      places.add(new Place(random.nextInt(20), supplies, commitments));
    }
    return places;
  }

  private static double seconds(long began) {
    return (System.nanoTime() - began) / 1e9;
  }
}
