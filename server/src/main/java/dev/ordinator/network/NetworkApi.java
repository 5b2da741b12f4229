package dev.ordinator.network;

import dev.ordinator.access.Person;
import dev.ordinator.core.network.Lane;
import dev.ordinator.core.network.Network;
import dev.ordinator.core.network.Node;
import dev.ordinator.core.network.NodeKind;
import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.core.network.Zone;
import dev.ordinator.network.Nodes.NodeCard;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Problem;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.temporal.ChronoUnit;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Who can ship where, how fast, at what cost. */
@RestController
@RequestMapping("/api/network")
@Tag(name = "Network")
class NetworkApi {
  private static final long HEAVIEST = 1_000_000;

  private final Nodes nodes;
  private final NetworkStore store;
  private final Closures closures;
  private final Holidays holidays;
  private final OrdinatorSettings settings;
  private final Clock clock;

  NetworkApi(
      Nodes nodes,
      NetworkStore store,
      Closures closures,
      Holidays holidays,
      OrdinatorSettings settings,
      Clock clock) {
    this.nodes = nodes;
    this.store = store;
    this.closures = closures;
    this.holidays = holidays;
    this.settings = settings;
    this.clock = clock;
  }

  /**
   * @param workdays such as MON,TUE,WED
   * @param leaves the day on which something released now would leave; null: a channel's depot
   * @param capacityPerDay consignments; null: no limit. {@code capacityLeft}: on that day
   * @param handling minor units of the currency, for one line of one unit
   * @param holidays those to come, the next first
   */
  record ShownNode(
      String code,
      String name,
      NodeKind kind,
      String city,
      String country,
      String workdays,
      LocalTime cutOff,
      int processingDays,
      @Nullable LocalDate leaves,
      @Nullable Integer capacityPerDay,
      @Nullable Integer capacityLeft,
      long handling,
      Set<String> hazards,
      List<LocalDate> holidays) {}

  /**
   * The way that costs least from a node to a zone.
   *
   * @param days from today to the arrival, in the calendar
   * @param cost carriage and handling of one line of one unit
   */
  record Way(
      String node,
      String carrier,
      String service,
      ServiceLevel level,
      LocalDate arrival,
      long days,
      long carriage,
      long cost,
      Set<String> hazards) {}

  /**
   * @param countries and postcode prefixes that are in it, in words
   * @param ways at most one for each node
   */
  record Row(String zone, List<String> countries, List<Way> ways) {}

  record Shown(String currency, List<ShownNode> nodes, List<Row> zones) {}

  @Operation(
      summary = "All nodes, and by zone how fast and at what cost each sends a parcel there",
      description = "Something released at this moment; the cheapest lane of the level or better.")
  @GetMapping
  Shown shown(
      @RequestParam(defaultValue = "2000") long grams,
      @RequestParam(defaultValue = "STANDARD") ServiceLevel level) {
    if (grams < 1 || grams > HEAVIEST) {
      throw Problem.invalid("grams", "1 to 1,000,000 grams");
    }
    Instant now = clock.instant();
    Network network = nodes.network();
    Map<String, Integer> left = nodes.capacityLeft(network, now);
    Map<String, Node> sending = new HashMap<>();
    network.nodes().forEach(n -> sending.put(n.code(), n));
    return new Shown(
        settings.baseCurrency(),
        nodes.all().stream()
            .map(card -> shown(card, sending.get(card.code()), left.get(card.code()), now))
            .toList(),
        store.zones().stream().map(zone -> row(zone, network, grams, level, now)).toList());
  }

  private static ShownNode shown(
      NodeCard card, @Nullable Node node, @Nullable Integer left, Instant now) {
    return new ShownNode(
        card.code(),
        card.name(),
        card.kind(),
        card.city(),
        card.country(),
        node == null ? "" : node.calendar().days(),
        card.cutOff(),
        node == null ? 0 : node.processingDays(),
        node == null ? null : node.handOverDay(now),
        card.capacityPerDay(),
        left,
        node == null ? 0 : node.handling().of(1, 1),
        node == null ? Set.of() : node.hazards(),
        node == null
            ? List.of()
            : node.calendar().holidays().stream()
                .filter(day -> !day.isBefore(node.today(now)))
                .sorted()
                .limit(20)
                .toList());
  }

  private static Row row(Zone zone, Network network, long grams, ServiceLevel level, Instant now) {
    return new Row(
        zone.code(),
        zone.matches().stream().map(m -> m.country() + prefixes(m.postcodes())).toList(),
        network.nodes().stream()
            .flatMap(n ->
                network.lanes(n, zone.code()).stream()
                    .filter(l -> l.level().covers(level))
                    .map(l -> way(n, l, grams, now))
                    .min(Comparator.comparingLong(Way::cost).thenComparing(Way::arrival))
                    .stream())
            .toList());
  }

  private static String prefixes(List<String> postcodes) {
    List<String> named = postcodes.stream().filter(p -> !p.isEmpty()).toList();
    return named.isEmpty() ? "" : " " + String.join("… ", named) + "…";
  }

  private static Way way(Node node, Lane lane, long grams, Instant now) {
    LocalDate arrival = lane.arrival(node.handOverDay(now));
    long carriage = lane.rates().carriage(grams);
    return new Way(
        node.code(),
        lane.carrier(),
        lane.service(),
        lane.level(),
        arrival,
        ChronoUnit.DAYS.between(node.today(now), arrival),
        carriage,
        carriage + node.handling().of(1, 1),
        lane.hazards());
  }

  @Operation(summary = "Public holidays of a country (ISO 3166-1) in a year")
  @GetMapping("/public-holidays")
  List<Holidays.Public> publicHolidays(@RequestParam String country, @RequestParam int year) {
    return holidays.of(country, year);
  }

  @Operation(summary = "A node’s holidays to come; when it is closed besides is not among them")
  @GetMapping("/nodes/{code}/holidays")
  List<LocalDate> holidays(@PathVariable String code) {
    return holidays.coming(code, LocalDate.now(clock));
  }

  record Days(Set<LocalDate> days) {}

  @Operation(summary = "Make these a node’s holidays from today on")
  @PutMapping("/nodes/{code}/holidays")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void setHolidays(@PathVariable String code, @RequestBody Days wish) {
    holidays.set(code, wish.days());
  }

  @Operation(summary = "Days on which nodes send nothing, that are not over yet")
  @GetMapping("/closures")
  List<Closures.Closure> closures() {
    return closures.all();
  }

  @Operation(summary = "The lanes of a node")
  @GetMapping("/nodes/{code}/lanes")
  List<Closures.LaneName> lanes(@PathVariable String code) {
    return closures.lanes(code);
  }

  @Operation(
      summary = "What waits at a node to leave on one of these days",
      description = "It stays there if the node is closed then; send it elsewhere by hand.")
  @GetMapping("/closures/affected")
  List<Closures.Affected> affected(
      @RequestParam String node,
      @RequestParam(required = false) @Nullable Long lane,
      @RequestParam LocalDate first,
      @RequestParam LocalDate last) {
    return closures.affected(node, lane, first, last);
  }

  @Operation(summary = "Close a node, or one of its lanes, from one day to another, both included")
  @PostMapping("/closures")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void close(@RequestBody Closures.Wish wish) {
    closures.close(wish, Person.current().displayName());
  }

  @Operation(summary = "Open it again")
  @DeleteMapping("/closures/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void open(@PathVariable long id) {
    closures.open(id);
  }
}
