package dev.ordinator.core.routing;

import dev.ordinator.core.routing.OrderOptions.Option;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;

/** Options of orders that share some things, without the plans behind them. */
final class RandomOptions {
  private RandomOptions() {}

  static List<List<Option>> of(int orders, int things, Random random) {
    List<List<Option>> all = new ArrayList<>();
    for (int o = 0; o < orders; o++) {
      all.add(ofOne(things, random));
    }
    return all;
  }

  /** To fill nothing, or to take a unit or two of one or two things. */
  private static List<Option> ofOne(int things, Random random) {
    List<Option> options = new ArrayList<>();
    options.add(new Option(Optional::empty, 5_000, Takes.NOTHING));
    for (int count = 4 + random.nextInt(5); count > 0; count--) {
      Takes.Sum takes = new Takes.Sum();
      takes.add(random.nextInt(things), 1 + random.nextInt(2));
      if (random.nextBoolean()) {
        takes.add(random.nextInt(things), 1);
      }
      options.add(new Option(Optional::empty, 300 + random.nextInt(600), takes.takes()));
    }
    return options;
  }
}
