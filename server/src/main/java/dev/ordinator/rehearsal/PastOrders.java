package dev.ordinator.rehearsal;

import static dev.ordinator.schema.Tables.DECISION;
import static org.jooq.impl.DSL.selectOne;

import dev.ordinator.channels.Channels;
import dev.ordinator.channels.ServiceWordings;
import dev.ordinator.channels.Terms;
import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.core.orders.ServiceWords;
import dev.ordinator.core.rules.OrderFacts;
import dev.ordinator.desk.OrderFactsReader;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.OrderLine;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.routing.GroundsJson;
import dev.ordinator.routing.Wanted;
import dev.ordinator.routing.WantedReader;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.LongFunction;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** Reads orders as they were when they were first routed, many at once. */
@Component
class PastOrders {
  private final DSLContext db;
  private final Orders orders;
  private final OrderFactsReader facts;
  private final Channels channels;
  private final ServiceWordings wordings;
  private final WantedReader wanted;
  private final GroundsJson grounds;
  private final WorthOfOrders worths;
  private final OrdinatorSettings settings;

  PastOrders(
      DSLContext db,
      Orders orders,
      OrderFactsReader facts,
      Channels channels,
      ServiceWordings wordings,
      WantedReader wanted,
      GroundsJson grounds,
      WorthOfOrders worths,
      OrdinatorSettings settings) {
    this.db = db;
    this.orders = orders;
    this.facts = facts;
    this.channels = channels;
    this.wordings = wordings;
    this.wanted = wanted;
    this.grounds = grounds;
    this.worths = worths;
    this.settings = settings;
  }

  /** The first decision on an order. */
  private record First(long orderId, Instant at, long cost, GroundsJson.Stored grounds) {}

  /** What is the same for all orders of a channel. */
  private record Of(Terms terms, ServiceWords words) {}

  /**
   * The first decisions on orders, by their moments.
   *
   * @param from the earliest of them
   * @param most how many at most, the latest of them
   */
  List<Long> firstDecisions(Instant from, int most) {
    var earlier = DECISION.as("earlier");
    return db.select(DECISION.ID)
        .from(DECISION)
        .where(DECISION.AT.ge(from))
        .andNotExists(
            selectOne()
                .from(earlier)
                .where(earlier.ORDER_ID.eq(DECISION.ORDER_ID))
                .and(earlier.ID.lt(DECISION.ID)))
        .orderBy(DECISION.AT.desc(), DECISION.ID.desc())
        .limit(most)
        .fetch(DECISION.ID)
        .reversed();
  }

  /** The orders of those decisions in their order, as they stood then. */
  List<PastOrder> read(List<Long> decisionIds) {
    Map<Long, First> decisions = new LinkedHashMap<>();
    db.select(DECISION.ID, DECISION.ORDER_ID, DECISION.AT, DECISION.COST, DECISION.GROUNDS)
        .from(DECISION)
        .where(DECISION.ID.in(decisionIds))
        .orderBy(DECISION.AT, DECISION.ID)
        .forEach(r ->
            decisions.put(
                r.value1(),
                new First(r.value2(), r.value3(), r.value4(), grounds.read(r.value5()))));
    List<Long> ids = decisions.values().stream().map(First::orderId).toList();
    Map<Long, OrderHead> heads = orders.heads(ids);
    Map<Long, OrderFacts> seen = facts.asReceived(ids);
    Map<Long, Wanted> wishes = wanted.of(linesThen(decisions.values()));
    Map<Long, Of> ofChannels = new HashMap<>();
    LongFunction<Of> ofChannel = id -> ofChannels.computeIfAbsent(id, this::ofChannel);
    Map<Long, Long> worth = worths.of(wishes, channel -> ofChannel.apply(channel).terms());
    List<PastOrder> past = new ArrayList<>();
    decisions.forEach((decision, first) -> {
      long id = first.orderId();
      Wanted its = wishes.get(id);
      if (its != null) {
        OrderHead head = Objects.requireNonNull(heads.get(id));
        Of channel = ofChannel.apply(head.channelId());
        past.add(
            new PastOrder(
                head,
                decision,
                first.at(),
                LocalDate.ofInstant(first.at(), settings.timeZone()),
                new Outcome(first.grounds().chosen(), first.cost()),
                Objects.requireNonNull(seen.get(id)),
                level(head, channel.words()),
                channel.terms().nodes(),
                its,
                worth.getOrDefault(id, 0L)));
      }
    });
    return past;
  }

  private Of ofChannel(long channelId) {
    return new Of(channels.byId(channelId).terms(), wordings.of(channelId));
  }

  /** What its wording means today; if it means nothing any more, what it did. */
  private static ServiceLevel level(OrderHead head, ServiceWords words) {
    return words
        .level(head.serviceWording())
        .orElseGet(() -> Objects.requireNonNullElse(head.level(), ServiceLevel.STANDARD));
  }

  /**
   * Orders' lines with what was routed of them, whatever was cancelled or changed since; of
   * decisions that don't say it, what is still wanted.
   */
  private Map<Long, List<OrderLine>> linesThen(Collection<First> decisions) {
    Map<Long, List<OrderLine>> then = new LinkedHashMap<>();
    Map<Long, List<OrderLine>> now = orders.lines(decisions.stream().map(First::orderId).toList());
    for (First first : decisions) {
      Map<Long, Long> units = first.grounds().wanted();
      List<OrderLine> its =
          now.getOrDefault(first.orderId(), List.of()).stream()
              .map(l -> units == null ? l : l.less(l.quantity() - units.getOrDefault(l.id(), 0L)))
              .filter(l -> l.isOpen() && l.itemId() != null)
              .toList();
      if (!its.isEmpty()) {
        then.put(first.orderId(), its);
      }
    }
    return then;
  }
}
