package dev.ordinator.rehearsal;

import dev.ordinator.stock.Items.Available;
import dev.ordinator.stock.Items.Goods;
import dev.ordinator.stock.Items.StockedItem;
import dev.ordinator.stock.LevelDays;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * What there was to be had at a moment: what each day really began with, what came and went since
 * otherwise than for buyers, and less what those who ask have taken on that day.
 */
final class PastStock {
  private final Map<Long, Map<String, Long>> begun = new HashMap<>();
  private final Map<At, Long> since = new HashMap<>();

  private record At(long itemId, String node) {}

  /** What one edition's orders have taken of it. */
  final class Taken {
    private final Map<At, Long> units = new HashMap<>();

    void take(long itemId, String node, long quantity) {
      units.merge(new At(itemId, node), quantity, Long::sum);
    }

    void forget() {
      units.clear();
    }

    /** What of counted items is left; how long lots last is not kept, and not looked at. */
    List<Available> left(Goods goods) {
      List<Available> left = new ArrayList<>();
      for (StockedItem item : goods.byId().values()) {
        if (item.counted()) {
          begun
              .getOrDefault(item.id(), Map.of())
              .keySet()
              .forEach(node ->
                  left.add(
                      new Available(item.id(), node, free(new At(item.id(), node)), List.of())));
        }
      }
      return left;
    }

    private long free(At at) {
      long there = begun.getOrDefault(at.itemId(), Map.of()).getOrDefault(at.node(), 0L);
      return Math.max(0, there + since.getOrDefault(at, 0L) - units.getOrDefault(at, 0L));
    }
  }

  void begins(LevelDays.Level level) {
    begun.computeIfAbsent(level.itemId(), i -> new HashMap<>()).put(level.node(), level.units());
  }

  void changes(LevelDays.Change change) {
    // an item may come to a node that never had it
    begun.computeIfAbsent(change.itemId(), i -> new HashMap<>()).putIfAbsent(change.node(), 0L);
    since.merge(new At(change.itemId(), change.node()), change.units(), Long::sum);
  }

  void nextDay() {
    since.clear();
  }
}
