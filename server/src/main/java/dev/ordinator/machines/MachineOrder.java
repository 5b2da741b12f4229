package dev.ordinator.machines;

import dev.ordinator.core.orders.Address;
import dev.ordinator.core.orders.PaymentState;
import dev.ordinator.orders.NewOrder.Buyer;
import dev.ordinator.orders.NewOrder.Wish;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * An order as machines send it, for the API's document. Amounts are minor units of its currency.
 *
 * @param id your own, by which you ask for it later
 * @param revision your count of changes to it, from 1; what is not higher than the last changes
 *     nothing
 * @param currency ISO 4217; left out: the connection's
 * @param service the shipping service in your own words
 * @param pickUpNode code of the node where the buyer collects it
 * @param total what the buyer owes, as you told them; left out: what the parts add up to
 */
record MachineOrder(
    String id,
    @Nullable Long revision,
    Instant placedAt,
    @Nullable String currency,
    @Nullable String site,
    Buyer buyer,
    Address shipTo,
    @Nullable Address billTo,
    @Nullable String service,
    @Nullable LocalDate arriveBy,
    @Nullable String pickUpNode,
    Paid payment,
    @Nullable Long shipping,
    @Nullable Long discount,
    @Nullable Long total,
    @Nullable String instructions,
    @Nullable String giftMessage,
    List<Line> lines) {

  /** Put in by the document's reader as it stands; a test does so as well. */
  static final String EXAMPLE =
      """
      {
        "id": "M-1001",
        "placedAt": "2026-11-25T09:00:00Z",
        "buyer": {"name": "Marit Heideveld", "email": "marit@heideveld.example", "phone": ""},
        "shipTo": {
          "name": "Marit Heideveld", "street": "Lindepad 12",
          "postcode": "1012 AB", "city": "Amsterdam", "country": "NL"
        },
        "service": "Standard",
        "payment": {"state": "PAID", "method": "card"},
        "shipping": 490,
        "lines": [{"id": "1", "sku": "TOOL-J", "title": "Hive tool", "quantity": 2, "price": 1250}]
      }
      """;

  static final String CHANGED =
      """
      {
        "id": "M-1001",
        "revision": 2,
        "placedAt": "2026-11-25T09:00:00Z",
        "buyer": {"name": "Marit Heideveld", "email": "marit@heideveld.example", "phone": ""},
        "shipTo": {
          "name": "Marit Heideveld", "street": "Lindepad 14",
          "postcode": "1012 AB", "city": "Amsterdam", "country": "NL"
        },
        "service": "Standard",
        "payment": {"state": "PAID", "method": "card"},
        "shipping": 490,
        "lines": [
          {
            "id": "1", "sku": "TOOL-J", "title": "Hive tool",
            "quantity": 2, "cancelled": 1, "price": 1250
          }
        ]
      }
      """;

  /**
   * @param tenders what came in so far; an order called PAID whose tenders don’t cover it is taken
   *     as UNPAID until later ones do
   * @param withinDays when it is due; left out: at once
   * @param refunded what you have paid back in all; without it, a state of PART_REFUNDED settles
   *     none of the refunds that you were asked for
   */
  record Paid(
      PaymentState state,
      @Nullable String method,
      @Nullable List<Tender> tenders,
      @Nullable Integer withinDays,
      @Nullable Long refunded) {}

  record Tender(String method, long amount, @Nullable String reference) {}

  /**
   * @param cancelled units of {@code quantity} that are no longer wanted
   * @param tax of the whole line; left out: it is computed
   */
  record Line(
      String id,
      String sku,
      @Nullable String gtin,
      @Nullable String title,
      long quantity,
      @Nullable Long cancelled,
      long price,
      @Nullable Long discount,
      @Nullable Long tax,
      @Nullable List<Wish> wishes) {}
}
