package dev.ordinator.planning;

import static dev.ordinator.planning.Place.DOCUMENT;
import static java.time.ZoneOffset.UTC;

import dev.ordinator.core.catalog.Item;
import dev.ordinator.core.money.Money;
import dev.ordinator.core.network.Destination;
import dev.ordinator.core.network.Handling;
import dev.ordinator.core.network.Lane;
import dev.ordinator.core.network.Network;
import dev.ordinator.core.network.Node;
import dev.ordinator.core.network.NodeKind;
import dev.ordinator.core.network.RateTable;
import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.core.network.WorkCalendar;
import dev.ordinator.core.network.Zone;
import dev.ordinator.core.routing.BatchRouter;
import dev.ordinator.core.routing.Ladder;
import dev.ordinator.core.routing.Ladder.Cover;
import dev.ordinator.core.routing.Ladder.Late;
import dev.ordinator.core.routing.Ladder.NodeFilter;
import dev.ordinator.core.routing.Ladder.Rung;
import dev.ordinator.core.routing.OrderDemand;
import dev.ordinator.core.routing.Policy;
import dev.ordinator.core.routing.Situation;
import dev.ordinator.core.routing.Situation.Offer;
import dev.ordinator.planning.PlanningCase.CaseFilter;
import dev.ordinator.planning.PlanningCase.CaseHandling;
import dev.ordinator.planning.PlanningCase.CaseItem;
import dev.ordinator.planning.PlanningCase.CaseLane;
import dev.ordinator.planning.PlanningCase.CaseLine;
import dev.ordinator.planning.PlanningCase.CaseNode;
import dev.ordinator.planning.PlanningCase.CaseOrder;
import dev.ordinator.planning.PlanningCase.CasePolicy;
import dev.ordinator.planning.PlanningCase.CaseRung;
import dev.ordinator.planning.PlanningCase.CaseStock;
import dev.ordinator.planning.PlanningCase.CaseZone;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JacksonException;
import tools.jackson.core.StreamReadConstraints;
import tools.jackson.core.StreamReadFeature;
import tools.jackson.core.json.JsonFactory;
import tools.jackson.databind.DatabindException;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.MapperFeature;
import tools.jackson.databind.exc.MismatchedInputException;
import tools.jackson.databind.exc.UnrecognizedPropertyException;
import tools.jackson.databind.json.JsonMapper;

/** Reads planning cases, and says where one is not as it must be. */
final class CaseReader {
  private static final int DEEPEST = 32;

  /** Characters. */
  private static final long LARGEST = 64L << 20;

  private static final JsonMapper JSON =
      JsonMapper.builder(
              JsonFactory.builder()
                  .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
                  .streamReadConstraints(
                      StreamReadConstraints.builder()
                          .maxNestingDepth(DEEPEST)
                          .maxDocumentLength(LARGEST)
                          .build())
                  .build())
          .enable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
          .enable(DeserializationFeature.FAIL_ON_NULL_FOR_PRIMITIVES)
          .enable(DeserializationFeature.FAIL_ON_TRAILING_TOKENS)
          .disable(MapperFeature.ALLOW_COERCION_OF_SCALARS)
          .disable(DeserializationFeature.ACCEPT_FLOAT_AS_INT)
          .build();

  /** Days of transit and processing. */
  private static final long MOST_DAYS = 365;

  /** Weights, volumes, prices, units. */
  private static final long MOST = 1_000_000_000_000L;

  private static final LocalDate FIRST_DAY = LocalDate.of(2000, 1, 1);
  private static final LocalDate LAST_DAY = LocalDate.of(2100, 12, 31);

  /** What belongs where a value of such a class is read, in words. */
  private static final Map<Class<?>, String> KINDS =
      Map.of(
          Number.class, "a whole number",
          CharSequence.class, "a text in quotes",
          Boolean.class, "true or false",
          LocalDate.class, "a day such as 2026-12-01",
          Instant.class, "a moment such as 2026-12-01T08:00:00Z",
          Collection.class, "a list in brackets");

  private final Map<String, Item> items = new LinkedHashMap<>();
  private final Map<String, Integer> places = new HashMap<>();
  private final Set<String> nodes = new HashSet<>();
  private final Set<String> zones = new HashSet<>();

  private CaseReader() {}

  /**
   * @throws CaseError if it is no planning case
   */
  static Case read(String json) {
    PlanningCase document;
    try {
      document = JSON.readValue(json, PlanningCase.class);
    } catch (UnrecognizedPropertyException unknown) {
      throw new CaseError(path(unknown), "there is no such member");
    } catch (DatabindException wrong) {
      throw new CaseError(path(wrong), words(wrong));
    } catch (JacksonException broken) {
      throw new CaseError(
          "$",
          "it is no JSON: line %d, column %d: %s"
              .formatted(
                  broken.getLocation().getLineNr(),
                  broken.getLocation().getColumnNr(),
                  broken.getOriginalMessage()));
    }
    if (document == null) {
      throw new CaseError("$", "there is nothing in it");
    }
    return new CaseReader().read(document);
  }

  /** What is wrong, in words that know nothing of our classes. */
  private static String words(DatabindException wrong) {
    Class<?> wanted =
        wrong instanceof MismatchedInputException mismatch ? mismatch.getTargetType() : null;
    if (wanted == null || wanted == Object.class) {
      return "it is not what belongs here";
    }
    if (wanted.isEnum()) {
      return "it is none of "
          + Arrays.stream(wanted.getEnumConstants())
              .map(Object::toString)
              .collect(Collectors.joining(", "));
    }
    return KINDS.entrySet().stream()
        .filter(kind -> kind.getKey().isAssignableFrom(wanted))
        .map(kind -> "it must be " + kind.getValue())
        .findFirst()
        .orElse("it must be an object in braces");
  }

  private static String path(JacksonException e) {
    StringBuilder path = new StringBuilder("$");
    for (JacksonException.Reference step : e.getPath()) {
      String member = step.getPropertyName();
      path.append(member == null ? "[" + step.getIndex() + "]" : "." + member);
    }
    return path.toString();
  }

  private Case read(PlanningCase c) {
    isCurrency(DOCUMENT.of("currency"), must(DOCUMENT.of("currency"), c.currency()));
    isDay(DOCUMENT.of("now"), LocalDate.ofInstant(must(DOCUMENT.of("now"), c.now()), UTC));
    List<Zone> allZones = each(DOCUMENT.of("zones"), c.zones(), this::zone);
    each(DOCUMENT.of("items"), c.items(), this::item);
    List<Node> allNodes = each(DOCUMENT.of("nodes"), c.nodes(), this::node);
    List<Lane> lanes = each(DOCUMENT.of("lanes"), c.lanes(), this::lane);
    Set<String> stocked = new HashSet<>();
    List<Offer> offers = each(DOCUMENT.of("stock"), c.stock(), (at, s) -> offer(at, s, stocked));
    Ladder ladder = new Ladder("case", each(DOCUMENT.of("ladder"), c.ladder(), this::rung));
    Set<String> ids = new HashSet<>();
    List<BatchRouter.Order> orders =
        each(DOCUMENT.of("orders"), c.orders(), (at, o) -> order(at, o, ladder, ids));
    Network network = new Network(allNodes, lanes, allZones);
    OverflowCheck.check(c);
    return new Case(
        orders, ladder, policy(c.policy()), new Situation(c.now(), network, places, offers));
  }

  private static Policy policy(@Nullable CasePolicy given) {
    CasePolicy p = given == null ? new CasePolicy(null, null, null, null, null) : given;
    return at(
        DOCUMENT.of("policy.volumeDivisor"),
        () ->
            new Policy(
                notNegative(DOCUMENT.of("policy.splitPenalty"), p.splitPenalty(), 300),
                notNegative(DOCUMENT.of("policy.latePenaltyPerDay"), p.latePenaltyPerDay(), 250),
                notNegative(
                    DOCUMENT.of("policy.unfilledPenaltyPerUnit"),
                    p.unfilledPenaltyPerUnit(),
                    5_000),
                notNegative(DOCUMENT.of("policy.rungStep"), p.rungStep(), 2_000),
                Objects.requireNonNullElse(p.volumeDivisor(), 5_000L)));
  }

  private Zone zone(Place at, CaseZone z) {
    isNew(at.of("code"), must(at.of("code"), z.code()), zones);
    return new Zone(
        z.code(),
        each(
            at.of("match"),
            z.match(),
            (place, m) ->
                new Zone.Match(
                    must(place.of("country"), m.country()),
                    Objects.requireNonNullElse(m.postcodes(), List.of()))));
  }

  private Item item(Place at, CaseItem i) {
    Item item =
        new Item(
            must(at.of("sku"), i.sku()),
            notNegative(at.of("weight"), i.weight(), 0),
            notNegative(at.of("volume"), i.volume(), 0),
            i.hazard(),
            Objects.requireNonNullElse(i.bannedCountries(), Set.of()));
    if (items.put(i.sku(), item) != null) {
      throw new CaseError(at.of("sku").toString(), "it is there already: " + i.sku());
    }
    return item;
  }

  private Node node(Place at, CaseNode n) {
    isNew(at.of("code"), must(at.of("code"), n.code()), nodes);
    Integer left = n.capacityLeft();
    if (left != null) {
      places.put(n.code(), (int) notNegative(at.of("capacityLeft"), left.longValue(), 0));
    }
    CaseHandling h = Objects.requireNonNullElse(n.handling(), new CaseHandling(null, null, null));
    String days = Objects.requireNonNullElse(n.workdays(), "MON-FRI");
    Set<LocalDate> holidays = Objects.requireNonNullElse(n.holidays(), Set.of());
    holidays.forEach(day -> isDay(at.of("holidays"), must(at.of("holidays"), day)));
    return new Node(
        n.code(),
        Objects.requireNonNullElse(n.kind(), NodeKind.WAREHOUSE),
        must(at.of("country"), n.country()),
        at(at.of("timeZone"), () -> ZoneId.of(must(at.of("timeZone"), n.timeZone()))),
        at(at.of("workdays"), () -> WorkCalendar.parse(days, holidays)),
        at(at.of("cutOff"), () -> LocalTime.parse(Objects.requireNonNullElse(n.cutOff(), "15:00"))),
        days(at.of("processingDays"), Objects.requireNonNullElse(n.processingDays(), 0)),
        new Handling(
            notNegative(at.of("handling.perConsignment"), h.perConsignment(), 0),
            notNegative(at.of("handling.perLine"), h.perLine(), 0),
            notNegative(at.of("handling.perUnit"), h.perUnit(), 0)),
        Objects.requireNonNullElse(n.hazards(), Set.of()));
  }

  private Lane lane(Place at, CaseLane l) {
    isThere(at.of("node"), must(at.of("node"), l.node()), nodes);
    isThere(at.of("zone"), must(at.of("zone"), l.zone()), zones);
    String days = Objects.requireNonNullElse(l.workdays(), "MON-SAT");
    return new Lane(
        l.node(),
        l.zone(),
        must(at.of("carrier"), l.carrier()),
        must(at.of("service"), l.service()),
        Objects.requireNonNullElse(l.level(), ServiceLevel.STANDARD),
        at(at.of("workdays"), () -> WorkCalendar.parse(days, Set.of())),
        days(at.of("transitDays"), must(at.of("transitDays"), l.transitDays())),
        at(
            at.of("rates"),
            () ->
                new RateTable(
                    each(
                        at.of("rates"),
                        l.rates(),
                        (place, s) ->
                            new RateTable.Step(
                                notNegative(place.of("upTo"), must(place.of("upTo"), s.upTo()), 0),
                                notNegative(
                                    place.of("price"), must(place.of("price"), s.price()), 0))))),
        Objects.requireNonNullElse(l.hazards(), Set.of()));
  }

  private Offer offer(Place at, CaseStock s, Set<String> stocked) {
    isThere(at.of("node"), must(at.of("node"), s.node()), nodes);
    isThere(at.of("sku"), must(at.of("sku"), s.sku()), items.keySet());
    isNew(at, s.node() + " " + s.sku(), stocked);
    return new Offer(
        s.node(),
        s.sku(),
        notNegative(at.of("available"), must(at.of("available"), s.available()), 0),
        notNegative(at.of("purchasePrice"), s.purchasePrice(), 0),
        notNegative(at.of("clearanceCredit"), s.clearanceCredit(), 0));
  }

  private Rung rung(Place at, CaseRung r) {
    CaseFilter filter = Objects.requireNonNullElse(r.nodes(), new CaseFilter(null, null, null));
    Set<String> codes = filter.codes();
    if (codes != null) {
      codes.forEach(code -> isThere(at.of("nodes.codes"), code, nodes));
    }
    return at(
        at.of("maxConsignments"),
        () ->
            new Rung(
                must(at.of("name"), r.name()),
                new NodeFilter(
                    filter.kinds(), codes, Objects.requireNonNullElse(filter.sameCountry(), false)),
                Objects.requireNonNullElse(r.maxConsignments(), 1),
                Objects.requireNonNullElse(r.cover(), Cover.WHOLE),
                Objects.requireNonNullElse(r.late(), Late.FORBID)));
  }

  private BatchRouter.Order order(Place at, CaseOrder o, Ladder ladder, Set<String> ids) {
    isNew(at.of("id"), must(at.of("id"), o.id()), ids);
    Set<String> lineIds = new HashSet<>();
    List<OrderDemand.Line> lines = each(at.of("lines"), o.lines(), (l, x) -> line(l, x, lineIds));
    var to = must(at.of("to"), o.to());
    OrderDemand demand =
        at(
            at,
            () ->
                new OrderDemand(
                    o.id(),
                    new Destination(
                        must(at.of("to.country"), to.country()),
                        Objects.requireNonNullElse(to.postcode(), "")),
                    Objects.requireNonNullElse(o.level(), ServiceLevel.STANDARD),
                    o.arriveBy(),
                    o.maxConsignments(),
                    OrderDemand.From.ANYWHERE,
                    lines));
    return new BatchRouter.Order(demand, ladder, Objects.requireNonNullElse(o.priority(), 1));
  }

  private OrderDemand.Line line(Place at, CaseLine l, Set<String> ids) {
    isNew(at.of("id"), must(at.of("id"), l.id()), ids);
    isThere(at.of("sku"), must(at.of("sku"), l.sku()), items.keySet());
    notNegative(at.of("quantity"), must(at.of("quantity"), l.quantity()), 0);
    return at(
        at.of("quantity"),
        () ->
            new OrderDemand.Line(
                l.id(),
                Objects.requireNonNull(items.get(l.sku())),
                must(at.of("quantity"), l.quantity()),
                Objects.requireNonNullElse(l.divisible(), true),
                null));
  }

  private static int days(Place place, int days) {
    if (days < 0 || days > MOST_DAYS) {
      throw new CaseError(place.toString(), "0 to %d days".formatted(MOST_DAYS));
    }
    return days;
  }

  private static void isDay(Place place, LocalDate day) {
    if (day.isBefore(FIRST_DAY) || day.isAfter(LAST_DAY)) {
      throw new CaseError(
          place.toString(), "from %s to %s, not %s".formatted(FIRST_DAY, LAST_DAY, day));
    }
  }

  private static void isCurrency(Place place, String code) {
    at(place, () -> Money.of(0, code));
  }

  private interface Part<D, T> {
    T at(Place place, D document);
  }

  private static <D, T> List<T> each(Place list, @Nullable List<D> documents, Part<D, T> part) {
    List<T> parts = new ArrayList<>();
    List<D> all = Objects.requireNonNullElse(documents, List.of());
    for (int i = 0; i < all.size(); i++) {
      Place at = list.of(i);
      parts.add(part.at(at, must(at, all.get(i))));
    }
    return parts;
  }

  private static <T> T must(Place place, @Nullable T value) {
    if (value == null) {
      throw new CaseError(place.toString(), "it is missing");
    }
    return value;
  }

  private static long notNegative(Place place, @Nullable Long value, long otherwise) {
    long number = value == null ? otherwise : value;
    if (number < 0) {
      throw new CaseError(place.toString(), "it can’t be negative: " + number);
    }
    if (number > MOST) {
      throw new CaseError(place.toString(), "at most %,d".formatted(MOST));
    }
    return number;
  }

  private static void isThere(Place place, String code, Set<String> known) {
    if (!known.contains(code)) {
      throw new CaseError(
          place.toString(),
          "there is no ‘%s’; there are %s"
              .formatted(code, known.stream().sorted().limit(8).collect(Collectors.joining(", "))));
    }
  }

  private static void isNew(Place place, String code, Set<String> seen) {
    if (!seen.add(code)) {
      throw new CaseError(place.toString(), "it is there already: " + code);
    }
  }

  /** Makes a value of core's, whose own refusal is told with its place. */
  private static <T> T at(Place place, Supplier<T> make) {
    try {
      return make.get();
    } catch (IllegalArgumentException | java.time.DateTimeException refused) {
      throw new CaseError(place.toString(), String.valueOf(refused.getMessage()));
    }
  }
}
