package dev.ordinator.demo;

import static dev.ordinator.schema.Tables.CARRIER;
import static dev.ordinator.schema.Tables.LANE;
import static dev.ordinator.schema.Tables.LANE_RATE;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.NODE_HOLIDAY;
import static dev.ordinator.schema.Tables.ZONE;
import static dev.ordinator.schema.Tables.ZONE_MATCH;
import static org.jooq.impl.DSL.select;

import dev.ordinator.platform.OrdinatorSettings;
import java.time.Clock;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneOffset;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** Three nodes, two suppliers that send, a channel's depot; two carriers, four zones. */
@Component
class DemoNetwork {
  private static final Map<String, List<String>> ZONES = new LinkedHashMap<>();

  /** Working days from release until it can leave; elsewhere it leaves on the day. */
  private static final Map<String, Integer> WORKING_DAYS = Map.of("QUI", 1, "OAK", 6);

  static {
    ZONES.put("HOME", List.of("NL"));
    ZONES.put("NEAR", List.of("BE", "DE", "LU"));
    ZONES.put("FAR", List.of("FR", "AT", "DK", "IT", "ES", "PL", "SE"));
    ZONES.put("CUSTOMS", List.of("CH", "GB"));
  }

  private final DSLContext db;
  private final Clock clock;
  private final OrdinatorSettings settings;
  private int lanes;

  DemoNetwork(DSLContext db, Clock clock, OrdinatorSettings settings) {
    this.db = db;
    this.clock = clock;
    this.settings = settings;
  }

  /**
   * @param perConsignment handling, in cents, as are {@code perLine} and {@code perUnit}
   */
  private record NodeData(
      String code,
      String name,
      String kind,
      String street,
      String postcode,
      String city,
      String workdays,
      String cutOff,
      int capacity,
      long perConsignment,
      long perLine,
      long perUnit,
      String hazards) {}

  void install() {
    int position = 0;
    for (NodeData node :
        List.of(
            new NodeData(
                "STW",
                "Stillwater",
                "WAREHOUSE",
                "Stillwaterdijk 1",
                "3542 AB",
                "Utrecht",
                "MON-FRI",
                "14:00",
                120,
                120,
                15,
                5,
                "HX"),
            new NodeData(
                "CAN",
                "Canal Row",
                "STORE",
                "Grachtrij 27",
                "1016 DK",
                "Amsterdam",
                "MON-SAT",
                "16:30",
                20,
                190,
                30,
                10,
                ""),
            new NodeData(
                "FER",
                "Ferry Lane",
                "STORE",
                "Pontlaan 5",
                "3011 WA",
                "Rotterdam",
                "MON-SAT",
                "16:30",
                12,
                190,
                30,
                10,
                ""),
            new NodeData(
                "KES",
                "Kestrel depot",
                "CHANNEL_DEPOT",
                "Falkenweg 40",
                "47051",
                "Duisburg",
                "MON-SUN",
                "23:00",
                1000,
                0,
                0,
                0,
                ""),
            new NodeData(
                "QUI",
                "Quill & Comb",
                "SUPPLIER",
                "Ganzenveer 9",
                "4811 GC",
                "Breda",
                "MON-FRI",
                "12:00",
                15,
                250,
                0,
                0,
                ""),
            new NodeData(
                "OAK",
                "Oakum Joinery",
                "SUPPLIER",
                "Werkplaats 3",
                "7411 KT",
                "Deventer",
                "MON-FRI",
                "12:00",
                5,
                400,
                0,
                0,
                ""))) {
      node(node, position++);
    }
    // what suppliers sent comes back to the warehouse
    var warehouse = NODE.as("warehouse");
    db.update(NODE)
        .set(NODE.RETURNS_TO, select(warehouse.ID).from(warehouse).where(warehouse.CODE.eq("STW")))
        .where(NODE.KIND.eq("SUPPLIER"))
        .execute();
    carrier("HERON", "Heron Parcel");
    carrier("DUNLIN", "Dunlin Post");
    int order = 0;
    for (Map.Entry<String, List<String>> zone : ZONES.entrySet()) {
      zone(zone.getKey(), zone.getValue(), order++);
    }
    for (String node : List.of("STW", "CAN", "FER")) {
      lane(node, "HOME", "HERON", "STD", "STANDARD", 1, 495, 100, "HX");
      lane(node, "HOME", "HERON", "EXP", "EXPRESS", 0, 1190, 160, "");
      // the stores' mail round is cheap, so that small orders go where the shelf has them
      lane(node, "HOME", "DUNLIN", "PARCEL", "STANDARD", 2, node.equals("STW") ? 425 : 315, 95, "");
      lane(node, "NEAR", "HERON", "STD", "STANDARD", 2, 790, 140, "HX");
      lane(node, "NEAR", "HERON", "EXP", "EXPRESS", 1, 1890, 260, "");
      lane(node, "FAR", "HERON", "STD", "STANDARD", 3, 1190, 190, "");
      lane(node, "FAR", "HERON", "EXP", "EXPRESS", 2, 2790, 380, "");
      lane(node, "CUSTOMS", "HERON", "STD", "STANDARD", 4, 1590, 240, "");
    }
    for (String supplier : List.of("QUI", "OAK")) {
      lane(supplier, "HOME", "DUNLIN", "PARCEL", "STANDARD", 2, 545, 95, "");
      lane(supplier, "NEAR", "DUNLIN", "PARCEL", "STANDARD", 3, 890, 140, "");
    }
  }

  private void node(NodeData n, int position) {
    long id =
        db.insertInto(NODE)
            .set(NODE.CODE, n.code())
            .set(NODE.NAME, n.name())
            .set(NODE.KIND, n.kind())
            .set(NODE.STREET, n.street())
            .set(NODE.POSTCODE, n.postcode())
            .set(NODE.CITY, n.city())
            .set(NODE.COUNTRY, n.code().equals("KES") ? "DE" : "NL")
            .set(NODE.TIME_ZONE, "Europe/Amsterdam")
            .set(NODE.WORKDAYS, n.workdays())
            .set(NODE.CUT_OFF, LocalTime.parse(n.cutOff()))
            .set(NODE.PROCESSING_DAYS, WORKING_DAYS.getOrDefault(n.code(), 0))
            .set(NODE.CAPACITY_PER_DAY, n.capacity())
            .set(NODE.HANDLING_PER_CONSIGNMENT, n.perConsignment())
            .set(NODE.HANDLING_PER_LINE, n.perLine())
            .set(NODE.HANDLING_PER_UNIT, n.perUnit())
            .set(NODE.HAZARDS, n.hazards())
            .set(NODE.POSITION, position)
            .returningResult(NODE.ID)
            .fetchSingle()
            .value1();
    int year = LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC).getYear();
    for (int y = year; y <= year + 1; y++) {
      for (String day : List.of("-01-01", "-12-25", "-12-26")) {
        db.insertInto(NODE_HOLIDAY)
            .set(NODE_HOLIDAY.NODE_ID, id)
            .set(NODE_HOLIDAY.DAY, LocalDate.parse(y + day))
            .execute();
      }
    }
  }

  private void carrier(String code, String name) {
    db.insertInto(CARRIER)
        .set(CARRIER.CODE, code)
        .set(CARRIER.NAME, name)
        .set(CARRIER.TRACKING_URL, settings.carrierUrl() + "/track/{tracking}")
        .execute();
  }

  private void zone(String code, List<String> countries, int position) {
    long id =
        db.insertInto(ZONE)
            .set(ZONE.CODE, code)
            .set(ZONE.POSITION, position)
            .returningResult(ZONE.ID)
            .fetchSingle()
            .value1();
    for (String country : countries) {
      db.insertInto(ZONE_MATCH)
          .set(ZONE_MATCH.ZONE_ID, id)
          .set(ZONE_MATCH.COUNTRY, country)
          .execute();
    }
  }

  /** Rates in four steps: up to 2, 5, 10 and 30 kg, each dearer by a multiple of {@code step}. */
  private void lane(
      String node,
      String zone,
      String carrier,
      String service,
      String level,
      int days,
      long base,
      long step,
      String hazards) {
    long id =
        db.insertInto(LANE)
            .set(
                LANE.NODE_ID,
                db.select(NODE.ID).from(NODE).where(NODE.CODE.eq(node)).fetchSingle().value1())
            .set(
                LANE.ZONE_ID,
                db.select(ZONE.ID).from(ZONE).where(ZONE.CODE.eq(zone)).fetchSingle().value1())
            .set(
                LANE.CARRIER_ID,
                db.select(CARRIER.ID)
                    .from(CARRIER)
                    .where(CARRIER.CODE.eq(carrier))
                    .fetchSingle()
                    .value1())
            .set(LANE.SERVICE, service)
            .set(LANE.LEVEL, level)
            .set(LANE.WORKDAYS, "MON-SAT")
            .set(LANE.TRANSIT_DAYS, days)
            .set(LANE.HAZARDS, hazards)
            .set(LANE.POSITION, lanes++)
            .returningResult(LANE.ID)
            .fetchSingle()
            .value1();
    long[] kilograms = {2, 5, 10, 30};
    for (int i = 0; i < kilograms.length; i++) {
      db.insertInto(LANE_RATE)
          .set(LANE_RATE.LANE_ID, id)
          .set(LANE_RATE.UP_TO, kilograms[i] * 1000)
          .set(LANE_RATE.PRICE, base + i * i * step)
          .execute();
    }
  }
}
