package dev.ordinator.core.catalog;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** All kits there are, and what is in them. No kit is, however deep, a component of itself. */
public final class KitBook {
  private final Map<String, Kit> kits;

  /** Kits so ordered that each stands before all that it may contain. */
  private final Map<String, Integer> order;

  /** What was chosen of each choice, by its name: an SKU. */
  public record Chosen(Map<String, String> byChoice) {
    public static final Chosen NOTHING = new Chosen(Map.of());

    public Chosen {
      byChoice = Map.copyOf(byChoice);
    }
  }

  /** Something that can't be a kit, said so that a person can mend it. */
  public static final class Circular extends IllegalArgumentException {
    private static final long serialVersionUID = 1L;

    private Circular(Collection<String> path) {
      super("a kit would contain itself: " + String.join(" → ", path));
    }
  }

  private KitBook(Map<String, Kit> kits) {
    this.kits = kits;
    Deque<String> sorted = new ArrayDeque<>();
    Set<String> done = new HashSet<>();
    kits.keySet().forEach(sku -> visit(sku, new LinkedHashSet<>(), done, sorted));
    Map<String, Integer> positions = new HashMap<>();
    sorted.forEach(sku -> positions.put(sku, positions.size()));
    this.order = Map.copyOf(positions);
  }

  /**
   * @throws Circular if a kit is, at some depth, a component of itself
   */
  public static KitBook of(Collection<Kit> kits) {
    // sorted, so that the same kits always give the same order and the same complaint
    return new KitBook(
        kits.stream()
            .collect(
                Collectors.toMap(
                    Kit::sku, Function.identity(), (one, same) -> same, TreeMap::new)));
  }

  /** The same with one kit more, or another in its place. */
  public KitBook with(Kit kit) {
    Map<String, Kit> more = new HashMap<>(kits);
    more.put(kit.sku(), kit);
    return of(more.values());
  }

  public @Nullable Kit kit(String sku) {
    return kits.get(sku);
  }

  /** Where an SKU stands: a kit before all it may contain, and what is no kit last. */
  public int depth(String sku) {
    return order.getOrDefault(sku, Integer.MAX_VALUE);
  }

  /**
   * What is in one kit, one step deep.
   *
   * @return units by SKU; a choice that is still open is left out
   */
  public Map<String, Long> step(Kit kit, Chosen chosen) {
    Map<String, Long> units = new LinkedHashMap<>();
    kit.parts().forEach(p -> units.merge(p.sku(), p.quantity(), Long::sum));
    kit.choices()
        .forEach(c -> {
          String sku = chosen.byChoice().get(c.name());
          if (sku != null) {
            units.merge(sku, c.quantity(), Long::sum);
          }
        });
    return units;
  }

  /** What is in one of it in the end, through all kits within it: units by SKU. */
  public Map<String, Long> components(String sku, Chosen chosen) {
    Map<String, Long> units = new LinkedHashMap<>();
    collect(sku, 1, chosen, units);
    return units;
  }

  /** The choices within it, at whatever depth, that are not made yet; by name. */
  public List<Kit.Choice> open(String sku, Chosen chosen) {
    Map<String, Kit.Choice> open = new LinkedHashMap<>();
    collectOpen(sku, chosen, open);
    return List.copyOf(open.values());
  }

  /**
   * All ways in which it can be chosen, beyond what is chosen already. A choice that only another
   * answer brings in (a chosen kit with a choice of its own) is among them.
   */
  public List<Chosen> ways(String sku, Chosen chosen) {
    List<Kit.Choice> open = open(sku, chosen);
    if (open.isEmpty()) {
      return List.of(chosen);
    }
    Kit.Choice first = open.getFirst();
    List<Chosen> ways = new ArrayList<>();
    first
        .options()
        .forEach(option -> {
          Map<String, String> more = new HashMap<>(chosen.byChoice());
          more.put(first.name(), option.sku());
          ways.addAll(ways(sku, new Chosen(more)));
        });
    return ways;
  }

  /** Every SKU that one of these may need, itself included. */
  public Set<String> reach(Collection<String> skus) {
    Set<String> reached = new LinkedHashSet<>();
    Deque<String> next = new ArrayDeque<>(skus);
    while (!next.isEmpty()) {
      String sku = next.remove();
      Kit kit = kits.get(sku);
      if (reached.add(sku) && kit != null) {
        kit.mayContain().forEach(next::add);
      }
    }
    return reached;
  }

  private void collect(String sku, long times, Chosen chosen, Map<String, Long> units) {
    Kit kit = kits.get(sku);
    if (kit == null) {
      units.merge(sku, times, Long::sum);
    } else {
      step(kit, chosen)
          .forEach((part, each) -> collect(part, Math.multiplyExact(times, each), chosen, units));
    }
  }

  private void collectOpen(String sku, Chosen chosen, Map<String, Kit.Choice> open) {
    Kit kit = kits.get(sku);
    if (kit == null) {
      return;
    }
    kit.choices().stream()
        .filter(c -> !chosen.byChoice().containsKey(c.name()))
        .forEach(c -> open.putIfAbsent(c.name(), c));
    step(kit, chosen).keySet().forEach(part -> collectOpen(part, chosen, open));
  }

  private void visit(
      String sku, LinkedHashSet<String> path, Set<String> done, Deque<String> sorted) {
    Kit kit = kits.get(sku);
    if (kit == null || done.contains(sku)) {
      return;
    }
    if (!path.add(sku)) {
      List<String> circle = new ArrayList<>(path);
      circle.add(sku);
      throw new Circular(circle.subList(circle.indexOf(sku), circle.size()));
    }
    kit.mayContain().forEach(part -> visit(part, path, done, sorted));
    path.remove(sku);
    done.add(sku);
    sorted.addFirst(sku);
  }
}
