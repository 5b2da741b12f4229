package dev.ordinator.network;

import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.NODE_LOAD;

import dev.ordinator.core.dispatch.LeaveMoment;
import dev.ordinator.core.network.Network;
import dev.ordinator.core.network.Node;
import dev.ordinator.core.network.NodeKind;
import dev.ordinator.core.routing.PlacesLeft;
import dev.ordinator.platform.Problem;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** The nodes, and how much of their days is taken. */
@Service
public class Nodes {
  private final DSLContext db;
  private final NetworkStore store;
  private final CapacityDays capacities;

  Nodes(DSLContext db, NetworkStore store, CapacityDays capacities) {
    this.db = db;
    this.store = store;
    this.capacities = capacities;
  }

  /**
   * A node as people see it.
   *
   * @param capacityPerDay consignments; null: no limit
   * @param leaves when goods leave its stock
   */
  public record NodeCard(
      long id,
      String code,
      String name,
      NodeKind kind,
      String street,
      String postcode,
      String city,
      String country,
      ZoneId timeZone,
      LocalTime cutOff,
      @Nullable Integer capacityPerDay,
      LeaveMoment leaves) {}

  /** All from which we send; what stands in a channel's own depot only the channel can send. */
  public Network network() {
    return store.load();
  }

  /** The codes of the nodes for which it is a workday now. */
  public Set<String> openToday(Instant now) {
    return store.nodes().stream()
        .filter(n -> n.calendar().works(n.today(now)))
        .map(Node::code)
        .collect(Collectors.toSet());
  }

  /** Names of all nodes by their codes, in listed order. */
  public Map<String, String> names() {
    Map<String, String> names = new LinkedHashMap<>();
    all().forEach(n -> names.put(n.code(), n.name()));
    return names;
  }

  /** All nodes in listed order. */
  public List<NodeCard> all() {
    return db.select(
            NODE.ID,
            NODE.CODE,
            NODE.NAME,
            NODE.KIND,
            NODE.STREET,
            NODE.POSTCODE,
            NODE.CITY,
            NODE.COUNTRY,
            NODE.TIME_ZONE,
            NODE.CUT_OFF,
            NODE.CAPACITY_PER_DAY,
            NODE.STOCK_LEAVES)
        .from(NODE)
        .orderBy(NODE.POSITION)
        .fetch(Nodes::card);
  }

  public NodeCard byId(long id) {
    return all().stream()
        .filter(n -> n.id() == id)
        .findFirst()
        .orElseThrow(() -> Problem.notFound("node " + id));
  }

  /** From now on: what has left already stays so, what is held leaves at its next moment. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void setLeaves(long id, LeaveMoment leaves) {
    db.update(NODE).set(NODE.STOCK_LEAVES, leaves.name()).where(NODE.ID.eq(id)).execute();
  }

  public NodeCard byCode(String code) {
    return all().stream()
        .filter(n -> n.code().equals(code))
        .findFirst()
        .orElseThrow(() -> Problem.notFound("node " + code));
  }

  /** What each node can still take on the day on which a release now would leave it. */
  public Map<String, Integer> capacityLeft(Network network, Instant now) {
    Map<String, LocalDate> days =
        network.nodes().stream().collect(Collectors.toMap(Node::code, n -> n.handOverDay(now)));
    Map<String, Integer> left = new HashMap<>(capacities.on(days));
    db.select(NODE.CODE, NODE_LOAD.DAY, NODE_LOAD.CONSIGNMENTS)
        .from(NODE_LOAD)
        .join(NODE)
        .on(NODE.ID.eq(NODE_LOAD.NODE_ID))
        .where(NODE_LOAD.DAY.in(days.values()))
        .forEach(r -> {
          if (r.value2().equals(days.get(r.value1()))) {
            left.computeIfPresent(r.value1(), (node, most) -> most - r.value3());
          }
        });
    return left;
  }

  /** What nodes can still take on any day from a moment on. */
  public PlacesLeft placesLeft(Instant from) {
    Map<String, Integer> usual = capacities.usual();
    Map<String, Map<LocalDate, CapacityDays.OtherDay>> otherDays = capacities.otherDays();
    Map<String, Map<LocalDate, Integer>> load = new HashMap<>();
    db.select(NODE.CODE, NODE_LOAD.DAY, NODE_LOAD.CONSIGNMENTS)
        .from(NODE_LOAD)
        .join(NODE)
        .on(NODE.ID.eq(NODE_LOAD.NODE_ID))
        // somewhere it may still be yesterday
        .where(NODE_LOAD.DAY.ge(LocalDate.ofInstant(from, ZoneOffset.UTC).minusDays(1)))
        .forEach(r ->
            load.computeIfAbsent(r.value1(), code -> new HashMap<>()).put(r.value2(), r.value3()));
    return (node, day) -> {
      Integer most = CapacityDays.most(node, day, usual, otherDays);
      return most == null
          ? Integer.MAX_VALUE
          : most - load.getOrDefault(node, Map.of()).getOrDefault(day, 0);
    };
  }

  /**
   * Takes a place in a node's day, if there is one left.
   *
   * @return false if the day is full
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public boolean takePlace(NodeCard node, LocalDate day) {
    db.insertInto(NODE_LOAD)
        .set(NODE_LOAD.NODE_ID, node.id())
        .set(NODE_LOAD.DAY, day)
        .set(NODE_LOAD.CONSIGNMENTS, 0)
        .onDuplicateKeyIgnore()
        .execute();
    Integer most = capacities.on(node.id(), day, node.capacityPerDay());
    int limit = most == null ? Integer.MAX_VALUE : most;
    return db.update(NODE_LOAD)
            .set(NODE_LOAD.CONSIGNMENTS, NODE_LOAD.CONSIGNMENTS.plus(1))
            .where(NODE_LOAD.NODE_ID.eq(node.id()))
            .and(NODE_LOAD.DAY.eq(day))
            .and(NODE_LOAD.CONSIGNMENTS.lt(limit))
            .execute()
        == 1;
  }

  /** Gives back a place that was taken in a node's day. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void givePlaceBack(long nodeId, LocalDate day) {
    db.update(NODE_LOAD)
        .set(NODE_LOAD.CONSIGNMENTS, NODE_LOAD.CONSIGNMENTS.minus(1))
        .where(NODE_LOAD.NODE_ID.eq(nodeId))
        .and(NODE_LOAD.DAY.eq(day))
        .and(NODE_LOAD.CONSIGNMENTS.gt(0))
        .execute();
  }

  private static NodeCard card(Record r) {
    return new NodeCard(
        r.get(NODE.ID),
        r.get(NODE.CODE),
        r.get(NODE.NAME),
        NodeKind.valueOf(r.get(NODE.KIND)),
        r.get(NODE.STREET),
        r.get(NODE.POSTCODE),
        r.get(NODE.CITY),
        r.get(NODE.COUNTRY),
        ZoneId.of(r.get(NODE.TIME_ZONE)),
        r.get(NODE.CUT_OFF),
        r.get(NODE.CAPACITY_PER_DAY),
        LeaveMoment.valueOf(r.get(NODE.STOCK_LEAVES)));
  }
}
