package dev.ordinator.network;

import static dev.ordinator.schema.Tables.CARRIER;
import static dev.ordinator.schema.Tables.LANE;
import static dev.ordinator.schema.Tables.LANE_RATE;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.ZONE;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.max;
import static org.jooq.impl.DSL.val;

import dev.ordinator.core.network.RateTable;
import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.core.network.WorkCalendar;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** The lanes with what they cost, as people say them. */
@Service
public class Lanes {
  private static final int LONGEST_TRANSIT = 60;

  private final DSLContext db;

  Lanes(DSLContext db) {
    this.db = db;
  }

  /** By what a lane is known; all are codes. */
  public record Key(String node, String zone, String carrier, String service) {}

  /**
   * @param workdays on which it moves, such as MON-FRI
   * @param rates grams up to which a parcel costs so much, in minor units of the base currency
   */
  public record Terms(
      ServiceLevel level,
      String workdays,
      int transitDays,
      Set<String> hazards,
      List<RateTable.Step> rates) {}

  /** A lane that there is. */
  public record LaneOf(long id, Key key, Terms terms) {}

  record Carrier(String code, String name) {}

  List<Carrier> carriers() {
    return db.select(CARRIER.CODE, CARRIER.NAME)
        .from(CARRIER)
        .orderBy(CARRIER.NAME)
        .fetch(r -> new Carrier(r.value1(), r.value2()));
  }

  /** In listed order. */
  public List<LaneOf> all() {
    Map<Long, List<RateTable.Step>> rates =
        db.selectFrom(LANE_RATE)
            .orderBy(LANE_RATE.LANE_ID, LANE_RATE.UP_TO)
            .fetchGroups(LANE_RATE.LANE_ID, r -> new RateTable.Step(r.getUpTo(), r.getPrice()));
    List<LaneOf> all = new ArrayList<>();
    db.select(
            LANE.ID,
            NODE.CODE,
            ZONE.CODE,
            CARRIER.CODE,
            LANE.SERVICE,
            LANE.LEVEL,
            LANE.WORKDAYS,
            LANE.TRANSIT_DAYS,
            LANE.HAZARDS)
        .from(LANE)
        .join(NODE)
        .on(NODE.ID.eq(LANE.NODE_ID))
        .join(ZONE)
        .on(ZONE.ID.eq(LANE.ZONE_ID))
        .join(CARRIER)
        .on(CARRIER.ID.eq(LANE.CARRIER_ID))
        .orderBy(LANE.POSITION)
        .forEach(r -> all.add(lane(r, rates.getOrDefault(r.get(LANE.ID), List.of()))));
    return all;
  }

  private static LaneOf lane(Record r, List<RateTable.Step> rates) {
    String hazards = r.get(LANE.HAZARDS);
    return new LaneOf(
        r.get(LANE.ID),
        new Key(r.get(NODE.CODE), r.get(ZONE.CODE), r.get(CARRIER.CODE), r.get(LANE.SERVICE)),
        new Terms(
            ServiceLevel.valueOf(r.get(LANE.LEVEL)),
            r.get(LANE.WORKDAYS),
            r.get(LANE.TRANSIT_DAYS),
            hazards.isEmpty() ? Set.of() : Set.of(hazards.split(",")),
            rates));
  }

  public Optional<Terms> of(Key key) {
    return all().stream().filter(l -> l.key().equals(key)).map(LaneOf::terms).findFirst();
  }

  /**
   * @throws Problem if they make no sense, or a node, zone or carrier is not known
   */
  public void check(Key key, Terms terms) {
    idOf(key);
    if (key.service().isBlank() || key.service().length() > 20) {
      throw Problem.invalid("service", "1 to 20 characters");
    }
    if (terms.transitDays() < 0 || terms.transitDays() > LONGEST_TRANSIT) {
      throw Problem.invalid("transit days", "0 to %d workdays".formatted(LONGEST_TRANSIT));
    }
    try {
      WorkCalendar.parse(terms.workdays(), Set.of());
    } catch (IllegalArgumentException e) {
      throw Problem.invalid("workdays", "such as MON-FRI: " + e.getMessage());
    }
    try {
      new RateTable(terms.rates());
    } catch (IllegalArgumentException e) {
      throw Problem.invalid("rates", Texts.of(e));
    }
  }

  /** Ids of a node, a zone and a carrier. */
  private record Ids(long node, long zone, long carrier) {
    Condition lane(String service) {
      return LANE.NODE_ID
          .eq(node)
          .and(LANE.ZONE_ID.eq(zone))
          .and(LANE.CARRIER_ID.eq(carrier))
          .and(LANE.SERVICE.eq(service));
    }
  }

  private Ids idOf(Key key) {
    return new Ids(
        db.select(NODE.ID)
            .from(NODE)
            .where(NODE.CODE.eq(key.node()))
            .fetchOptional(NODE.ID)
            .orElseThrow(() -> Problem.invalid("node", "no node is called " + key.node())),
        db.select(ZONE.ID)
            .from(ZONE)
            .where(ZONE.CODE.eq(key.zone()))
            .fetchOptional(ZONE.ID)
            .orElseThrow(() -> Problem.invalid("zone", "no zone is called " + key.zone())),
        db.select(CARRIER.ID)
            .from(CARRIER)
            .where(CARRIER.CODE.eq(key.carrier()))
            .fetchOptional(CARRIER.ID)
            .orElseThrow(
                () -> Problem.invalid("carrier", "no carrier is called " + key.carrier())));
  }

  /** Makes a lane, or changes it; what goes by it already does so as it was planned. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void put(Key key, Terms terms) {
    check(key, terms);
    Ids ids = idOf(key);
    String hazards = String.join(",", new TreeSet<>(terms.hazards()));
    int position =
        db.select(coalesce(max(LANE.POSITION), val(0))).from(LANE).fetchSingle().value1();
    db.insertInto(LANE)
        .set(LANE.NODE_ID, ids.node())
        .set(LANE.ZONE_ID, ids.zone())
        .set(LANE.CARRIER_ID, ids.carrier())
        .set(LANE.SERVICE, key.service())
        .set(LANE.LEVEL, terms.level().name())
        .set(LANE.WORKDAYS, terms.workdays())
        .set(LANE.TRANSIT_DAYS, terms.transitDays())
        .set(LANE.HAZARDS, hazards)
        .set(LANE.POSITION, position + 1)
        .onDuplicateKeyUpdate()
        .set(LANE.LEVEL, terms.level().name())
        .set(LANE.WORKDAYS, terms.workdays())
        .set(LANE.TRANSIT_DAYS, terms.transitDays())
        .set(LANE.HAZARDS, hazards)
        .execute();
    long lane = db.select(LANE.ID).from(LANE).where(ids.lane(key.service())).fetchSingle().value1();
    db.deleteFrom(LANE_RATE).where(LANE_RATE.LANE_ID.eq(lane)).execute();
    terms
        .rates()
        .forEach(step ->
            db.insertInto(LANE_RATE)
                .set(LANE_RATE.LANE_ID, lane)
                .set(LANE_RATE.UP_TO, step.upTo())
                .set(LANE_RATE.PRICE, step.price())
                .execute());
  }
}
