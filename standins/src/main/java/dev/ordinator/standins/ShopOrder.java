package dev.ordinator.standins;

import java.math.BigDecimal;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * An order as the shop keeps it, and as it tells others of it. Amounts are decimals as text.
 *
 * @param status open or cancelled
 * @param collectAt the store where the buyer collects it
 * @param tenders what was paid with, if with several
 */
public record ShopOrder(
    String id,
    long revision,
    String status,
    String placedAt,
    String currency,
    Buyer buyer,
    ShipTo shipTo,
    @Nullable String shippingService,
    @Nullable String arriveBy,
    @Nullable String collectAt,
    Payment payment,
    List<Tender> tenders,
    String shippingCharge,
    String discount,
    String total,
    String instructions,
    String giftMessage,
    List<Line> lines) {

  public record Buyer(String name, String email, String phone) {}

  public record ShipTo(
      String name, String street, String postcode, String city, @Nullable String country) {}

  public record Payment(String state, String method) {}

  public record Tender(String method, String amount, String reference) {}

  /** A wish for one line: a text to print, or a file to use. */
  public record Wish(String name, String text, String file) {}

  /**
   * @param cancelled units of the quantity that are no longer wanted
   */
  public record Line(
      String id,
      String productId,
      String sku,
      String gtin,
      String title,
      long quantity,
      long cancelled,
      String unitPrice,
      String discount,
      List<Wish> personalisation) {

    /** All of it wanted, as it is. */
    public Line(
        String id,
        String productId,
        String sku,
        String gtin,
        String title,
        long quantity,
        String unitPrice,
        String discount) {
      this(id, productId, sku, gtin, title, quantity, 0, unitPrice, discount, List.of());
    }

    Line without(long units) {
      return new Line(
          id,
          productId,
          sku,
          gtin,
          title,
          quantity,
          cancelled + units,
          unitPrice,
          discount,
          personalisation);
    }
  }

  /** An order as most are: open, sent to the buyer, paid with one tender. */
  public ShopOrder(
      String id,
      long revision,
      String placedAt,
      String currency,
      Buyer buyer,
      ShipTo shipTo,
      @Nullable String shippingService,
      @Nullable String arriveBy,
      Payment payment,
      String shippingCharge,
      String discount,
      String total,
      String instructions,
      String giftMessage,
      List<Line> lines) {
    this(
        id,
        revision,
        "open",
        placedAt,
        currency,
        buyer,
        shipTo,
        shippingService,
        arriveBy,
        null,
        payment,
        List.of(),
        shippingCharge,
        discount,
        total,
        instructions,
        giftMessage,
        lines);
  }

  public ShopOrder paid() {
    return changed(status, new Payment("paid", payment.method()), collectAt, shipTo, lines);
  }

  public ShopOrder cancelled() {
    return changed("cancelled", payment, collectAt, shipTo, lines);
  }

  /** It was cancelled, and is not any more. */
  public ShopOrder reopened() {
    return changed("open", payment, collectAt, shipTo, lines);
  }

  /** Its payment was taken back. */
  public ShopOrder unpaid() {
    return changed(status, new Payment("unpaid", payment.method()), collectAt, shipTo, lines);
  }

  /** With another message for the gift. */
  public ShopOrder withGift(String message) {
    return with(
        revision + 1, status, payment, collectAt, shipTo, shippingCharge, total, message, lines);
  }

  public ShopOrder movedTo(ShipTo elsewhere) {
    return changed(status, payment, collectAt, elsewhere, lines);
  }

  public ShopOrder collectedAt(String store) {
    return changed(status, payment, store, shipTo, lines);
  }

  public ShopOrder withLines(List<Line> other) {
    return changed(status, payment, collectAt, shipTo, other);
  }

  /** With a shipping charge, in the total too. */
  public ShopOrder withShipping(String charge) {
    return priced(
        charge,
        new BigDecimal(total)
            .subtract(new BigDecimal(shippingCharge))
            .add(new BigDecimal(charge))
            .toPlainString());
  }

  /** With a total that its parts need not add up to. */
  public ShopOrder withTotal(String other) {
    return priced(shippingCharge, other);
  }

  private ShopOrder priced(String charge, String newTotal) {
    return with(revision, status, payment, collectAt, shipTo, charge, newTotal, giftMessage, lines);
  }

  /** Some units of a line are no longer wanted. */
  public ShopOrder without(String lineId, long units) {
    return withLines(
        lines.stream().map(l -> l.id().equals(lineId) ? l.without(units) : l).toList());
  }

  private ShopOrder changed(
      String newStatus,
      Payment newPayment,
      @Nullable String newCollectAt,
      ShipTo newShipTo,
      List<Line> newLines) {
    String newTotal =
        new BigDecimal(total).add(goods(newLines)).subtract(goods(lines)).toPlainString();
    return with(
        revision + 1,
        newStatus,
        newPayment,
        newCollectAt,
        newShipTo,
        shippingCharge,
        newTotal,
        giftMessage,
        newLines);
  }

  private ShopOrder with(
      long newRevision,
      String newStatus,
      Payment newPayment,
      @Nullable String newCollectAt,
      ShipTo newShipTo,
      String newCharge,
      String newTotal,
      String newGift,
      List<Line> newLines) {
    return new ShopOrder(
        id,
        newRevision,
        newStatus,
        placedAt,
        currency,
        buyer,
        newShipTo,
        shippingService,
        arriveBy,
        newCollectAt,
        newPayment,
        tenders,
        newCharge,
        discount,
        newTotal,
        instructions,
        newGift,
        newLines);
  }

  /** The same, ordered by somebody else. */
  public ShopOrder by(String email) {
    return copy(revision, new Buyer(buyer.name(), email, buyer.phone()), tenders);
  }

  /** What was paid with, as the shop says it now. */
  public ShopOrder withTenders(Tender... others) {
    return copy(revision + 1, buyer, List.of(others));
  }

  private ShopOrder copy(long newRevision, Buyer newBuyer, List<Tender> newTenders) {
    return new ShopOrder(
        id,
        newRevision,
        status,
        placedAt,
        currency,
        newBuyer,
        shipTo,
        shippingService,
        arriveBy,
        collectAt,
        payment,
        newTenders,
        shippingCharge,
        discount,
        total,
        instructions,
        giftMessage,
        lines);
  }

  /** Units that are no longer wanted count, too: the shop's total is that of what was bought. */
  private static BigDecimal goods(List<Line> lines) {
    return lines.stream()
        .map(l ->
            new BigDecimal(l.unitPrice())
                .multiply(BigDecimal.valueOf(l.quantity()))
                .subtract(new BigDecimal(l.discount())))
        .reduce(BigDecimal.ZERO, BigDecimal::add);
  }
}
