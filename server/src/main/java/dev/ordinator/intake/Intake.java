package dev.ordinator.intake;

import dev.ordinator.cancelling.Cancellations;
import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Connectors;
import dev.ordinator.channels.IncomingOrder;
import dev.ordinator.channels.MessagePart.Unreadable;
import dev.ordinator.core.money.Money;
import dev.ordinator.core.orders.PaymentState;
import dev.ordinator.orders.NewOrder.Header;
import dev.ordinator.orders.NewOrder.Payment;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.Transactions;
import dev.ordinator.returns.Refunds;
import java.util.List;
import java.util.Optional;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.stereotype.Service;

/**
 * Takes order messages in: each on its own, the same one only once, whichever way and however often
 * it comes. What can't be read is kept and shown, and stops nothing else.
 */
@Service
public class Intake {
  private final Transactions transactions;
  private final Connectors connectors;
  private final Recognition recognition;
  private final Orders orders;
  private final Amendments amendments;
  private final Cancellations cancellations;
  private final DepotShipments depot;
  private final Refunds refunds;
  private final RefusedMessages refused;

  Intake(
      Transactions transactions,
      Connectors connectors,
      Recognition recognition,
      Orders orders,
      Amendments amendments,
      Cancellations cancellations,
      DepotShipments depot,
      Refunds refunds,
      RefusedMessages refused) {
    this.transactions = transactions;
    this.connectors = connectors;
    this.recognition = recognition;
    this.orders = orders;
    this.amendments = amendments;
    this.cancellations = cancellations;
    this.depot = depot;
    this.refunds = refunds;
    this.refused = refused;
  }

  /** How a message came. */
  enum Source {
    PULL("fetched from the channel"),
    WEBHOOK("sent by the channel");

    private final String words;

    Source(String words) {
      this.words = words;
    }

    String words() {
      return words;
    }
  }

  /** What became of a message. */
  public enum Taken {
    NEW,
    CHANGED,
    /** Known already, or older than what is known. */
    NOTHING_NEW,
    /** The channel's terms leave it alone. */
    NOT_WANTED,
    REFUSED;

    public boolean isNews() {
      return this == NEW || this == CHANGED || this == REFUSED;
    }
  }

  /** Takes a message in, or keeps it with what is the matter with it. */
  Taken take(Channel channel, String message, Source source) {
    try {
      IncomingOrder order = connectors.of(channel).read(channel, message);
      Taken taken = take(channel, order, message, source.words);
      if (taken.isNews()) {
        transactions.run(() -> refused.overtaken(channel, List.of(order.header().externalId())));
      }
      return taken;
    } catch (RuntimeException e) {
      Unreadable why = RefusalReason.of(e);
      transactions.run(() -> refused.keep(channel, message, source.name(), why));
      return Taken.REFUSED;
    }
  }

  /**
   * Takes an order that could be read.
   *
   * @param message as it came, in case a person has to look at it later
   * @param how how it came, for its timeline
   */
  public Taken take(Channel channel, IncomingOrder order, String message, String how) {
    try {
      return transactions.get(() -> takeOnce(channel, order, message, how));
    } catch (DuplicateKeyException otherWasFirst) {
      return transactions.get(() -> takeOnce(channel, order, message, how));
    }
  }

  /** Our id of a channel's order, if it was taken in. */
  public Optional<Long> idOf(Channel channel, String externalId) {
    return transactions.get(() -> orders.lock(channel.id(), externalId).map(OrderHead::id));
  }

  private Taken takeOnce(Channel channel, IncomingOrder order, String message, String how) {
    Header header = order.header();
    Optional<OrderHead> known = orders.lock(channel.id(), header.externalId());
    if (known.isPresent()) {
      return follow(channel, known.get(), order, message);
    }
    if (order.cancelled() || !channel.terms().wants(order)) {
      return Taken.NOT_WANTED;
    }
    long id = orders.take(channel.id(), recognition.of(channel, order), channel.name(), how);
    depot.sent(id, order.parcels());
    return Taken.NEW;
  }

  /**
   * What is known of a payment now. Tenders that a channel lists after a refund may be less that
   * refund, which is counted here: then they say nothing new.
   */
  private PaymentState paymentTold(OrderHead ours, Payment said) {
    if (said.tenders().isEmpty()) {
      return ours.payment().told(said.state());
    }
    if (ours.payment().isRefunded() && said.state() == PaymentState.UNPAID) {
      return ours.payment();
    }
    if (!ours.payment().isRefunded()) {
      orders.followTenders(ours.id(), said.tenders());
    }
    return ours.payment().told(said.state());
  }

  private Taken follow(Channel channel, OrderHead ours, IncomingOrder order, String message) {
    Header header = order.header();
    if (header.revision() <= ours.externalRevision()) {
      return Taken.NOTHING_NEW;
    }
    orders.setRevision(ours.id(), header.revision(), header.state());
    if (order.cancelled()) {
      amendments.overtaken(ours, channel.name());
      cancellations.byChannel(ours, channel.name());
      return Taken.CHANGED;
    }
    PaymentState payment = paymentTold(ours, header.payment());
    Money refunded = header.payment().refunded();
    if (payment != ours.payment() || refunded != null) {
      refunds.told(ours, payment, refunded, channel.name());
    }
    if (payment != ours.payment()) {
      orders.setPayment(ours, payment, channel.name());
    }
    amendments.follow(channel, ours, order, message);
    depot.sent(ours.id(), order.parcels());
    return Taken.CHANGED;
  }
}
