package dev.ordinator.core.routing;

import java.util.Arrays;
import java.util.random.RandomGenerator;

/** Orders that would rather have another option than they have. */
final class Keen {
  private final int[] orders;
  private final int[] place;
  private int size;

  Keen(int orders) {
    this.orders = new int[orders];
    this.place = new int[orders];
    Arrays.fill(place, -1);
  }

  int size() {
    return size;
  }

  int any(RandomGenerator random) {
    return orders[random.nextInt(size)];
  }

  void set(int order, boolean isKeen) {
    if (isKeen && place[order] < 0) {
      place[order] = size;
      orders[size++] = order;
    } else if (!isKeen && place[order] >= 0) {
      int last = orders[--size];
      orders[place[order]] = last;
      place[last] = place[order];
      place[order] = -1;
    }
  }
}
