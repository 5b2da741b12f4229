package dev.ordinator.network;

import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Sample;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.MissingNode;

/** Who can ship where, how fast, at what cost; and when a node sends nothing. */
class NetworkTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @AfterEach
  void allAreOpen() {
    here.mara()
        .read("/api/network/closures")
        .forEach(c ->
            here.mara().change("DELETE", "/api/network/closures/" + c.path("id").asLong(), ""));
  }

  @Test
  void theTableSaysTheCheapestLaneOfTheLevelForTheWeight() {
    JsonNode light = way("?grams=1500", "HOME", "STW");
    // Dunlin 4.25; handling 1.20 + 0.15 + 0.05
    assertThat(light.path("service").asString()).isEqualTo("PARCEL");
    assertThat(light.path("cost").asLong()).isEqualTo(425 + 140);
    JsonNode heavy = way("?grams=6000", "HOME", "STW");
    assertThat(heavy.path("carriage").asLong()).isEqualTo(425 + 4 * 95);
    JsonNode express = way("?grams=1500&level=EXPRESS", "HOME", "STW");
    assertThat(express.path("service").asString()).isEqualTo("EXP");
    assertThat(express.path("arrival").asString()).isLessThan(light.path("arrival").asString());
    assertThat(way("", "FAR", "OAK").isMissingNode()).as("it sends no further").isTrue();
    assertThat(here.mara().get("/api/network?grams=0").status()).isEqualTo(422);
  }

  @Test
  void aLaneAndAZoneAreOtherwiseFromNowOn() {
    String path = "/api/network/lanes?node=STW&zone=HOME";
    JsonNode lane =
        here.mara()
            .read(path)
            .valueStream()
            .filter(l -> l.path("key").path("service").asString().equals("PARCEL"))
            .findFirst()
            .orElseThrow();
    long before = way("?grams=1500", "HOME", "STW").path("cost").asLong();
    assertThat(put(lane, 0, 425)).as("a weight of nothing").isEqualTo(422);
    assertThat(put(lane, 30_000, 399)).isEqualTo(204);
    assertThat(way("?grams=1500", "HOME", "STW").path("cost").asLong()).isEqualTo(before - 26);
    Map<String, Object> was = Map.of("key", lane.path("key"), "terms", lane.path("terms"));
    assertThat(here.mara().change("PUT", "/api/network/lanes", was).status()).isEqualTo(204);
    assertThat(way("?grams=1500", "HOME", "STW").path("cost").asLong()).isEqualTo(before);

    JsonNode home = here.mara().read("/api/network/zones/HOME");
    assertThat(zone("HOME", List.of(Map.of("country", "Holland", "postcode", "")))).isEqualTo(422);
    assertThat(
            zone(
                "ISLES",
                List.of(
                    Map.of("country", "NL", "postcode", "1791"),
                    Map.of("country", "NL", "postcode", "8881"))))
        .isEqualTo(204);
    assertThat(here.mara().read("/api/network").path("zones").toString()).contains("ISLES");
    assertThat(here.mara().read("/api/network/zones/HOME")).isEqualTo(home);
    assertThat(
            here.world()
                .visitor("vera")
                .change("PUT", "/api/network/zones/ISLES", List.of())
                .status())
        .isEqualTo(403);
    assertThat(zone("ISLES", List.of())).isEqualTo(204);
  }

  private static int zone(String code, List<?> parts) {
    return here.mara().change("PUT", "/api/network/zones/" + code, parts).status();
  }

  private static int put(JsonNode lane, long upTo, long price) {
    Map<String, Object> terms =
        Map.of(
            "level", lane.path("terms").path("level").asString(),
            "workdays", lane.path("terms").path("workdays").asString(),
            "transitDays", lane.path("terms").path("transitDays").asInt(),
            "hazards", List.of(),
            "rates", List.of(Map.of("upTo", upTo, "price", price)));
    return here.mara()
        .change("PUT", "/api/network/lanes", Map.of("key", lane.path("key"), "terms", terms))
        .status();
  }

  @Test
  void aClosedNodeLeavesItsDaysOutAndWhatWaitsThereIsShownBefore() {
    here.world().shop().place(Sample.order("NW1", "EX-3M", 1));
    long id = here.awaitStage("NW1", "RELEASED").path("id").asLong();
    LocalDate leaves = leaves("STW");
    LocalDate last = leaves.plusDays(6);
    JsonNode affected =
        here.mara()
            .read(
                "/api/network/closures/affected?node=STW&first=%s&last=%s".formatted(leaves, last));
    assertThat(affected.valueStream().map(a -> a.path("orderId").asLong())).contains(id);

    assertThat(close("STW", last, leaves, "stocktaking")).as("backwards").isEqualTo(422);
    assertThat(close("STW", leaves, last, "")).as("no reason").isEqualTo(422);
    assertThat(close("NONE", leaves, last, "stocktaking")).isEqualTo(422);
    assertThat(close("STW", leaves, last, "stocktaking")).isEqualTo(204);
    assertThat(leaves("STW")).isAfter(last);
    JsonNode closure = here.mara().read("/api/network/closures").get(0);
    assertThat(closure.path("reason").asString()).isEqualTo("stocktaking");
    assertThat(closure.path("by").asString()).isEqualTo("Mara");

    assertThat(nodeClosed(id)).isEqualTo("[true]");
    // what is planned already is taken back in one act, and leaves afterwards as well
    String its = "/api/network/closures/" + closure.path("id").asLong();
    long planned = here.mara().read(its + "/planned").size();
    assertThat(planned).isPositive();
    assertThat(here.mara().post(its + "/move", "").body().path("moved").asLong())
        .isEqualTo(planned);
    assertThat(here.mara().read(its + "/planned").isEmpty()).isTrue();
    await("it is planned anew").until(() -> handOver(id, 1) != null);
    assertThat(handOver(id, 1)).isAfter(last);
    assertThat(nodeClosed(id))
        .as("of what was taken back it says nothing")
        .isEqualTo("[false, false]");

    // what only it has leaves afterwards
    here.world().shop().place(Sample.order("NW2", "EX-3M", 1));
    JsonNode late = here.awaitStage("NW2", "RELEASED");
    JsonNode sheet = here.mara().read("/api/orders/" + late.path("id").asLong());
    assertThat(LocalDate.parse(sheet.path("consignments").get(0).path("handOverOn").asString()))
        .isAfter(last);
  }

  private static String nodeClosed(long id) {
    return here.mara()
        .read("/api/orders/" + id)
        .path("consignments")
        .valueStream()
        .map(c -> c.path("nodeClosed").asBoolean())
        .toList()
        .toString();
  }

  /** The day on which an order's consignment leaves; null: it has no such consignment yet. */
  private static @Nullable LocalDate handOver(long id, int consignment) {
    JsonNode its = here.mara().read("/api/orders/" + id).path("consignments").path(consignment);
    return its.isMissingNode() ? null : LocalDate.parse(its.path("handOverOn").asString());
  }

  @Test
  void aClosedLaneIsNotTakenOnItsDaysAndTheNodeGoesOnSending() {
    LocalDate leaves = leaves("STW");
    JsonNode lanes = here.mara().read("/api/network/nodes/STW/lanes");
    JsonNode lane =
        lanes
            .valueStream()
            .filter(l -> l.path("service").asString().equals("PARCEL"))
            .filter(l -> l.path("zone").asString().equals("HOME"))
            .findFirst()
            .orElseThrow();
    here.world().shop().place(Sample.order("NW5", "EX-3M", 1));
    long id = here.awaitStage("NW5", "RELEASED").path("id").asLong();
    String query =
        "/api/network/closures/affected?node=STW&first=%s&last=%s&lane=".formatted(leaves, leaves);
    assertThat(
            here.mara()
                .read(query + lane.path("id").asLong())
                .valueStream()
                .map(a -> a.path("orderId").asLong()))
        .contains(id);
    assertThat(here.mara().get(query + "999999").status()).isEqualTo(422);

    Map<String, Object> wish =
        Map.of(
            "node", "STW",
            "lane", lane.path("id").asLong(),
            "first", leaves.toString(),
            "last", leaves.toString(),
            "reason", "the carrier strikes");
    assertThat(here.mara().post("/api/network/closures", wish).status()).isEqualTo(204);
    assertThat(leaves("STW")).as("it sends by others").isEqualTo(leaves);
    assertThat(way("?grams=1500", "HOME", "STW").path("service").asString()).isNotEqualTo("PARCEL");
    assertThat(here.mara().read("/api/network/closures").get(0).path("laneName").asString())
        .contains("PARCEL to HOME");
  }

  @Test
  void publicHolidaysOfACountryCanBeMadeANodesAndThenItDoesNotWork() {
    JsonNode known = here.mara().read("/api/network/public-holidays?country=NL&year=2027");
    assertThat(known.valueStream().map(h -> h.path("day").asString()))
        .as("New Year, Easter Monday, King’s Day, Christmas")
        .contains("2027-01-01", "2027-03-29", "2027-04-27", "2027-12-25");
    assertThat(here.mara().get("/api/network/public-holidays?country=XX&year=2027").status())
        .isEqualTo(422);

    LocalDate leaves = leaves("STW");
    String path = "/api/network/nodes/STW/holidays";
    JsonNode before = here.mara().read(path);
    assertThat(setHolidays(path, leaves.toString())).isEqualTo(204);
    assertThat(leaves("STW")).isAfter(leaves);
    assertThat(setHolidays(path, "2020-01-01")).as("it is over").isEqualTo(422);
    assertThat(here.mara().read(path)).hasSize(1);
    assertThat(
            setHolidays(path, before.valueStream().map(JsonNode::asString).toArray(String[]::new)))
        .isEqualTo(204);
    assertThat(leaves("STW")).isEqualTo(leaves);
  }

  private static int setHolidays(String path, String... days) {
    return here.mara().change("PUT", path, Map.of("days", List.of(days))).status();
  }

  private static int close(String node, LocalDate first, LocalDate last, String reason) {
    return here.mara()
        .post(
            "/api/network/closures",
            Map.of(
                "node", node, "first", first.toString(), "last", last.toString(), "reason", reason))
        .status();
  }

  private static LocalDate leaves(String node) {
    return LocalDate.parse(
        here.mara()
            .read("/api/network")
            .path("nodes")
            .valueStream()
            .filter(n -> n.path("code").asString().equals(node))
            .findFirst()
            .orElseThrow()
            .path("leaves")
            .asString());
  }

  private static JsonNode way(String query, String zone, String node) {
    return here.mara()
        .read("/api/network" + query)
        .path("zones")
        .valueStream()
        .filter(z -> z.path("zone").asString().equals(zone))
        .flatMap(z -> z.path("ways").valueStream())
        .filter(w -> w.path("node").asString().equals(node))
        .findFirst()
        .orElse(MissingNode.getInstance());
  }
}
