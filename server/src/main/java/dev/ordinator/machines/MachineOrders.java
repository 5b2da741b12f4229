package dev.ordinator.machines;

import dev.ordinator.cancelling.Cancellations;
import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Channels;
import dev.ordinator.channels.IncomingOrder;
import dev.ordinator.channels.MachineReader;
import dev.ordinator.channels.MessagePart.Unreadable;
import dev.ordinator.core.orders.Address;
import dev.ordinator.core.orders.OrderContent;
import dev.ordinator.intake.Intake;
import dev.ordinator.intake.Intake.Taken;
import dev.ordinator.machines.OrderStates.OrderState;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import dev.ordinator.platform.Transactions;
import java.util.List;
import org.springframework.stereotype.Service;

/** Orders as machines make, change and cancel them: in and out by the same doors as all others. */
@Service
class MachineOrders {
  private final Channels channels;
  private final Intake intake;
  private final Cancellations cancellations;
  private final Orders orders;
  private final OrderStates states;
  private final Transactions transactions;

  MachineOrders(
      Channels channels,
      Intake intake,
      Cancellations cancellations,
      Orders orders,
      OrderStates states,
      Transactions transactions) {
    this.channels = channels;
    this.intake = intake;
    this.cancellations = cancellations;
    this.orders = orders;
    this.states = states;
    this.transactions = transactions;
  }

  /**
   * @param isNew false if it was there already, just so
   */
  record Created(boolean isNew, OrderState state) {}

  Created create(long channelId, String message, String caller) {
    Channel channel = open(channelId);
    IncomingOrder order = read(channel, message);
    String id = order.header().externalId();
    boolean isKnown = transactions.get(() -> orders.lock(channelId, id).isPresent());
    Taken taken =
        isKnown ? Taken.NOTHING_NEW : intake.take(channel, order, message, "sent by " + caller);
    if (taken == Taken.NOT_WANTED) {
      throw Problem.invalid("id", "orders like this one are not taken by the connection’s terms");
    }
    if (taken != Taken.NEW) {
      refuseOther(channelId, order);
    }
    return new Created(taken == Taken.NEW, state(channelId, id));
  }

  /** An order that is there already is made once more only just so. */
  private void refuseOther(long channelId, IncomingOrder order) {
    String id = order.header().externalId();
    OrderContent known = transactions.get(() -> orders.content(lock(channelId, id).id()));
    List<OrderContent.Change> changes =
        known == null ? List.of() : known.changesTo(order.content());
    if (!changes.isEmpty()) {
      throw Problem.conflict(
          Texts.cut(
              "‘%s’ is there already and says otherwise: %s. Change it by PUT"
                  .formatted(id, OrderContent.words(changes)),
              1000));
    }
  }

  OrderState amend(long channelId, String externalId, String message, String caller) {
    Channel channel = open(channelId);
    IncomingOrder order = read(channel, message);
    if (!order.header().externalId().equals(externalId)) {
      throw Problem.invalid("id", "is not the order that the address names");
    }
    long known = state(channelId, externalId).revision();
    if (order.header().revision() < known) {
      throw Problem.conflict(
          "revision %d is known already; give a change a higher one".formatted(known));
    }
    intake.take(channel, order, message, "sent by " + caller);
    return state(channelId, externalId);
  }

  OrderState cancel(long channelId, String externalId, String caller) {
    open(channelId);
    transactions.run(() -> cancellations.byChannel(lock(channelId, externalId), caller));
    return state(channelId, externalId);
  }

  OrderState state(long channelId, String externalId) {
    return transactions.get(() -> states.of(lock(channelId, externalId)));
  }

  private OrderHead lock(long channelId, String externalId) {
    return orders
        .lock(channelId, Texts.canonical(externalId))
        .orElseThrow(() -> Problem.notFound("order ‘" + externalId + "’"));
  }

  private Channel open(long channelId) {
    Channel channel = channels.byId(channelId);
    channels.requireOpen(channel);
    return channel;
  }

  /** The caller is there to be told at once, so that what is wrong is not kept for a person. */
  private static IncomingOrder read(Channel channel, String message) {
    try {
      IncomingOrder order = MachineReader.read(channel, message);
      List<Address.Problem> problems = order.header().shipTo().problems();
      if (!problems.isEmpty()) {
        throw Problem.invalid(
            "shipTo." + problems.getFirst().part(), problems.getFirst().message());
      }
      return order;
    } catch (Unreadable e) {
      throw Problem.invalid(e.place(), Texts.of(e));
    }
  }
}
