package dev.ordinator.returns;

import static dev.ordinator.schema.Tables.REFUND;
import static dev.ordinator.schema.Tables.REFUND_LINE;
import static dev.ordinator.schema.Tables.REFUND_TENDER;

import dev.ordinator.core.money.Money;
import dev.ordinator.core.orders.Charges;
import dev.ordinator.core.orders.PaymentState;
import dev.ordinator.core.orders.Stage;
import dev.ordinator.core.returns.Bought;
import dev.ordinator.core.returns.Refund;
import dev.ordinator.dispatch.Outbox;
import dev.ordinator.dispatch.OutboxPosts;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import dev.ordinator.returns.RefundCard.State;
import dev.ordinator.returns.RefundStore.Back;
import dev.ordinator.returns.RefundStore.Line;
import dev.ordinator.returns.RefundStore.Tender;
import dev.ordinator.returns.RefundStore.Terms;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * What buyers get back. A refund is asked for by a person and worked out by core; the order's
 * channel, which holds the payment, is told to pay it, and with its yes it is settled.
 */
@Service
public class Refunds {
  private final DSLContext db;
  private final RefundStore store;
  private final Orders orders;
  private final OutboxPosts outbox;
  private final Events events;
  private final ApplicationEventPublisher publisher;
  private final Clock clock;

  Refunds(
      DSLContext db,
      RefundStore store,
      Orders orders,
      OutboxPosts outbox,
      Events events,
      ApplicationEventPublisher publisher,
      Clock clock) {
    this.db = db;
    this.store = store;
    this.orders = orders;
    this.outbox = outbox;
    this.events = events;
    this.publisher = publisher;
    this.clock = clock;
  }

  /** A refund of an order was asked for, settled or withdrawn. */
  record Changed(long orderId) {}

  /** An order as refunds see it, with the names of its tenders. */
  record Basis(OrderHead order, List<Line> lines, List<String> methods, Bought bought) {}

  Basis basis(long orderId) {
    OrderHead order = orders.head(orderId);
    Terms terms = store.terms(orderId);
    String currency = order.currency();
    List<Line> lines = store.lines(orderId, currency);
    Charges charges =
        Charges.of(
            lines.stream().map(Line::ordered).toList(),
            least(terms.discount(), goods(lines, currency)),
            terms.shipping(),
            terms.pricesWithTax());
    Map<Long, Back> back = store.backByLine(orderId);
    List<Bought.Line> bought = new ArrayList<>();
    for (int i = 0; i < lines.size(); i++) {
      Charges.Line charge = charges.lines().get(i);
      Back gone = back.getOrDefault(lines.get(i).id(), Back.NOTHING);
      bought.add(
          new Bought.Line(
              Long.toString(lines.get(i).id()),
              lines.get(i).units(),
              terms.pricesWithTax() ? charge.amount() : charge.amount().plus(charge.tax()),
              gone.units(),
              Money.of(gone.amount(), currency)));
    }
    List<Tender> tenders = store.tenders(orderId, currency);
    boolean cameIn = isCaptured(order, !tenders.isEmpty());
    if (tenders.isEmpty()) {
      tenders = List.of(new Tender(terms.method(), terms.cameIn(charges.total())));
    }
    return new Basis(
        order,
        lines,
        tenders.stream().map(Tender::method).toList(),
        new Bought(
            bought,
            terms.pricesWithTax() ? terms.shipping() : terms.shipping().plus(charges.shippingTax()),
            Money.of(store.shippingBack(orderId), currency),
            Money.of(store.feesKept(orderId), currency),
            tenders(order, tenders, cameIn)));
  }

  private List<Bought.Tender> tenders(OrderHead order, List<Tender> tenders, boolean cameIn) {
    Map<Integer, Long> back = store.backByTender(order.id());
    Money nothing = Money.of(0, order.currency());
    List<Bought.Tender> paid = new ArrayList<>();
    for (Tender tender : tenders) {
      int no = paid.size() + 1;
      paid.add(
          new Bought.Tender(
              Integer.toString(no),
              cameIn ? tender.amount() : nothing,
              Money.of(back.getOrDefault(no, 0L), order.currency())));
    }
    return paid;
  }

  /**
   * An authorisation that was never captured is let go by whoever holds it; nothing came in.
   *
   * @param isTold whether the channel names tenders: of an order that is not paid whole, these are
   *     what came in so far
   */
  private static boolean isCaptured(OrderHead order, boolean isTold) {
    return switch (order.payment()) {
      case PAID, PART_REFUNDED, REFUNDED -> true;
      case ON_DELIVERY -> order.stage() == Stage.DELIVERED;
      case UNPAID -> isTold;
      case AUTHORISED -> false;
    };
  }

  /**
   * @throws Problem if that can't be refunded, with why
   */
  Refund workOut(Basis basis, Refund.Asked asked) {
    try {
      return Refund.of(basis.bought(), asked);
    } catch (IllegalArgumentException e) {
      throw Problem.invalid("refund", Texts.of(e));
    }
  }

  public List<RefundCard> ofOrder(long orderId) {
    return store.ofOrder(orderId);
  }

  /**
   * Asks for a refund, and has the channel told.
   *
   * @param no the number it will have: if another was asked for since somebody looked, it is
   *     refused
   * @param rmaId the return with which the goods came back; null: nothing did
   */
  @Transactional
  public long ask(
      long orderId, int no, @Nullable Long rmaId, Refund.Asked asked, String reason, String actor) {
    if (reason.isBlank() || reason.length() > 200) {
      throw Problem.invalid("reason", "say why, in at most 200 characters");
    }
    orders.lock(orderId);
    if (no != store.ofOrder(orderId).size() + 1) {
      throw Problem.conflict("another refund was asked for meanwhile; look at it again");
    }
    if (rmaId != null && !store.isOwed(orderId, rmaId)) {
      throw Problem.conflict("nothing is owed for that return, or it is being paid back already");
    }
    Basis basis = basis(orderId);
    Refund refund = workOut(basis, asked);
    long id = keep(basis, no, rmaId, refund, reason.strip(), actor);
    outbox.post(
        Outbox.Kind.REFUND,
        basis.order(),
        null,
        Outbox.Kind.REFUND + ":" + basis.order().number() + ":" + no,
        Long.toString(id));
    publisher.publishEvent(new Changed(orderId));
    events.record(
        EventKind.REFUND_ASKED,
        orderId,
        null,
        actor,
        "Refund of " + refund.total() + " asked for",
        reason.strip());
    return id;
  }

  private long keep(
      Basis basis, int no, @Nullable Long rmaId, Refund refund, String reason, String actor) {
    long id =
        db.insertInto(REFUND)
            .set(REFUND.ORDER_ID, basis.order().id())
            .set(REFUND.RMA_ID, rmaId)
            .set(REFUND.NO, no)
            .set(REFUND.AMOUNT, refund.total().minor())
            .set(REFUND.SHIPPING, refund.shipping().minor())
            .set(REFUND.FEE, refund.fee().minor())
            .set(REFUND.REASON, reason)
            .set(REFUND.STATE, State.ASKED.name())
            .set(REFUND.ASKED_BY, actor)
            .set(REFUND.ASKED_AT, clock.instant())
            .returningResult(REFUND.ID)
            .fetchSingle()
            .value1();
    refund
        .lines()
        .forEach((line, amount) ->
            db.insertInto(REFUND_LINE)
                .set(REFUND_LINE.REFUND_ID, id)
                .set(REFUND_LINE.ORDER_LINE_ID, Long.valueOf(line))
                .set(REFUND_LINE.UNITS, refund.units().get(line))
                .set(REFUND_LINE.AMOUNT, amount.minor())
                .execute());
    refund
        .tenders()
        .forEach((tender, amount) ->
            db.insertInto(REFUND_TENDER)
                .set(REFUND_TENDER.REFUND_ID, id)
                .set(REFUND_TENDER.TENDER_NO, Integer.valueOf(tender))
                .set(REFUND_TENDER.METHOD, basis.methods().get(Integer.parseInt(tender) - 1))
                .set(REFUND_TENDER.AMOUNT, amount.minor())
                .execute());
    return id;
  }

  /** Whoever holds the payment has paid it back. Said twice, it changes nothing. */
  @Transactional
  public void settle(long id, String actor, String how) {
    RefundCard refund = card(id);
    OrderHead order = orders.lock(refund.orderId());
    if (!move(id, State.SETTLED)) {
      return;
    }
    Money amount = Money.of(refund.amount(), order.currency());
    boolean all = store.settled(order.id()) >= captured(order);
    publisher.publishEvent(new Changed(order.id()));
    orders.setRefunded(order.id(), all ? PaymentState.REFUNDED : PaymentState.PART_REFUNDED);
    events.record(EventKind.REFUNDED, order.id(), null, actor, amount + " paid back", how);
  }

  /**
   * What a channel says that it paid back: the refunds that we asked for, as far as its sum goes,
   * and what it paid back by itself. Never more than came in.
   *
   * @param inAll what it has paid back in all; null: it says only whether that is all or a part
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void told(OrderHead order, PaymentState payment, @Nullable Money inAll, String channel) {
    if (payment != PaymentState.REFUNDED && payment != PaymentState.PART_REFUNDED) {
      return;
    }
    if (payment == PaymentState.PART_REFUNDED && inAll == null) {
      events.record(
          EventKind.NOTE,
          order.id(),
          channel,
          "The channel has paid a part back, and does not say how much");
      return;
    }
    long said = inAll == null ? captured(order) : inAll.minor();
    for (RefundCard asked : store.ofOrder(order.id())) {
      if (asked.state() == State.ASKED && store.settled(order.id()) + asked.amount() <= said) {
        settle(asked.id(), channel, "the channel says so");
      }
    }
    long more = said - store.settled(order.id());
    if (more > 0) {
      keepOthers(order, Money.of(more, order.currency()), channel);
    }
  }

  /** What a channel paid back without having been asked. */
  private void keepOthers(OrderHead order, Money amount, String channel) {
    Basis basis = basis(order.id());
    Refund refund = Refund.byOthers(basis.bought(), amount);
    if (refund.total().minor() == 0) {
      return;
    }
    List<RefundCard> before = store.ofOrder(order.id());
    long id =
        keep(
            basis,
            before.size() + 1,
            store.onlyOneOwed(order.id()),
            refund,
            "paid back by the channel by itself",
            channel);
    settle(id, channel, "the channel says so");
  }

  private long captured(OrderHead order) {
    return basis(order.id()).bought().tenders().stream().mapToLong(t -> t.captured().minor()).sum();
  }

  /**
   * What has come in stays what it was when an order is about to be changed, whatever it costs
   * then. Channels that name tenders say it themselves.
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void keepCaptured(OrderHead order) {
    if (isCaptured(order, false)) {
      store.setCaptured(order.id(), captured(order));
    }
  }

  /** A changed order that its channel calls paid is paid whole, though it may cost more now. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void raiseCaptured(OrderHead order, PaymentState says) {
    Bought bought = basis(order.id()).bought();
    Money sum =
        bought.lines().stream().map(Bought.Line::paid).reduce(bought.shipping(), Money::plus);
    long owed = store.terms(order.id()).owed(sum).minor();
    if (says == PaymentState.PAID && isCaptured(order, false) && owed > captured(order)) {
      store.setCaptured(order.id(), owed);
    }
  }

  /** A refund that nobody was told of is no longer wanted. */
  @Transactional
  public void withdraw(long id, String actor) {
    RefundCard refund = card(id);
    OrderHead order = orders.lock(refund.orderId());
    if (!outbox.takeBack(Outbox.Kind.REFUND + ":" + order.number() + ":" + refund.no())
        || !move(id, State.WITHDRAWN)) {
      throw Problem.conflict("it was told already, and can’t be taken back");
    }
    publisher.publishEvent(new Changed(order.id()));
    events.record(
        EventKind.NOTE,
        order.id(),
        actor,
        "Refund of " + Money.of(refund.amount(), order.currency()) + " withdrawn");
  }

  /**
   * @throws Problem if the order has no such refund
   */
  RefundCard of(long orderId, long id) {
    RefundCard refund = card(id);
    if (refund.orderId() != orderId) {
      throw Problem.notFound("refund " + id);
    }
    return refund;
  }

  RefundCard card(long id) {
    return store.byId(id).stream().findFirst().orElseThrow(() -> Problem.notFound("refund " + id));
  }

  private boolean move(long id, State to) {
    Instant now = clock.instant();
    return db.update(REFUND)
            .set(REFUND.STATE, to.name())
            .set(REFUND.SETTLED_AT, to == State.SETTLED ? now : null)
            .where(REFUND.ID.eq(id))
            .and(REFUND.STATE.eq(State.ASKED.name()))
            .execute()
        == 1;
  }

  private static Money goods(List<Line> lines, String currency) {
    return lines.stream()
        .map(l -> l.ordered().unitPrice().times(l.units()).minus(l.ordered().discount()))
        .reduce(Money.of(0, currency), Money::plus);
  }

  private static Money least(Money one, Money other) {
    return one.minor() <= other.minor() ? one : other;
  }
}
