package dev.ordinator.network;

import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.NODE_CLOSURE;
import static dev.ordinator.schema.Tables.NODE_HOLIDAY;
import static dev.ordinator.schema.Tables.ROUTING_PAUSE;
import static dev.ordinator.schema.Tables.ZONE;
import static dev.ordinator.schema.Tables.ZONE_MATCH;

import dev.ordinator.core.network.Handling;
import dev.ordinator.core.network.Lane;
import dev.ordinator.core.network.Network;
import dev.ordinator.core.network.Node;
import dev.ordinator.core.network.NodeKind;
import dev.ordinator.core.network.RateTable;
import dev.ordinator.core.network.WorkCalendar;
import dev.ordinator.core.network.Zone;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.stereotype.Repository;

/** Reads the network into core's terms. */
@Repository
class NetworkStore {
  private final DSLContext db;
  private final Lanes lanes;
  private final Clock clock;

  NetworkStore(DSLContext db, Lanes lanes, Clock clock) {
    this.db = db;
    this.lanes = lanes;
    this.clock = clock;
  }

  Network load() {
    List<Node> nodes = nodes();
    return new Network(nodes, lanes(nodes), zones(), paused());
  }

  private Set<String> paused() {
    return db.select(NODE.CODE)
        .from(ROUTING_PAUSE)
        .join(NODE)
        .on(NODE.ID.eq(ROUTING_PAUSE.NODE_ID))
        .fetchSet(NODE.CODE);
  }

  List<Node> nodes() {
    Map<Long, Set<LocalDate>> holidays =
        db.select(NODE_HOLIDAY.NODE_ID, NODE_HOLIDAY.DAY)
            .from(NODE_HOLIDAY)
            .collect(
                Collectors.groupingBy(
                    r -> r.value1(), Collectors.mapping(r -> r.value2(), Collectors.toSet())));
    closedDays().forEach((node, days) -> holidays.merge(node, days, NetworkStore::both));
    return db.select(
            NODE.ID,
            NODE.CODE,
            NODE.KIND,
            NODE.COUNTRY,
            NODE.TIME_ZONE,
            NODE.WORKDAYS,
            NODE.CUT_OFF,
            NODE.PROCESSING_DAYS,
            NODE.HANDLING_PER_CONSIGNMENT,
            NODE.HANDLING_PER_LINE,
            NODE.HANDLING_PER_UNIT,
            NODE.HAZARDS)
        .from(NODE)
        .where(NODE.KIND.ne(NodeKind.CHANNEL_DEPOT.name()))
        .orderBy(NODE.POSITION)
        .fetch(r ->
            new Node(
                r.get(NODE.CODE),
                NodeKind.valueOf(r.get(NODE.KIND)),
                r.get(NODE.COUNTRY),
                ZoneId.of(r.get(NODE.TIME_ZONE)),
                WorkCalendar.parse(
                    r.get(NODE.WORKDAYS), holidays.getOrDefault(r.get(NODE.ID), Set.of())),
                r.get(NODE.CUT_OFF),
                r.get(NODE.PROCESSING_DAYS),
                new Handling(
                    r.get(NODE.HANDLING_PER_CONSIGNMENT),
                    r.get(NODE.HANDLING_PER_LINE),
                    r.get(NODE.HANDLING_PER_UNIT)),
                commaSet(r.get(NODE.HAZARDS))));
  }

  /** Days of nodes' closures by their ids: they don't work then. */
  private Map<Long, Set<LocalDate>> closedDays() {
    Map<Long, Set<LocalDate>> days = new HashMap<>();
    db.select(NODE_CLOSURE.NODE_ID, NODE_CLOSURE.FIRST_DAY, NODE_CLOSURE.LAST_DAY)
        .from(NODE_CLOSURE)
        .where(NODE_CLOSURE.LANE_ID.isNull())
        .forEach(r ->
            r.value2()
                .datesUntil(r.value3().plusDays(1))
                .forEach(day -> days.computeIfAbsent(r.value1(), k -> new HashSet<>()).add(day)));
    return days;
  }

  private static Set<LocalDate> both(Set<LocalDate> one, Set<LocalDate> other) {
    Set<LocalDate> all = new HashSet<>(one);
    all.addAll(other);
    return all;
  }

  /** But for those that are closed on the day on which a release now would leave their node. */
  List<Lane> lanes(List<Node> nodes) {
    Set<Long> closed = closedLanes(nodes);
    return lanes.all().stream()
        .filter(lane -> !closed.contains(lane.id()))
        .map(lane ->
            new Lane(
                lane.key().node(),
                lane.key().zone(),
                lane.key().carrier(),
                lane.key().service(),
                lane.terms().level(),
                WorkCalendar.parse(lane.terms().workdays(), Set.of()),
                lane.terms().transitDays(),
                new RateTable(lane.terms().rates()),
                lane.terms().hazards()))
        .toList();
  }

  private Set<Long> closedLanes(List<Node> nodes) {
    Instant now = clock.instant();
    Map<String, LocalDate> leaves =
        nodes.stream().collect(Collectors.toMap(Node::code, n -> n.handOverDay(now)));
    Set<Long> closed = new HashSet<>();
    db.select(NODE_CLOSURE.LANE_ID, NODE.CODE, NODE_CLOSURE.FIRST_DAY, NODE_CLOSURE.LAST_DAY)
        .from(NODE_CLOSURE)
        .join(NODE)
        .on(NODE.ID.eq(NODE_CLOSURE.NODE_ID))
        .where(NODE_CLOSURE.LANE_ID.isNotNull())
        .forEach(r -> {
          LocalDate day = leaves.get(r.value2());
          if (day != null && !day.isBefore(r.value3()) && !day.isAfter(r.value4())) {
            closed.add(r.value1());
          }
        });
    return closed;
  }

  List<Zone> zones() {
    Map<String, Map<String, List<String>>> byZone = new LinkedHashMap<>();
    db.select(ZONE.CODE, ZONE_MATCH.COUNTRY, ZONE_MATCH.POSTCODE)
        .from(ZONE)
        .join(ZONE_MATCH)
        .on(ZONE_MATCH.ZONE_ID.eq(ZONE.ID))
        .orderBy(ZONE.POSITION, ZONE_MATCH.COUNTRY)
        .forEach(r ->
            byZone
                .computeIfAbsent(r.value1(), z -> new LinkedHashMap<>())
                .computeIfAbsent(r.value2(), c -> new ArrayList<>())
                .add(r.value3()));
    return byZone.entrySet().stream()
        .map(z ->
            new Zone(
                z.getKey(),
                z.getValue().entrySet().stream()
                    .map(m -> new Zone.Match(m.getKey(), m.getValue()))
                    .toList()))
        .toList();
  }

  private static Set<String> commaSet(String text) {
    return text.isEmpty() ? Set.of() : Set.of(text.split(","));
  }
}
