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
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
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

  FirstLook(
      Listings listings,
      ServiceWordings wordings,
      Pricing pricing,
      ExchangeRates rates,
      Editions editions,
      Items items) {
    this.listings = listings;
    this.wordings = wordings;
    this.pricing = pricing;
    this.rates = rates;
    this.editions = editions;
    this.items = items;
  }

  /** What all of a batch is seen by, read once. */
  private record Sight(
      Channel channel,
      Map<Long, Priced> matches,
      Goods goods,
      TaxTable taxes,
      ServiceWords words,
      Edition edition,
      Map<String, Optional<ExchangeRate>> rates) {}

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
    Sight sight =
        new Sight(
            channel,
            matches,
            items.byId(matches.values().stream().map(Priced::itemId).distinct().toList()),
            pricing.taxTable(),
            wordings.of(channel.id()),
            editions.live(),
            new HashMap<>());
    List<Optional<ReadyOrder>> seen = new ArrayList<>();
    for (int i = 0; i < orders.size(); i++) {
      seen.add(look(sight, orders.get(i), how.get(i)));
    }
    return seen;
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
        !header.fulfilledByChannel()
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
    RuleOutcome received =
        rules(sight, RuleEvent.RECEIVED, facts(sight, order, its, figures, Set.of()));
    if (hasMoreToSay(received)) {
      return Optional.empty();
    }
    List<Fact> facts = new ArrayList<>();
    facts.add(new Fact(EventKind.RECEIVED, sight.channel().name(), "Order received", how));
    facts.addAll(figures.notes());
    facts.addAll(RuleDesk.told(sight.edition(), received));
    PaymentState payment = order.header().payment().state();
    if (!sight.channel().approval().approves(payment)) {
      return Optional.of(
          new ReadyOrder(
              order,
              false,
              figures,
              received.level().orElse(asked),
              received.priority(),
              received.tags(),
              received.excludedNodes(),
              facts));
    }
    RuleOutcome approved =
        rules(sight, RuleEvent.APPROVED, facts(sight, order, its, figures, received.tags()));
    if (hasMoreToSay(approved)) {
      return Optional.empty();
    }
    facts.add(OrderDesk.approved(payment));
    facts.addAll(RuleDesk.told(sight.edition(), approved));
    Set<String> excluded = new HashSet<>(received.excludedNodes());
    excluded.addAll(approved.excludedNodes());
    return Optional.of(
        new ReadyOrder(
            order,
            true,
            figures,
            approved.level().or(received::level).orElse(asked),
            approved.priority().or(received::priority),
            approved.tags(),
            excluded,
            facts));
  }

  private static RuleOutcome rules(Sight sight, RuleEvent event, OrderFacts facts) {
    return DeskRules.evaluate(sight.edition().body().groups(), event, facts);
  }

  /** Holds and notes are the desk's to place. */
  private static boolean hasMoreToSay(RuleOutcome outcome) {
    return !outcome.holds().isEmpty() || !outcome.notes().isEmpty();
  }

  private static OrderFacts facts(
      Sight sight, NewOrder order, List<Priced> its, Figures figures, Set<String> tags) {
    List<RuleDesk.Units> units = new ArrayList<>();
    for (int i = 0; i < its.size(); i++) {
      NewOrder.Line line = order.lines().get(i);
      long open = (line.quantity() - line.cancelled()) * its.get(i).unitsEach();
      if (open > 0) {
        units.add(new RuleDesk.Units(its.get(i).itemId(), open));
      }
    }
    return RuleDesk.facts(
        sight.channel().code(),
        order.header().payment().state(),
        order.header().service(),
        order.header().shipTo(),
        figures.baseTotal(),
        figures.units(),
        units,
        sight.goods(),
        tags);
  }
}
