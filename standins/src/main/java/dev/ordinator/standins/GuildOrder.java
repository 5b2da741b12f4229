package dev.ordinator.standins;

import java.util.List;

/**
 * An order as the wholesale portal tells of it. Prices are without tax.
 *
 * @param amendment counts its changes
 * @param status confirmed or cancelled
 * @param payWithin days
 * @param discountPercent on all positions together, after their own discounts
 */
public record GuildOrder(
    String number,
    long amendment,
    String orderDate,
    String placedAt,
    String status,
    Party party,
    Place invoiceTo,
    Place deliverTo,
    String currency,
    int payWithin,
    String deliverBy,
    String deliveryTerms,
    List<Position> positions,
    String discountPercent,
    String freight,
    String remarks) {

  public record Party(String company, String contact, String email, String phone) {}

  public record Place(
      String company, String street, String postalCode, String place, String country) {}

  /**
   * @param tax on the whole position, as the portal computed it: none across borders
   */
  public record Position(
      String no,
      String article,
      String ean,
      String description,
      long quantity,
      long cancelled,
      String netPrice,
      String discountPercent,
      String tax) {}

  public GuildOrder cancelled() {
    return changed("cancelled", deliverBy, positions);
  }

  public GuildOrder withPositions(List<Position> other) {
    return changed(status, deliverBy, other);
  }

  public GuildOrder by(String day) {
    return changed(status, day, positions);
  }

  private GuildOrder changed(String newStatus, String by, List<Position> newPositions) {
    return new GuildOrder(
        number,
        amendment + 1,
        orderDate,
        placedAt,
        newStatus,
        party,
        invoiceTo,
        deliverTo,
        currency,
        payWithin,
        by,
        deliveryTerms,
        newPositions,
        discountPercent,
        freight,
        remarks);
  }
}
