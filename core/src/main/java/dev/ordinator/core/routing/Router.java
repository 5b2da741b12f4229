package dev.ordinator.core.routing;

import dev.ordinator.core.network.Node;
import dev.ordinator.core.routing.EveryPlan.Allowed;
import dev.ordinator.core.routing.Grounds.Candidate;
import dev.ordinator.core.routing.Ladder.Cover;
import dev.ordinator.core.routing.Ladder.Late;
import dev.ordinator.core.routing.Ladder.NodeFilter;
import dev.ordinator.core.routing.Ladder.Rung;
import dev.ordinator.core.routing.PlanSearch.Priced;
import dev.ordinator.core.routing.RoutingDecision.Choice;
import dev.ordinator.core.routing.Trips.Trip;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * Chooses nodes, services and dates for one order: the first rung of the ladder that can fill what
 * it demands wins, with its cheapest plan, which is exactly the cheapest. Ties go to fewer
 * consignments, then to the earlier arrival, then to the nodes listed first. The same input always
 * gives the same answer. Where rules prefer nodes, each rung is tried with those alone first.
 *
 * <p>An order whose search would take too many steps is given the best plan found in them, which
 * then is not proven.
 */
public final class Router {
  /** Some hundredths of a second's work. */
  private static final long STEPS = 100_000;

  /** An order that can be divided in up to so many ways is small. */
  private static final long FEW = 50_000;

  /** What a unit costs that nobody has: more than any plan. */
  private static final long NOWHERE = Long.MAX_VALUE >> 24;

  private final OrderDemand order;
  private final Policy policy;
  private final Situation situation;
  private final Basket basket;
  private final Map<String, List<Trip>> trips;
  private final Map<Terms, Known> known = new HashMap<>();

  /** What of a rung decides who may send something, and by which lanes. */
  private record Terms(NodeFilter nodes, Late late) {}

  /**
   * Who may send something on a rung.
   *
   * @param whole no plan that sends all of it costs less
   * @param any no plan that sends any of it costs less, with the penalties for the rest
   */
  private record Known(List<Source> sources, long whole, long any) {
    long floor(Cover cover) {
      return cover == Cover.WHOLE ? whole : any;
    }

    int nodes(int item) {
      int having = 0;
      for (Source source : sources) {
        having += source.most(item) > 0 ? 1 : 0;
      }
      return having;
    }
  }

  /** What is allowed on rungs that differ only in consignments and cover. */
  private record Group(Known known, List<Allowed> allowed) {
    Fill fill() {
      for (Allowed some : allowed) {
        if (!some.whole()) {
          return Fill.ANY;
        }
      }
      return Fill.WHOLE;
    }
  }

  Router(OrderDemand order, Policy policy, Situation situation) {
    this.order = order;
    this.policy = policy;
    this.situation = situation;
    this.basket = new Basket(order.lines(), policy);
    this.trips = situation.trips(order);
  }

  public static RoutingDecision route(
      OrderDemand order, Ladder ladder, Policy policy, Situation situation) {
    return new Router(order, policy, situation).firstOf(ladder.rungs());
  }

  /**
   * The same; but where every node that could is full on its day, what leaves on their next days is
   * looked at too.
   *
   * @param places asked only then
   */
  public static RoutingDecision route(
      OrderDemand order,
      Ladder ladder,
      Policy policy,
      Situation situation,
      Supplier<PlacesLeft> places) {
    RoutingDecision decision = route(order, ladder, policy, situation);
    if (!decision.full()) {
      return decision;
    }
    RoutingDecision later = route(order, ladder, policy, situation.afterFullDays(places.get()));
    return later.choice().isPresent() ? later : decision;
  }

  /** The same order, elsewhere or later. */
  Router on(Situation other) {
    return new Router(order, policy, other);
  }

  private RoutingDecision firstOf(List<Rung> rungs) {
    List<Candidate> considered = new ArrayList<>();
    boolean full = false;
    for (int r = 0; r < rungs.size(); r++) {
      Rung rung = rungs.get(r);
      Fill fill = rung.cover() == Cover.WHOLE ? Fill.WHOLE : Fill.MOST;
      NodeOffers offers = offers(rung);
      for (Node node : situation.network().nodes()) {
        considered.add(new Candidate(r, node.code(), offers.alone(node)));
      }
      Effort effort = new Effort(STEPS);
      List<Source> sources = offers.sources(true);
      List<Priced> plans = preferred(rung, sources, 2, effort);
      if (plans.isEmpty()) {
        plans = search(rung, fill, sources, Long.MAX_VALUE, 2, effort);
      }
      if (!plans.isEmpty()) {
        return new RoutingDecision(
            Optional.of(new Choice(r, plans.getFirst().plan(), !effort.gaveUp())),
            false,
            new Grounds(considered, plans.stream().skip(1).map(Priced::plan).findFirst()));
      }
      full = full || couldWithPlace(rung, fill, offers, sources.size());
    }
    return new RoutingDecision(Optional.empty(), full, new Grounds(considered, Optional.empty()));
  }

  /**
   * What is best for all, whatever the rung.
   *
   * @param charged plan cost, rung step × rung, and what all it takes is worth to others
   */
  record Offered(Choice choice, long charged) {}

  /**
   * The cheapest over all rungs, each rung counted as dearer by the rung step than the one before,
   * with what it takes from others; a rung of cover MOST may fill any part.
   *
   * @param below what comes to so much or more is of no use
   */
  Optional<Offered> cheapest(List<Rung> rungs, Worth worth, long below) {
    Offered best = null;
    boolean proven = true;
    for (int r = 0; r < rungs.size(); r++) {
      long step = policy.rungStep() * r;
      long limit = (best == null ? below : best.charged()) - step;
      if (known(rungs.get(r)).floor(rungs.get(r).cover()) >= limit) {
        // charges make nothing cheaper
        continue;
      }
      Effort effort = new Effort(STEPS);
      for (Priced found : cheapest(rungs.get(r), worth, limit, effort)) {
        if (found.charged() < limit) {
          best = new Offered(new Choice(r, found.plan(), true), found.charged() + step);
        }
      }
      proven &= !effort.gaveUp();
    }
    if (best != null && !proven) {
      Choice choice = best.choice();
      best = new Offered(new Choice(choice.rung(), choice.plan(), false), best.charged());
    }
    return Optional.ofNullable(best);
  }

  private List<Priced> cheapest(Rung rung, Worth worth, long below, Effort effort) {
    if (!order.from().preferred().isEmpty()) {
      List<Priced> plans =
          preferred(rung, charged(known(rung).sources(), worth, Fill.WHOLE), 1, effort);
      if (!plans.isEmpty()) {
        return plans;
      }
    }
    Fill fill = rung.cover() == Cover.WHOLE ? Fill.WHOLE : Fill.ANY;
    return search(rung, fill, charged(known(rung).sources(), worth, fill), below, 1, effort);
  }

  /**
   * @param offered the cheapest first
   * @param upTo all that comes to less is among them
   */
  record Listed(List<Offered> offered, long upTo) {
    private static final Listed NOTHING_KNOWN = new Listed(List.of(), Long.MIN_VALUE);

    boolean isComplete() {
      return upTo > Long.MIN_VALUE;
    }
  }

  /**
   * The plans on any rung that come to no more than a limit, counted like {@link #cheapest}; of
   * rungs that differ only in consignments and cover, each on the first that allows it. Nothing is
   * known if the effort gives up, nor where rules prefer nodes: which others may then send
   * something depends on what those can.
   *
   * @param most about so many are wanted, the cheapest
   */
  Listed every(List<Rung> rungs, Worth worth, long limit, int most, Effort effort) {
    if (!order.from().preferred().isEmpty()) {
      return Listed.NOTHING_KNOWN;
    }
    List<Offered> offered = new ArrayList<>();
    long upTo = limit + 1;
    for (EveryPlan plans : plans(groups(rungs), worth)) {
      Cheapest cheapest = new Cheapest(basket, plans.sources(), policy, limit, most);
      plans.find(limit, effort, cheapest);
      offered.addAll(cheapest.offered());
      upTo = Math.min(upTo, cheapest.upTo());
    }
    offered.sort(Comparator.comparingLong(Offered::charged));
    return effort.gaveUp() ? Listed.NOTHING_KNOWN : new Listed(offered, upTo);
  }

  /**
   * Lists what comes to less than something.
   *
   * @param shelves by whose numbers it is told what plans take
   * @return null if there are many plans, or it can't be told which: so where rules prefer nodes
   */
  @Nullable Listing list(List<Rung> rungs, Shelves shelves, long lessThan) {
    List<Group> groups = groups(rungs);
    return order.from().preferred().isEmpty() && isSmall(groups)
        ? new Listing(
            basket,
            worth -> plans(groups, worth),
            () -> new PlanTable(basket, policy, shelves),
            shelves,
            lessThan - 1)
        : null;
  }

  private boolean isSmall(List<Group> groups) {
    for (Group group : groups) {
      if (basket.ways(group.known()::nodes, FEW) > FEW) {
        return false;
      }
    }
    return true;
  }

  /** All plans on any rung. */
  private List<EveryPlan> plans(List<Group> groups, Worth worth) {
    List<EveryPlan> plans = new ArrayList<>(groups.size());
    for (Group group : groups) {
      plans.add(
          new EveryPlan(
              basket, group.known().sources(), worth, policy, group.fill(), group.allowed()));
    }
    return plans;
  }

  private List<Group> groups(List<Rung> rungs) {
    Map<Terms, Group> byTerms = new LinkedHashMap<>();
    for (int r = 0; r < rungs.size(); r++) {
      Rung rung = rungs.get(r);
      byTerms
          .computeIfAbsent(terms(rung), t -> new Group(known(rung), new ArrayList<>()))
          .allowed()
          .add(
              new Allowed(
                  r, policy.rungStep() * r, maxConsignments(rung), rung.cover() == Cover.WHOLE));
    }
    return List.copyOf(byTerms.values());
  }

  private List<Source> charged(List<Source> sources, Worth worth, Fill fill) {
    List<Source> charged = new ArrayList<>(sources.size());
    for (Source source : sources) {
      charged.add(source.charged(worth, fill.saves(policy)));
    }
    return charged;
  }

  /** What is known of a rung, worked out once: a batch asks again and again, with other charges. */
  private Known known(Rung rung) {
    return known.computeIfAbsent(terms(rung), t -> withFloors(offers(rung).sources(true)));
  }

  private Terms terms(Rung rung) {
    return new Terms(rung.nodes(), order.arriveBy() == null ? Late.ALLOW : rung.late());
  }

  private Known withFloors(List<Source> sources) {
    long consignment = Long.MAX_VALUE / 2;
    for (Source source : sources) {
      consignment = Math.min(consignment, source.costPerConsignment() + source.tariff().least());
    }
    long whole = consignment;
    long any = consignment;
    for (int l = 0; l < basket.size(); l++) {
      long each = NOWHERE;
      for (Source source : sources) {
        int item = basket.itemOf(l);
        each = source.most(item) > 0 ? Math.min(each, source.unitCost(item)) : each;
      }
      whole += basket.quantity(l) * each;
      any += basket.quantity(l) * Math.min(each, policy.unfilledPenaltyPerUnit());
    }
    return new Known(sources, whole, any);
  }

  private NodeOffers offers(Rung rung) {
    return new NodeOffers(order, basket, rung, policy, situation, trips);
  }

  /** Plans from preferred nodes alone, if these can send all of it. */
  private List<Priced> preferred(Rung rung, List<Source> sources, int keep, Effort effort) {
    Set<String> preferred = order.from().preferred();
    if (preferred.isEmpty()) {
      return List.of();
    }
    List<Source> some = sources.stream().filter(s -> preferred.contains(s.node().code())).toList();
    return search(rung, Fill.WHOLE, some, Long.MAX_VALUE, keep, effort);
  }

  /** Whether it would be enough that nodes had places left on their days. */
  private boolean couldWithPlace(Rung rung, Fill fill, NodeOffers offers, int withPlace) {
    List<Source> all = offers.sources(false);
    return all.size() > withPlace
        && !search(rung, fill, all, Long.MAX_VALUE, 1, new Effort(STEPS)).isEmpty();
  }

  private List<Priced> search(
      Rung rung, Fill fill, List<Source> sources, long below, int keep, Effort effort) {
    return new PlanSearch(basket, sources, policy, fill, below, keep, effort)
        .best(maxConsignments(rung));
  }

  private int maxConsignments(Rung rung) {
    Integer most = order.maxConsignments();
    return most == null ? rung.maxConsignments() : Math.min(most, rung.maxConsignments());
  }
}
