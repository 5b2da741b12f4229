package dev.ordinator.core.stock;

import dev.ordinator.core.catalog.Kit;
import dev.ordinator.core.catalog.KitBook;
import dev.ordinator.core.catalog.KitBook.Chosen;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.PriorityQueue;
import java.util.Set;

/**
 * What one node's stock can do for kits. What is kept ready-made, at whatever depth, is used before
 * its components are: that never makes anything else impossible, for who uses up the components
 * instead leaves the ready-made kit, which serves nothing else. So what is taken is enough whenever
 * anything is.
 */
public final class KitStock {
  private final KitBook book;
  private final Map<String, Long> left;

  /**
   * @param available units at the node by SKU; what is not in it is not there
   */
  public KitStock(KitBook book, Map<String, Long> available) {
    this.book = book;
    this.left = new HashMap<>(available);
  }

  /**
   * What is taken for something.
   *
   * @param units by SKU, of what there is
   * @param missing by SKU of what is no kit; empty if it can be made
   */
  public record Take(Map<String, Long> units, Map<String, Long> missing) {
    public boolean isWhole() {
      return missing.isEmpty();
    }
  }

  /**
   * Takes what is needed for so many of an item or kit; what was taken is gone for the next. A kit
   * that goes in parts is made of its components only, for each is sent by itself.
   */
  public Take take(String sku, long quantity, Chosen chosen) {
    Map<String, Long> units = new LinkedHashMap<>();
    Map<String, Long> missing = new LinkedHashMap<>();
    Map<String, Long> needed = new HashMap<>();
    // a kit comes after all that may contain it: then all that is needed of it is known
    PriorityQueue<String> next =
        new PriorityQueue<>(
            Comparator.comparingInt(book::depth).thenComparing(Comparator.naturalOrder()));
    needed.put(sku, quantity);
    next.add(sku);
    while (!next.isEmpty()) {
      String now = next.remove();
      Long need = needed.remove(now);
      if (need == null) {
        continue; // it was asked for by several, and is done
      }
      Kit kit = book.kit(now);
      boolean inParts = kit != null && kit.explode() == Kit.Explode.IN_PARTS && now.equals(sku);
      long ready = inParts ? 0 : Math.min(need, left.getOrDefault(now, 0L));
      if (ready > 0) {
        units.put(now, ready);
        left.merge(now, -ready, Long::sum);
      }
      long rest = need - ready;
      if (rest == 0) {
        continue;
      }
      if (kit == null) {
        missing.put(now, rest);
      } else {
        book.step(kit, chosen)
            .forEach((part, each) -> {
              needed.merge(part, Math.multiplyExact(rest, each), Math::addExact);
              next.add(part);
            });
      }
    }
    return new Take(units, missing);
  }

  /**
   * How many of a kit there can be: ready-made ones and those that its components make. With
   * choices still open, of the way of choosing that gives most.
   */
  public static long available(
      KitBook book, String sku, Chosen chosen, Map<String, Long> available) {
    return book.ways(sku, chosen).stream()
        .mapToLong(way -> most(book, sku, way, available))
        .max()
        .orElse(0);
  }

  /** The components that keep there from being one more; in the way of choosing that gives most. */
  public static Set<String> limiting(
      KitBook book, String sku, Chosen chosen, Map<String, Long> available) {
    Chosen best =
        book.ways(sku, chosen).stream()
            .max(Comparator.comparingLong(way -> most(book, sku, way, available)))
            .orElse(chosen);
    long most = most(book, sku, best, available);
    return new KitStock(book, available).take(sku, most + 1, best).missing().keySet();
  }

  private static long most(KitBook book, String sku, Chosen way, Map<String, Long> available) {
    long can = 0;
    long cannot = 1;
    while (can(book, sku, cannot, way, available)) {
      can = cannot;
      cannot *= 2;
    }
    while (cannot - can > 1) {
      long middle = can + (cannot - can) / 2;
      if (can(book, sku, middle, way, available)) {
        can = middle;
      } else {
        cannot = middle;
      }
    }
    return can;
  }

  private static boolean can(
      KitBook book, String sku, long quantity, Chosen way, Map<String, Long> available) {
    return new KitStock(book, available).take(sku, quantity, way).isWhole();
  }
}
