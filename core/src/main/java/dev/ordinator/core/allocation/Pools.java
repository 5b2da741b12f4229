package dev.ordinator.core.allocation;

import dev.ordinator.core.allocation.AllocationRun.At;
import dev.ordinator.core.allocation.AllocationRun.Given;
import dev.ordinator.core.allocation.AllocationRun.Kit;
import dev.ordinator.core.allocation.AllocationRun.Line;
import dev.ordinator.core.allocation.AllocationRun.Part;
import dev.ordinator.core.allocation.AllocationRun.Pool;
import dev.ordinator.core.allocation.AllocationRun.Shelf;
import dev.ordinator.core.allocation.AllocationRun.Stock;
import dev.ordinator.core.allocation.AllocationRun.Why;
import dev.ordinator.core.stock.LotPick;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;

/** What is left of what there is, while a run gives of it. */
final class Pools {
  private final Map<Long, Map<Long, List<Pool>>> byItem = new HashMap<>();
  private final Map<Pool, Long> left = new HashMap<>();
  private final Map<At, Shelf> shelves;
  private final Map<Long, Long> leftAtPlace = new HashMap<>();

  Pools(Stock stock) {
    this.shelves = stock.shelves();
    stock
        .units()
        .forEach((pool, there) -> {
          if (there > 0) {
            byItem
                .computeIfAbsent(pool.item(), i -> new TreeMap<>())
                .computeIfAbsent(pool.node(), n -> new ArrayList<>())
                .add(pool);
            left.put(pool, there);
          }
        });
    // what is set aside for somebody goes before what is free
    Comparator<Pool> own = Comparator.comparing(pool -> pool.owner() == 0);
    byItem
        .values()
        .forEach(nodes -> nodes.values().forEach(p -> p.sort(own.thenComparingLong(Pool::owner))));
    shelves
        .values()
        .forEach(shelf -> shelf.lots().forEach(lot -> leftAtPlace.put(lot.place(), lot.free())));
  }

  /** Units of its item that a line could have. */
  long left(Line line) {
    long units = 0;
    for (long node : of(line.item()).keySet()) {
      units += leftAt(line, line.item(), node);
    }
    return units;
  }

  /** Nodes from which a line could have something. */
  Set<Long> nodes(Line line) {
    Kit kit = line.kit();
    Set<Long> nodes = new TreeSet<>();
    for (long item : kit == null ? Set.of(line.item()) : kit.items()) {
      for (long node : of(item).keySet()) {
        if (leftAt(line, item, node) > 0) {
          nodes.add(node);
        }
      }
    }
    return nodes;
  }

  /** Pools of an item, by node. */
  private Map<Long, List<Pool>> of(long item) {
    return byItem.getOrDefault(item, Map.of());
  }

  private long leftAt(Line line, long item, long node) {
    long units = 0;
    for (Pool pool : of(item).getOrDefault(node, List.of())) {
      if (line.mayTake(pool)) {
        units += left.getOrDefault(pool, 0L);
      }
    }
    Shelf shelf = units == 0 || shelves.isEmpty() ? null : shelves.get(new At(item, node));
    return shelf == null ? units : Math.min(units, lasting(shelf, line));
  }

  private long lasting(Shelf shelf, Line line) {
    return shelf.lots().stream()
        .filter(lot -> shelf.rule().lasts(lot.expires(), line.arrival()))
        .mapToLong(lot -> leftAtPlace.getOrDefault(lot.place(), 0L))
        .sum();
  }

  /**
   * What a line needs of a node for so many units.
   *
   * @param taken units by item that are not to be counted with
   * @return units by item; empty if it has not enough
   */
  Map<Long, Long> needs(Line line, long units, long node, Map<Long, Long> taken) {
    Kit kit = line.kit();
    if (kit == null) {
      return leftAt(line, line.item(), node) - taken.getOrDefault(line.item(), 0L) >= units
          ? Map.of(line.item(), units)
          : Map.of();
    }
    Map<Long, Long> there = new HashMap<>();
    kit.items()
        .forEach(item ->
            there.put(item, Math.max(0, leftAt(line, item, node) - taken.getOrDefault(item, 0L))));
    return kit.outOf(there);
  }

  /**
   * Gives a line so many units, or as many as there are: as many as can be from one node, then from
   * the one that has most. Kits come from one node, all of the line.
   *
   * @param first the node that is preferred; 0: none
   */
  Given give(Line line, long units, long first) {
    List<Part> parts = new ArrayList<>();
    long given = line.kit() == null ? take(line, units, first, parts) : kits(line, first, parts);
    return new Given(
        line, given, parts, given == line.units() ? Why.FULL : given == 0 ? none(line) : Why.PART);
  }

  /** Why there is nothing for a line. */
  private Why none(Line line) {
    if (line.kit() != null || shelves.isEmpty()) {
      return Why.NONE_LEFT;
    }
    boolean excluded = false;
    for (Map.Entry<At, Shelf> shelf : shelves.entrySet()) {
      if (shelf.getKey().item() == line.item()) {
        long lots =
            shelf.getValue().lots().stream()
                .mapToLong(lot -> leftAtPlace.getOrDefault(lot.place(), 0L))
                .sum();
        if (lots > lasting(shelf.getValue(), line)) {
          return Why.TOO_SHORT_LIVED;
        }
        excluded |= inPools(line, shelf.getKey().node()) > lots;
      }
    }
    return excluded ? Why.LOT_EXCLUDED : Why.NONE_LEFT;
  }

  private long inPools(Line line, long node) {
    return of(line.item()).getOrDefault(node, List.of()).stream()
        .filter(line::mayTake)
        .mapToLong(pool -> left.getOrDefault(pool, 0L))
        .sum();
  }

  private long take(Line line, long units, long first, List<Part> parts) {
    long missing = units;
    if (first != 0) {
      missing -= takeAt(line, line.item(), first, missing, parts);
    }
    while (missing > 0) {
      long wanted = missing;
      long best = 0;
      long most = 0;
      for (long node : of(line.item()).keySet()) {
        long there = Math.min(wanted, leftAt(line, line.item(), node));
        if (there > most) {
          best = node;
          most = there;
        }
      }
      if (most == 0) {
        break;
      }
      missing -= takeAt(line, line.item(), best, missing, parts);
    }
    return units - missing;
  }

  private long kits(Line line, long first, List<Part> parts) {
    List<Long> nodes = new ArrayList<>(nodes(line));
    nodes.sort(Comparator.comparing((Long node) -> node != first));
    for (long node : nodes) {
      Map<Long, Long> needs = needs(line, line.units(), node, Map.of());
      if (!needs.isEmpty()) {
        new TreeMap<>(needs).forEach((item, units) -> takeAt(line, item, node, units, parts));
        return line.units();
      }
    }
    return 0;
  }

  /** Gives how many it took. */
  private long takeAt(Line line, long item, long node, long units, List<Part> parts) {
    long taking = Math.min(units, leftAt(line, item, node));
    if (taking == 0) {
      return 0;
    }
    List<LotPick.Taken> lots = lots(line, new At(item, node), taking);
    int lot = 0;
    long leftOfLot = lots.getFirst().units();
    long missing = taking;
    for (Pool pool : of(item).getOrDefault(node, List.of())) {
      while (missing > 0 && line.mayTake(pool) && left.getOrDefault(pool, 0L) > 0) {
        long taken = Math.min(Math.min(missing, left.getOrDefault(pool, 0L)), leftOfLot);
        left.merge(pool, -taken, Long::sum);
        parts.add(new Part(pool, lots.get(lot).place(), taken));
        missing -= taken;
        leftOfLot -= taken;
        if (leftOfLot == 0 && missing > 0) {
          leftOfLot = lots.get(++lot).units();
        }
      }
    }
    return taking;
  }

  /** From which places they come; from any, if their lots are not said. */
  private List<LotPick.Taken> lots(Line line, At at, long units) {
    Shelf shelf = shelves.get(at);
    if (shelf == null) {
      return List.of(new LotPick.Taken(0, units));
    }
    List<LotPick.Held> held =
        shelf.lots().stream()
            .map(lot -> lot.withFree(leftAtPlace.getOrDefault(lot.place(), 0L)))
            .toList();
    List<LotPick.Taken> taken = LotPick.of(held, units, shelf.rule(), line.arrival()).orElseThrow();
    taken.forEach(t -> leftAtPlace.merge(t.place(), -t.units(), Long::sum));
    return taken;
  }

  void giveBack(List<Part> parts) {
    parts.forEach(part -> {
      left.merge(part.pool(), part.units(), Long::sum);
      if (part.place() != 0) {
        leftAtPlace.merge(part.place(), part.units(), Long::sum);
      }
    });
  }
}
