package dev.ordinator.dispatch;

import java.time.Instant;
import java.util.List;

/** The door to a carrier's own system. */
public interface Carrier {

  /**
   * @param onceKey the same key always gives the same label, so that asking again is safe
   * @param weight grams
   */
  record Shipment(
      String onceKey,
      String carrier,
      String service,
      String reference,
      String sscc,
      Party from,
      Party to,
      long weight) {}

  record Party(String name, String street, String postcode, String city, String country) {}

  /**
   * @param pdf the label to print
   */
  record Label(String tracking, byte[] pdf) {}

  /**
   * @param code the carrier's word for what happened: ACCEPTED, MOVING, OUT, DELIVERED
   */
  record Scan(String code, String place, Instant at) {}

  /**
   * @throws Unavailable if the carrier gives none
   */
  Label label(Shipment shipment);

  /**
   * Gives a label back that is not used. One that is void already stays so.
   *
   * @throws Unavailable if the carrier does not answer
   * @throws Unusable if it does not take it back
   */
  void voidLabel(String tracking);

  /**
   * Everything the carrier knows of a parcel, oldest first.
   *
   * @throws Unavailable if it does not answer
   * @throws Unusable if what it answers says nothing
   */
  List<Scan> scans(String tracking);

  /** The carrier refused or did not answer; the message says which. */
  final class Unavailable extends RuntimeException {
    private static final long serialVersionUID = 1L;

    public Unavailable(String message, Throwable cause) {
      super(message, cause);
    }
  }

  /** The carrier answered, and what it said can't be used: asking again will hardly help. */
  final class Unusable extends RuntimeException {
    private static final long serialVersionUID = 1L;

    public Unusable(String message, Throwable cause) {
      super(message, cause);
    }
  }
}
