package dev.ordinator.channels;

import dev.ordinator.core.orders.PaymentState;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;

/**
 * Which of a channel's orders are taken, and on what terms.
 *
 * @param payments payment states that are taken; empty: all
 * @param states order states, in the channel's own words, that are taken; empty: all
 * @param sites country sites that are taken; empty: all
 * @param since orders placed before this day are left alone; null: none are. UTC
 * @param nodes codes of the nodes that serve the channel; empty: all
 * @param pricesWithTax whether prices contain tax, where orders don't say
 * @param discountsWithin whether prices are less the discounts already, which are then told for
 *     information only
 * @param feeHundredths what the channel keeps of the price, in hundredths of a per cent
 * @param fixedFee what it keeps per order, in minor units of its currency
 * @param tellsUnits whether a shop’s pages are told how many there are, rather than whether any
 * @param tellsNodes whether they are told where
 * @param unknownListings what happens to a product we have never seen
 * @param team whose orders they are; empty: nobody's in particular
 * @param phone stands in where the carrier wants one and the buyer gave none
 * @param depot the node that stands for the channel's own depot; empty: it has none
 */
public record Terms(
    Set<PaymentState> payments,
    Set<String> states,
    Set<String> sites,
    @Nullable LocalDate since,
    Set<String> nodes,
    boolean pricesWithTax,
    boolean discountsWithin,
    int feeHundredths,
    long fixedFee,
    boolean tellsUnits,
    boolean tellsNodes,
    UnknownListings unknownListings,
    String team,
    String phone,
    String depot) {

  /** What becomes of an order for a product that matches none of ours. */
  public enum UnknownListings {
    HOLD,
    CREATE_ITEM
  }

  /** Everything is taken, from now on and from before, and served by every node. */
  public static final Terms PLAIN =
      new Terms(
          Set.of(),
          Set.of(),
          Set.of(),
          null,
          Set.of(),
          true,
          false,
          0,
          0,
          true,
          false,
          UnknownListings.HOLD,
          "",
          "",
          "");

  public Terms {
    payments = Set.copyOf(payments);
    states = Set.copyOf(states);
    sites = Set.copyOf(sites);
    nodes = Set.copyOf(nodes);
    if (feeHundredths < 0 || feeHundredths > 10_000 || fixedFee < 0) {
      throw new IllegalArgumentException("fees are 0 to 100 %, and not negative");
    }
  }

  /** The same terms, for other orders. */
  public Terms forOrders(
      Set<PaymentState> newPayments,
      Set<String> newStates,
      Set<String> newSites,
      @Nullable LocalDate newSince) {
    return new Terms(
        newPayments,
        newStates,
        newSites,
        newSince,
        nodes,
        pricesWithTax,
        discountsWithin,
        feeHundredths,
        fixedFee,
        tellsUnits,
        tellsNodes,
        unknownListings,
        team,
        phone,
        depot);
  }

  /** As it is kept; a connection that has said nothing yet has plain terms. */
  static Terms of(JsonMapper json, String kept) {
    return kept.equals("{}") ? PLAIN : json.readValue(kept, Terms.class);
  }

  /** Whether an order that is not known yet is to be taken. */
  public boolean wants(IncomingOrder order) {
    var header = order.header();
    return (payments.isEmpty() || payments.contains(header.payment().state()))
        && (states.isEmpty() || states.contains(header.state()))
        && (sites.isEmpty() || sites.contains(header.site()))
        && (since == null
            || !header.placedAt().isBefore(since.atStartOfDay(ZoneOffset.UTC).toInstant()));
  }
}
