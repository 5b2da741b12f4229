package dev.ordinator.orders;

import dev.ordinator.core.money.Money;
import dev.ordinator.core.orders.Address;
import dev.ordinator.core.orders.OrderContent;
import dev.ordinator.core.orders.PaymentState;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * An order as a channel sent it, read and found sound.
 *
 * @param content what of it the channel may change later
 * @param team whose order it is; empty: nobody's in particular
 */
public record NewOrder(Header header, OrderContent content, String team, List<Line> lines) {

  /**
   * All but the lines.
   *
   * @param externalId the channel's own id
   * @param revision the channel's count of changes to it
   * @param site the channel's country site; empty if it has none
   * @param state the order's state in the channel's own words
   * @param fulfilledByChannel recorded only: the channel's depot sends it
   * @param billTo null: as ship-to
   * @param service the shipping service in the channel's own words
   * @param arriveBy the arrival date asked for
   * @param pickUpNode code of the node where the buyer collects it
   * @param total what the buyer owes, as the channel says; null: it does not say
   * @param pricesWithTax whether prices, discounts and shipping contain tax
   */
  public record Header(
      String externalId,
      long revision,
      Instant placedAt,
      String site,
      String state,
      boolean fulfilledByChannel,
      Buyer buyer,
      Address shipTo,
      @Nullable Address billTo,
      String service,
      @Nullable LocalDate arriveBy,
      @Nullable String pickUpNode,
      Payment payment,
      Money shippingCharge,
      Money discount,
      @Nullable Money total,
      boolean pricesWithTax,
      String instructions,
      String giftMessage) {

    /** The same, of which the payment is awaited. */
    public Header unpaid() {
      return new Header(
          externalId,
          revision,
          placedAt,
          site,
          state,
          fulfilledByChannel,
          buyer,
          shipTo,
          billTo,
          service,
          arriveBy,
          pickUpNode,
          payment.unpaid(),
          shippingCharge,
          discount,
          total,
          pricesWithTax,
          instructions,
          giftMessage);
    }
  }

  public record Buyer(String name, String email, String phone) {}

  /**
   * @param tenders what was paid with, where the channel says
   * @param withinDays when it is due; null: at once
   * @param refunded what was paid back in all; null: the channel does not say
   */
  public record Payment(
      PaymentState state,
      String method,
      List<Tender> tenders,
      @Nullable Integer withinDays,
      @Nullable Money refunded) {

    /** As most channels tell of it. */
    public Payment(
        PaymentState state, String method, List<Tender> tenders, @Nullable Integer withinDays) {
      this(state, method, tenders, withinDays, null);
    }

    private Payment unpaid() {
      return new Payment(PaymentState.UNPAID, method, tenders, withinDays, refunded);
    }
  }

  public record Tender(String method, Money amount, String reference) {}

  /**
   * Something to make of a line: a text, a file, or an answer to a question.
   *
   * @param file where it is; empty if there is none
   */
  public record Wish(String name, String text, String file) {}

  /**
   * @param quantity units as the channel counts them, {@code cancelled} of them no longer wanted
   * @param tax of the whole line; null: to be computed
   */
  public record Line(
      String externalId,
      long listingId,
      String title,
      long quantity,
      long cancelled,
      Money unitPrice,
      Money discount,
      @Nullable Money tax,
      List<Wish> wishes) {}
}
