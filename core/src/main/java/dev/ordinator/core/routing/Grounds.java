package dev.ordinator.core.routing;

import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * Why a decision was made: what every node could have done alone on every rung tried, and the
 * second best plan.
 *
 * @param considered in the order of rungs and nodes
 * @param runnerUp the next cheapest plan of the rung that won, over other nodes
 */
public record Grounds(List<Candidate> considered, Optional<Plan> runnerUp) {

  public Grounds {
    considered = List.copyOf(considered);
  }

  /** SKUs that some node has enough of, but would not last. */
  public Set<String> expiring() {
    return considered.stream()
        .map(Candidate::finding)
        .filter(f -> f instanceof Finding.Out out && out.why() == RuledOut.EXPIRES_TOO_SOON)
        .flatMap(f -> ((Finding.Out) f).skus().stream())
        .collect(Collectors.toSet());
  }

  /**
   * @param rung 0-based place on the ladder
   */
  public record Candidate(int rung, String node, Finding finding) {}

  /** What became of a candidate. */
  public sealed interface Finding {
    /**
     * @param skus the items it was about, if any in particular
     * @param expiring units of these that are there, but would not last long enough
     */
    record Out(RuledOut why, List<String> skus, long expiring) implements Finding {
      public Out(RuledOut why, List<String> skus) {
        this(why, skus, 0);
      }
    }

    record Priced(PlannedConsignment consignment) implements Finding {}
  }

  /** What rules a node out, in the order in which it is looked for. */
  public enum RuledOut {
    /** The channel is not served from there. */
    NOT_SERVING,
    /** The buyer collects it elsewhere. */
    COLLECTED_ELSEWHERE,
    NOT_ON_RUNG,
    EXCLUDED_BY_RULE,
    /** Nothing new is routed there for now. */
    PAUSED,
    /** It said already that it can’t fill it. */
    REFUSED,
    NO_STOCK,
    MAY_NOT_TRAVEL,
    NO_LANE,
    /** What is there would not last long enough after it arrived. */
    EXPIRES_TOO_SOON,
    TOO_LATE,
    AT_CAPACITY
  }
}
