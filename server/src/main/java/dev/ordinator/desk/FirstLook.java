package dev.ordinator.desk;

import dev.ordinator.channels.Channel;
import dev.ordinator.channels.ServiceWordings;
import dev.ordinator.core.money.ExchangeRate;
import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.core.orders.PaymentState;
import dev.ordinator.core.orders.ServiceWords;
import dev.ordinator.core.rules.DeskRules;
import dev.ordinator.core.rules.OrderFacts;
import dev.ordinator.core.rules.RuleEvent;
import dev.ordinator.core.rules.RuleOutcome;
import dev.ordinator.customers.Customers;
import dev.ordinator.desk.ItemMarks.Marks;
import dev.ordinator.desk.OrderFactsReader.Units;
import dev.ordinator.desk.RuleTraces.Look;
import dev.ordinator.listings.Listings;
import dev.ordinator.orders.NewOrder;
import dev.ordinator.orders.NewOrder.Header;
import dev.ordinator.orders.Pricing;
import dev.ordinator.orders.Pricing.Priced;
import dev.ordinator.orders.Pricing.TaxTable;
import dev.ordinator.orders.ReadyOrder;
import dev.ordinator.orders.ReadyOrder.Figures;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events.Fact;
import dev.ordinator.rates.ExchangeRates;
import dev.ordinator.rulebook.Editions;
import dev.ordinator.rulebook.Editions.Edition;
import dev.ordinator.stock.Items;
import dev.ordinator.stock.Items.Goods;
import java.time.Clock;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/**
 * Looks at many new orders at once, before they are written down. An order with which nothing is
 * wrong comes out as the desk's own steps would leave it; anything else is left to them.
 */
@Component
public class FirstLook {
  private final Listings listings;
  private final ServiceWordings wordings;
  private final Pricing pricing;
  private final ExchangeRates rates;
  private final Editions editions;
  private final Items items;
  private final OrderFactsReader facts;
  private final ItemMarks marks;
  private final Customers customers;
  private final RuleTraces traces;
  private final OrderedTwice twice;
  private final Clock clock;

  FirstLook(
      Listings listings,
      ServiceWordings wordings,
      Pricing pricing,
      ExchangeRates rates,
      Editions editions,
      Items items,
      OrderFactsReader facts,
      ItemMarks marks,
      Customers customers,
      RuleTraces traces,
      OrderedTwice twice,
      Clock clock) {
    this.listings = listings;
    this.wordings = wordings;
    this.pricing = pricing;
    this.rates = rates;
    this.editions = editions;
    this.items = items;
    this.facts = facts;
    this.marks = marks;
    this.customers = customers;
    this.traces = traces;
    this.twice = twice;
    this.clock = clock;
  }

  /** What all of a batch is seen by, read once. */
  private record Sight(
      Channel channel,
      Map<Long, Priced> matches,
      Goods goods,
      Marks marks,
      Map<String, String> groups,
      TaxTable taxes,
      ServiceWords words,
      Edition edition,
      Map<String, Optional<ExchangeRate>> rates,
      Set<String> buyers,
      Set<String> recent,
      ZonedDateTime now) {}

  /**
   * @param how how they came, one for each
   * @return one for each, in their order; empty if the desk has to take it from step to step
   */
  public List<Optional<ReadyOrder>> at(Channel channel, List<NewOrder> orders, List<String> how) {
    Map<Long, Priced> matches =
        listings.matched(
            orders.stream()
                .flatMap(o -> o.lines().stream())
                .map(NewOrder.Line::listingId)
                .collect(Collectors.toSet()));
    List<Long> itemIds = matches.values().stream().map(Priced::itemId).distinct().toList();
    Sight sight =
        new Sight(
            channel,
            matches,
            items.byId(itemIds),
            marks.of(itemIds),
            customers.groupsOf(orders.stream().map(FirstLook::buyer).toList()),
            pricing.taxTable(),
            wordings.of(channel.id()),
            editions.live(),
            new HashMap<>(),
            buyersBefore(orders),
            twice.recentBuyers(orders.stream().map(FirstLook::buyer).toList()),
            facts.moment(clock.instant()));
    List<Optional<ReadyOrder>> seen = new ArrayList<>();
    for (int i = 0; i < orders.size(); i++) {
      seen.add(look(sight, orders.get(i), how.get(i)));
      String buyer = buyer(orders.get(i));
      if (!buyer.isBlank()) {
        sight.buyers().add(buyer);
        sight.recent().add(buyer);
      }
    }
    return seen;
  }

  private Set<String> buyersBefore(List<NewOrder> orders) {
    return new HashSet<>(
        facts.firstOrders(orders.stream().map(FirstLook::buyer).toList()).keySet());
  }

  private static String buyer(NewOrder order) {
    return order.header().buyer().email().toLowerCase(Locale.ROOT);
  }

  private Optional<ReadyOrder> look(Sight sight, NewOrder order, String how) {
    Header header = order.header();
    Optional<ServiceLevel> level = sight.words().level(header.service());
    Optional<ExchangeRate> rate =
        sight
            .rates()
            .computeIfAbsent(
                header.discount().currency().getCurrencyCode() + header.placedAt(),
                k -> rates.at(header.discount().currency().getCurrencyCode(), header.placedAt()));
    boolean plain =
        !sight.edition().body().looksAtStock()
            // it may be the same again, which the desk finds out
            && !sight.recent().contains(buyer(order))
            && !header.fulfilledByChannel()
            && level.isPresent()
            && rate.isPresent()
            && header.shipTo().problems().isEmpty()
            && order.lines().stream().allMatch(l -> isPlain(sight, l));
    return plain
        ? decide(sight, order, level.orElseThrow(), rate.orElseThrow(), how)
        : Optional.empty();
  }

  /** Matched, and no kit, which the desk takes apart. */
  private static boolean isPlain(Sight sight, NewOrder.Line line) {
    Priced match = sight.matches().get(line.listingId());
    return match != null && !sight.goods().of(match.itemId()).isKit();
  }

  private Optional<ReadyOrder> decide(
      Sight sight, NewOrder order, ServiceLevel asked, ExchangeRate rate, String how) {
    List<Priced> its =
        order.lines().stream()
            .map(l -> Objects.requireNonNull(sight.matches().get(l.listingId())))
            .toList();
    Figures figures = pricing.figures(order, its, sight.taxes(), rate);
    if (pricing.contradicts(order, figures)) {
      return Optional.empty();
    }
    PaymentState payment = order.header().payment().state();
    Rules rules = new Rules(sight, facts(sight, order, its, figures));
    rules.lookAt(RuleEvent.RECEIVED);
    if (payment.hasBeenPaid()) {
      rules.lookAt(RuleEvent.PAID);
    }
    boolean approves = sight.channel().approval().approves(payment);
    if (approves) {
      rules.lookAt(RuleEvent.APPROVED);
    }
    if (rules.haveMoreToSay()) {
      return Optional.empty();
    }
    List<Fact> told = new ArrayList<>();
    told.add(new Fact(EventKind.RECEIVED, sight.channel().name(), "Order received", how));
    told.addAll(figures.notes());
    for (Look look : rules.looks) {
      if (look.event() == RuleEvent.APPROVED) {
        told.add(OrderDesk.approved(payment));
      }
      told.addAll(RuleDesk.told(sight.edition(), look.outcome()));
    }
    return Optional.of(
        new ReadyOrder(
            order,
            approves,
            figures,
            rules.level.orElse(asked),
            rules.priority,
            rules.facts.tags(),
            rules.excluded,
            rules.looks.stream()
                .filter(look -> !look.outcome().trace().isEmpty())
                .map(look -> traces.trace(sight.edition(), look))
                .toList(),
            told));
  }

  /** What rules say of an order, event by event. */
  private static final class Rules {
    private final Sight sight;
    private final List<Look> looks = new ArrayList<>();
    private final Set<String> excluded = new HashSet<>();
    private OrderFacts facts;
    private Optional<ServiceLevel> level = Optional.empty();
    private Optional<Integer> priority = Optional.empty();

    Rules(Sight sight, OrderFacts facts) {
      this.sight = sight;
      this.facts = facts;
    }

    void lookAt(RuleEvent event) {
      RuleOutcome outcome = DeskRules.evaluate(sight.edition().body().groups(), event, facts);
      looks.add(new Look(event, outcome));
      excluded.addAll(outcome.excludedNodes());
      level = outcome.level().or(() -> level);
      priority = outcome.priority().or(() -> priority);
      facts = facts.withTags(outcome.tags());
    }

    /** What is more than a mark on the order is the desk's to do. */
    boolean haveMoreToSay() {
      return looks.stream()
          .map(Look::outcome)
          .anyMatch(o ->
              !o.holds().isEmpty()
                  || !o.notes().isEmpty()
                  || !o.notices().isEmpty()
                  || !o.preferredNodes().isEmpty()
                  || o.ladder().isPresent()
                  || o.maySplit().isPresent()
                  || o.mayWait().isPresent()
                  || o.inPart().isPresent()
                  || o.mayReplace().isPresent()
                  || o.assignee().isPresent()
                  || o.list().isPresent());
    }
  }

  private static OrderFacts facts(Sight sight, NewOrder order, List<Priced> its, Figures figures) {
    List<Units> units = new ArrayList<>();
    for (int i = 0; i < its.size(); i++) {
      NewOrder.Line line = order.lines().get(i);
      long open = (line.quantity() - line.cancelled()) * its.get(i).unitsEach();
      if (open > 0) {
        units.add(new Units(its.get(i).itemId(), open));
      }
    }
    Header header = order.header();
    return new OrderFacts(
        sight.channel().code(),
        header.site(),
        header.payment().state(),
        header.payment().method(),
        header.service(),
        header.shipTo().country(),
        header.shipTo().city(),
        header.shipTo().postcode(),
        header.buyer().email(),
        sight.groups().getOrDefault(buyer(order), ""),
        !sight.buyers().contains(buyer(order)),
        false,
        sight.now().getDayOfWeek(),
        sight.now().getHour(),
        OrderFactsReader.days(sight.now().toLocalDate(), header.arriveBy()),
        figures.baseTotal(),
        OrderFactsReader.goods(units, units.size(), sight.goods(), sight.marks()),
        Set.of());
  }
}
