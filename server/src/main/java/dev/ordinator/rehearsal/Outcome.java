package dev.ordinator.rehearsal;

import dev.ordinator.routing.GroundsJson.StoredPart;
import java.time.LocalDate;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Collectors;

/**
 * How an order was or would be sent.
 *
 * @param parts its consignments; empty: nothing could be sent
 * @param cost of the plan, in minor units of the base currency
 */
record Outcome(List<StoredPart> parts, long cost) {

  /** What a buyer or a node would notice of a consignment. */
  private record Seen(String node, String carrier, String service, LocalDate arrival) {}

  boolean filled() {
    return !parts.isEmpty();
  }

  /** Whether it comes from the same nodes by the same services on the same days. */
  boolean sameAs(Outcome other) {
    return seen().equals(other.seen());
  }

  private List<Seen> seen() {
    return parts.stream()
        .map(p -> new Seen(p.node(), p.carrier(), p.service(), p.arrival()))
        .sorted(Comparator.comparing(Seen::node))
        .toList();
  }

  /** The last day on which any of it arrives. */
  LocalDate arrival() {
    return parts.stream().map(StoredPart::arrival).max(Comparator.naturalOrder()).orElseThrow();
  }

  /** Carriage and handling, in minor units of the base currency. */
  long sending() {
    return parts.stream().mapToLong(p -> p.cost().carriage() + p.cost().handling()).sum();
  }

  /** Codes of its nodes, with commas between. */
  String nodes() {
    return parts.stream().map(StoredPart::node).collect(Collectors.joining(","));
  }
}
