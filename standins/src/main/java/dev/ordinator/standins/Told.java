package dev.ordinator.standins;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What a channel was told by who fulfils its orders. A repeat, known by its key, changes nothing.
 */
public final class Told {
  private final Map<String, Shipment> shipments = new LinkedHashMap<>();
  private final Map<String, Cancellation> cancellations = new LinkedHashMap<>();
  private final Map<String, Refund> refunds = new LinkedHashMap<>();
  private final Map<String, Objection> objections = new LinkedHashMap<>();
  private final Map<String, Long> quantities = new LinkedHashMap<>();
  private int requests;
  private int pushes;

  /**
   * @param lines units by line
   * @param instead SKUs of what came in place of what was ordered, by line; files of before there
   *     was such have none
   */
  public record Shipment(
      String onceKey,
      String orderId,
      String carrier,
      List<String> trackingNumbers,
      String trackingUrl,
      Map<String, Long> lines,
      @Nullable Map<String, String> instead) {}

  /**
   * @param lines units by line that will not come
   */
  public record Cancellation(String onceKey, String orderId, Map<String, Long> lines) {}

  /**
   * @param amount a decimal, in the order's currency
   * @param lines units by line that it is for
   */
  public record Refund(String onceKey, String orderId, String amount, Map<String, Long> lines) {}

  /**
   * @param about change or cancellation: what it asked for that is not followed
   */
  public record Objection(String onceKey, String orderId, String about, String reason) {}

  /** As it is kept in a file; files of before there were refunds or objections have none. */
  record State(
      List<Shipment> shipments,
      List<Cancellation> cancellations,
      @Nullable List<Refund> refunds,
      @Nullable List<Objection> objections,
      Map<String, Long> quantities) {}

  synchronized void load(State before) {
    before.shipments().forEach(s -> shipments.put(s.onceKey(), s));
    before.cancellations().forEach(c -> cancellations.put(c.onceKey(), c));
    if (before.refunds() != null) {
      before.refunds().forEach(r -> refunds.put(r.onceKey(), r));
    }
    if (before.objections() != null) {
      before.objections().forEach(o -> objections.put(o.onceKey(), o));
    }
    quantities.putAll(before.quantities());
  }

  synchronized State state() {
    return new State(shipments(), cancellations(), refunds(), objections(), quantities());
  }

  synchronized void shipped(Shipment shipment) {
    requests++;
    shipments.putIfAbsent(shipment.onceKey(), shipment);
  }

  synchronized void cancelled(Cancellation cancellation) {
    requests++;
    cancellations.putIfAbsent(cancellation.onceKey(), cancellation);
  }

  synchronized void refunded(Refund refund) {
    requests++;
    refunds.putIfAbsent(refund.onceKey(), refund);
  }

  synchronized void objected(Objection objection) {
    requests++;
    objections.putIfAbsent(objection.onceKey(), objection);
  }

  synchronized void stocked(Map<String, Long> levels) {
    pushes++;
    quantities.putAll(levels);
  }

  /** One per consignment that the channel was told of, however often. */
  public synchronized List<Shipment> shipments() {
    return List.copyOf(shipments.values());
  }

  public synchronized List<Shipment> shipmentsOf(String orderId) {
    return shipments.values().stream().filter(s -> s.orderId().equals(orderId)).toList();
  }

  public synchronized List<Cancellation> cancellations() {
    return List.copyOf(cancellations.values());
  }

  public synchronized List<Refund> refunds() {
    return List.copyOf(refunds.values());
  }

  /** What it asked for that is not followed. */
  public synchronized List<Objection> objections() {
    return List.copyOf(objections.values());
  }

  /** What is on offer, by product, as last told. */
  public synchronized Map<String, Long> quantities() {
    return new LinkedHashMap<>(quantities);
  }

  /** What is on offer of a product, as last told; −1 if it never was. */
  public synchronized long quantity(String product) {
    return quantities.getOrDefault(product, -1L);
  }

  /**
   * How often the channel was told of shipments, cancellations, objections and refunds, repeats
   * included.
   */
  public synchronized int requests() {
    return requests;
  }

  /** How often it was told quantities. */
  public synchronized int pushes() {
    return pushes;
  }
}
