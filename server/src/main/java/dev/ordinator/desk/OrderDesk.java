package dev.ordinator.desk;

import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Channels;
import dev.ordinator.channels.ServiceWordings;
import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.core.orders.Address;
import dev.ordinator.core.orders.ApprovalPolicy;
import dev.ordinator.core.orders.PaymentState;
import dev.ordinator.core.rules.RuleEvent;
import dev.ordinator.dispatch.Consignments;
import dev.ordinator.dispatch.DepotConsignments;
import dev.ordinator.kits.OrderKits;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.OrderLine;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.Orders.Claim;
import dev.ordinator.orders.Pricing;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.orders.Step;
import dev.ordinator.platform.DatabaseTrouble;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events.Fact;
import dev.ordinator.platform.Texts;
import dev.ordinator.platform.Transactions;
import dev.ordinator.platform.WorkLoops;
import dev.ordinator.routing.Routing;
import dev.ordinator.stock.StockLedger;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.atomic.AtomicReference;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.PessimisticLockingFailureException;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * Takes orders from step to step, one step a transaction, so that a crash loses at most the step in
 * hand and none is done twice. Where an order can't go on, the reason is left as a snag, a hold or
 * a payment awaited, and whatever removes the reason wakes the order.
 */
@Service
public class OrderDesk {
  static final String DESK = "desk";
  private static final int ROUTING_TRIES = 20;
  private static final Duration SECOND_LOOK = Duration.ofSeconds(2);

  /** A step that failed so often waits for a person. */
  private static final int STEP_TRIES = 3;

  private static final Duration FAILED_PAUSE = Duration.ofSeconds(2);
  private static final Logger LOG = LoggerFactory.getLogger(OrderDesk.class);
  private static final List<SnagCause> CHECKED =
      List.of(
          SnagCause.UNMATCHED_LISTING,
          SnagCause.UNKNOWN_SERVICE,
          SnagCause.BAD_ADDRESS,
          SnagCause.CHOICE_OPEN,
          SnagCause.NO_RATE,
          SnagCause.TOTAL_DIFFERS);

  private final Transactions transactions;
  private final Orders orders;
  private final Snags snags;
  private final ServiceWordings wordings;
  private final Channels channels;
  private final Pricing pricing;
  private final DepotConsignments depots;
  private final OrderKits kits;
  private final OrderedTwice twice;
  private final RuleDesk rules;
  private final RouteStep routing;
  private final Consignments consignments;
  private final Clock clock;

  OrderDesk(
      Transactions transactions,
      Orders orders,
      Snags snags,
      ServiceWordings wordings,
      Channels channels,
      Pricing pricing,
      DepotConsignments depots,
      OrderKits kits,
      OrderedTwice twice,
      RuleDesk rules,
      RouteStep routing,
      Consignments consignments,
      Clock clock,
      WorkLoops loops) {
    this.transactions = transactions;
    this.orders = orders;
    this.snags = snags;
    this.wordings = wordings;
    this.channels = channels;
    this.pricing = pricing;
    this.depots = depots;
    this.kits = kits;
    this.twice = twice;
    this.rules = rules;
    this.routing = routing;
    this.consignments = consignments;
    this.clock = clock;
    loops.add("order-desk", this::workOnOne, orders::oldestDue);
  }

  /**
   * Takes one order one step further; false if no order has a step to take. An order on which a
   * step fails unexpectedly is put aside for a while, so that it keeps no other waiting; when it
   * fails again and again, it waits for a person.
   */
  public boolean workOnOne() {
    AtomicReference<@Nullable Claim> claimed = new AtomicReference<>();
    for (int attempt = 1; ; attempt++) {
      try {
        return transactions.get(() -> stepOfOne(claimed));
      } catch (StockLedger.TakenMeanwhile | Routing.FullMeanwhile lostRace) {
        // rolled back whole: look again at what there is now
        if (attempt == ROUTING_TRIES) {
          throw lostRace;
        }
      } catch (Throwable e) { // an Error, too, is of this order
        Claim claim = claimed.get();
        if (claim == null || DatabaseTrouble.isAway(e)) {
          throw e;
        }
        LOG.error("{} of order {} failed", claim.step(), claim.orderId(), e);
        transactions.run(() -> putAside(claim, e));
        return true;
      }
    }
  }

  private void putAside(Claim claim, Throwable why) {
    OrderHead order = orders.lock(claim.orderId());
    // a deadlock that was lost again and again is no fault of the order's
    boolean isOfTheOrder = !(why instanceof PessimisticLockingFailureException);
    int failures = claim.failures() + (isOfTheOrder ? 1 : 0);
    if (failures < STEP_TRIES) {
      Instant again = clock.instant().plus(FAILED_PAUSE.multipliedBy(Math.max(1, failures)));
      orders.setAgainAt(order.id(), claim.step(), again, failures);
      return;
    }
    orders.setNext(order.id(), null);
    snag(
        Snags.About.of(
                SnagCause.STEP_FAILED,
                order.id(),
                order.number() + ", " + order.buyerName(),
                "%s failed %d times: %s".formatted(words(claim.step()), failures, Texts.of(why)))
            .order(order.id()),
        order);
  }

  private static String words(Step step) {
    return switch (step) {
      case CHECK -> "checking";
      case APPROVE -> "approving";
      case ROUTE, BATCH -> "routing";
      case RELEASE -> "releasing";
    };
  }

  /** A person has a step tried again that failed for good. */
  public void tryAgain(long orderId, String actor) {
    snags.close(SnagCause.STEP_FAILED, orderId, actor);
  }

  /** The channel's total stands though its parts add up to something else; the order goes on. */
  @Transactional
  public void letTotalStand(long orderId, String actor) {
    orders.lock(orderId);
    pricing.letTotalStand(orderId);
    snags.close(SnagCause.TOTAL_DIFFERS, orderId, actor);
  }

  private boolean stepOfOne(AtomicReference<@Nullable Claim> claimed) {
    Optional<Claim> claim = orders.claimNext();
    claimed.set(claim.orElse(null));
    claim.ifPresent(c -> {
      OrderHead order = orders.lock(c.orderId());
      switch (c.step()) {
        case CHECK -> check(order);
        case APPROVE -> approve(order);
        case ROUTE -> routing.step(order);
        case BATCH -> throw new AssertionError("has no time at which it is due");
        case RELEASE -> release(order);
      }
    });
    return claim.isPresent();
  }

  private void check(OrderHead order) {
    Set<SnagCause> found = EnumSet.noneOf(SnagCause.class);
    orders.takeMatches(order.id());
    for (OrderLine line : orders.lines(order.id())) {
      if (line.itemId() == null && line.isOpen()) {
        found.add(SnagCause.UNMATCHED_LISTING);
        snag(
            Snags.About.of(
                    SnagCause.UNMATCHED_LISTING,
                    line.listingId(),
                    line.title(),
                    "which of our items is it?")
                .listing(order.channelId(), line.listingId()),
            order);
      }
    }
    Pricing.Settled settled = pricing.settle(order.id());
    settled
        .contradiction()
        .ifPresent(words -> {
          found.add(SnagCause.TOTAL_DIFFERS);
          snag(
              Snags.About.of(
                      SnagCause.TOTAL_DIFFERS,
                      order.id(),
                      order.number() + ", " + order.buyerName(),
                      words)
                  .order(order.id()),
              order);
        });
    if (!settled.rateIsKnown()) {
      found.add(SnagCause.NO_RATE);
      snag(
          Snags.About.of(
              SnagCause.NO_RATE,
              order.currency(),
              order.currency() + " has no exchange rate",
              "what these orders are worth can’t be said until the rate of their day is known"),
          order);
    }
    if (order.fulfilledByChannel()) {
      checked(order, found);
      if (found.isEmpty()) {
        Channel channel = channels.byId(order.channelId());
        depots.recordNoted(order, channel.terms().depot(), channel.name());
        orders.setNext(order.id(), null);
      } else {
        rest(order);
      }
      return;
    }
    for (OrderKits.Open open : kits.settle(order.id())) {
      found.add(SnagCause.CHOICE_OPEN);
      snag(
          Snags.About.of(
                  SnagCause.CHOICE_OPEN,
                  order.id(),
                  order.number() + ", " + open.title(),
                  "the order does not say which: " + open.choice().name())
              .order(order.id()),
          order);
    }
    Optional<ServiceLevel> level = wordings.of(order.channelId()).level(order.serviceWording());
    if (level.isEmpty()) {
      found.add(SnagCause.UNKNOWN_SERVICE);
      snag(
          Snags.About.of(
                  SnagCause.UNKNOWN_SERVICE,
                  ServiceWordings.subject(order.channelId(), order.serviceWording()),
                  order.serviceWording(),
                  "which level of service does that mean?")
              .channel(order.channelId()),
          order);
    }
    List<Address.Problem> problems = order.shipTo().problems();
    if (!problems.isEmpty()) {
      found.add(SnagCause.BAD_ADDRESS);
      snag(
          Snags.About.of(
                  SnagCause.BAD_ADDRESS,
                  order.id(),
                  order.number() + ", " + order.buyerName(),
                  problems.stream().map(Address.Problem::message).collect(Collectors.joining("; ")))
              .order(order.id()),
          order);
    }
    checked(order, found);
    if (!found.isEmpty()) {
      rest(order);
      return;
    }
    orders.setLevel(order.id(), level.orElseThrow());
    twice.markIfTwice(order);
    // the rules look at it as it was settled just now
    rules.apply(order.id(), RuleEvent.RECEIVED);
    if (order.payment().hasBeenPaid()) {
      rules.apply(order.id(), RuleEvent.PAID);
    }
    orders.setNext(order.id(), order.approvedAt() == null ? Step.APPROVE : Step.ROUTE);
  }

  /**
   * An order waits for what its check found missing. That may have come between the look and the
   * snag, and then nobody would wake it: it is looked at once more.
   */
  private void rest(OrderHead order) {
    if (order.snagged()) {
      orders.setNext(order.id(), null);
    } else {
      orders.setNextAt(order.id(), Step.CHECK, clock.instant().plus(SECOND_LOOK));
    }
  }

  /** An order leaves the snags that its check did not find again. */
  private void checked(OrderHead order, Set<SnagCause> found) {
    List<SnagCause> cleared = new ArrayList<>(CHECKED);
    cleared.removeAll(found);
    snags.leave(order.id(), cleared);
  }

  private void approve(OrderHead order) {
    ApprovalPolicy policy = wordings.approval(order.channelId());
    if (order.held() || !policy.approves(order.payment())) {
      orders.setNext(order.id(), null);
      return;
    }
    Fact approved = approved(order.payment());
    orders.markApproved(order, approved.actor(), approved.why());
    orders.setNext(order.id(), Step.ROUTE);
  }

  static Fact approved(PaymentState payment) {
    return new Fact(
        EventKind.APPROVED,
        DESK,
        "Approved",
        "payment is " + payment.name().toLowerCase(Locale.ROOT).replace('_', ' '));
  }

  private void release(OrderHead order) {
    orders.setNext(order.id(), null);
    if (!order.held()) {
      consignments.releasePlanned(order.id(), DESK);
      rules.apply(order.id(), RuleEvent.RELEASED);
    }
  }

  private void snag(Snags.About about, OrderHead order) {
    snags.open(about, order.id(), DESK);
  }
}
