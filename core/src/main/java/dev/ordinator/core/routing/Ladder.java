package dev.ordinator.core.routing;

import dev.ordinator.core.network.Node;
import dev.ordinator.core.network.NodeKind;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** The ordered ways to fill an order; the first rung that can wins. */
public record Ladder(String name, List<Rung> rungs) {
  public Ladder {
    rungs = List.copyOf(rungs);
  }

  /** The same, but that each rung must fill every unit. */
  public Ladder whole() {
    return new Ladder(
        name,
        rungs.stream()
            .map(r -> new Rung(r.name(), r.nodes(), r.maxConsignments(), Cover.WHOLE, r.late()))
            .toList());
  }

  /** Whether some rung sends what there is while the rest waits. */
  public boolean goesInPart() {
    return rungs.stream().anyMatch(rung -> rung.cover() == Cover.MOST);
  }

  /** The same, but that as a last resort what there is is sent by the last rung's way. */
  public Ladder inPart() {
    if (goesInPart() || rungs.isEmpty()) {
      return this;
    }
    Rung last = rungs.getLast();
    List<Rung> more = new ArrayList<>(rungs);
    more.add(
        new Rung(
            last.name() + ", in part",
            last.nodes(),
            last.maxConsignments(),
            Cover.MOST,
            last.late()));
    return new Ladder(name, more);
  }

  /** Whether a rung may arrive after the date asked for. */
  public enum Late {
    FORBID,
    ALLOW
  }

  /** How much of an order a rung must fill. */
  public enum Cover {
    /** Every unit. */
    WHOLE,
    /** As many units as possible, and those at the least cost. */
    MOST
  }

  /**
   * One way to fill an order: from nodes that pass the filter, each at most once, at the least
   * cost.
   *
   * @param maxConsignments at least one
   */
  public record Rung(String name, NodeFilter nodes, int maxConsignments, Cover cover, Late late) {
    public Rung {
      if (maxConsignments < 1) {
        throw new IllegalArgumentException("a rung allows at least one consignment: " + name);
      }
    }
  }

  /** Which nodes may serve. A null set admits all. */
  public record NodeFilter(
      @Nullable Set<NodeKind> kinds, @Nullable Set<String> codes, boolean sameCountry) {

    public static final NodeFilter ALL = new NodeFilter(null, null, false);

    boolean admits(Node node, String country) {
      return (kinds == null || kinds.contains(node.kind()))
          && (codes == null || codes.contains(node.code()))
          && (!sameCountry || node.country().equals(country));
    }
  }
}
