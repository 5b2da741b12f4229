package dev.ordinator.core.allocation;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;

/** What is left of what there is, while a run gives of it. */
final class Pools {
  private final Map<Long, List<AllocationRun.Pool>> byItem = new HashMap<>();
  private final Map<AllocationRun.Pool, Long> left = new LinkedHashMap<>();

  Pools(Map<AllocationRun.Pool, Long> units) {
    units.forEach((pool, there) -> {
      if (there > 0) {
        byItem.computeIfAbsent(pool.item(), i -> new ArrayList<>()).add(pool);
        left.put(pool, there);
      }
    });
  }

  long left(AllocationRun.Line line) {
    return open(line).stream().mapToLong(this::left).sum();
  }

  /** Units that a line could have from one node. */
  long leftAt(AllocationRun.Line line, long node) {
    return open(line).stream().filter(p -> p.node() == node).mapToLong(this::left).sum();
  }

  private long left(AllocationRun.Pool pool) {
    return left.getOrDefault(pool, 0L);
  }

  private List<AllocationRun.Pool> open(AllocationRun.Line line) {
    return byItem.getOrDefault(line.item(), List.of()).stream()
        .filter(pool -> line.mayTake(pool))
        .toList();
  }

  /** Nodes from which a line could have something. */
  Set<Long> nodes(AllocationRun.Line line) {
    Set<Long> nodes = new TreeSet<>();
    open(line).stream().filter(p -> left(p) > 0).forEach(p -> nodes.add(p.node()));
    return nodes;
  }

  /**
   * Takes units for a line: as many as can be from one node, then from the one that has most, each
   * time what is set aside for it before what is free.
   *
   * @param first the node that is preferred; 0: none
   */
  List<AllocationRun.Part> take(AllocationRun.Line line, long units, long first) {
    List<AllocationRun.Part> parts = new ArrayList<>();
    long missing = units;
    if (first != 0) {
      missing = takeAt(line, first, missing, parts);
    }
    while (missing > 0) {
      long wanted = missing;
      Comparator<Long> enough =
          Comparator.comparing((Long node) -> leftAt(line, node) < wanted)
              .thenComparing((Long node) -> -leftAt(line, node))
              .thenComparing(node -> node);
      Long node = nodes(line).stream().min(enough).orElse(null);
      if (node == null) {
        return parts;
      }
      missing = takeAt(line, node, missing, parts);
    }
    return parts;
  }

  private long takeAt(
      AllocationRun.Line line, long node, long units, List<AllocationRun.Part> parts) {
    long missing = units;
    List<AllocationRun.Pool> own =
        open(line).stream()
            .filter(p -> p.node() == node)
            .sorted(Comparator.comparing((AllocationRun.Pool p) -> p.owner() == 0))
            .toList();
    for (AllocationRun.Pool pool : own) {
      long taken = Math.min(missing, left(pool));
      if (taken > 0) {
        left.merge(pool, -taken, Long::sum);
        parts.add(new AllocationRun.Part(pool, taken));
        missing -= taken;
      }
    }
    return missing;
  }

  void giveBack(List<AllocationRun.Part> parts) {
    parts.forEach(part -> left.merge(part.pool(), part.units(), Long::sum));
  }
}
