package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.LOT;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Packer;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.Visitor;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Deliveries by lot, what goes first, and taking a lot off sale. */
class LotsTest {
  private static final LocalDate TODAY = LocalDate.now(ZoneId.of("Europe/Amsterdam"));

  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @AfterAll
  static void levelsAreStillWhatTheLedgerSays() {
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
  }

  @Test
  void aDeliveryWithAShortLineAndDamagedUnitsIsTakenInByLot() {
    long item = tracked("SYRUP-14", 0);
    long other = id("BOOK-YEAR");
    expect(item, 20, "PO-1");
    expect(other, 5, "PO-1");
    JsonNode delivery =
        here.mara()
            .read("/api/stock/deliveries")
            .valueStream()
            .filter(d -> d.path("number").asString().equals("PO-1"))
            .findFirst()
            .orElseThrow();
    assertThat(delivery.path("lines").size()).isEqualTo(2);
    Map<String, Long> expected = new HashMap<>();
    delivery
        .path("lines")
        .valueStream()
        .forEach(l -> expected.put(l.path("itemId").asString(), l.path("expectedId").asLong()));
    Object syrup =
        line(
            item,
            expected.get(Long.toString(item)),
            part(10, "A-01", "L1", TODAY.plusDays(100), "SELLABLE"),
            part(4, "A-02", "L2", TODAY.plusDays(50), "SELLABLE"),
            part(2, "", "L2", TODAY.plusDays(50), "DAMAGED"));
    Object books =
        line(other, expected.get(Long.toString(other)), part(6, "", "", null, "SELLABLE"));

    long before = free("BOOK-YEAR");
    Visitor.Answer noLot =
        receive("PO-1", true, line(item, null, part(1, "", "", null, "SELLABLE")), books);
    assertThat(noLot.status()).isEqualTo(422);
    assertThat(noLot.body().path("field").asString()).isEqualTo("lines[0].parts[0].lot");
    assertThat(free("BOOK-YEAR")).as("all of it or nothing").isEqualTo(before);

    JsonNode came = receive("PO-1", true, syrup, books).body();
    assertThat(came.path("lines").get(0).path("expected").asLong()).isEqualTo(20);
    assertThat(came.path("lines").get(0).path("came").asLong()).isEqualTo(16);
    assertThat(came.path("lines").get(0).path("damaged").asLong()).isEqualTo(2);
    assertThat(came.path("lines").get(1).path("came").asLong()).as("one too many").isEqualTo(6);
    assertThat(free("SYRUP-14")).isEqualTo(14);
    assertThat(ahead(item).path("expected").get(0).path("quantity").asLong()).isEqualTo(4);
    assertThat(ahead(other).path("expected").isEmpty()).isTrue();
    assertThat(places(item).valueStream().map(p -> p.path("lot").asString()))
        .as("what goes first above")
        .containsExactly("L2", "L2", "L1");

    assertThat(
            receive(
                    "PO-1",
                    false,
                    line(item, null, part(1, "", "L1", TODAY.plusDays(9), "SELLABLE")))
                .status())
        .as("the lot is known to expire on another day")
        .isEqualTo(422);
    assertThat(
            receive(
                    "PO-1",
                    false,
                    line(item, null, part(1, "", "L9", TODAY.minusDays(1), "SELLABLE")))
                .status())
        .as("it has expired")
        .isEqualTo(422);
  }

  @Test
  void whatExpiresFirstIsSentIfItLastsAfterItArrives() {
    long item = tracked("SYRUP-2", 60);
    came(item, "OLD", 5, TODAY.plusDays(40));
    came(item, "MID", 5, TODAY.plusDays(90));
    came(item, "NEW", 5, TODAY.plusDays(200));
    JsonNode consignment = sent("F1", "SYRUP-2", 6);
    assertThat(held(item)).containsExactly("MID 5", "NEW 1");
    Packer.packAndHandOver(here.world(), order("F1"));
    assertThat(places(item).valueStream().map(p -> p.path("lot").asString()))
        .containsExactly("OLD", "NEW");
    assertThat(consignment.path("units").asLong()).isEqualTo(6);

    here.world().shop().place(Sample.order("F2", "SYRUP-2", 5));
    here.awaitMark("F2", "waiting");
    JsonNode considered =
        here.mara().read("/api/orders/" + order("F2") + "/decisions").get(0).path("considered");
    assertThat(considered.toString())
        .as("five lie there of which the shelf life is too short")
        .contains("\"ruledOut\":\"NO_STOCK\",\"skus\":[\"SYRUP-2\"],\"expiring\":5");
  }

  @Test
  void whatMayNotBeSentIsNowhereOffered() {
    long item = tracked("FONDANT-1", 60);
    came(item, "FONDANT-OLD", 28, TODAY.plusDays(40));
    came(item, "FONDANT-NEW", 41, TODAY.plusDays(200));
    assertThat(free("FONDANT-1")).as("available").isEqualTo(41);
    assertThat(here.world().bean(Items.class).free(List.of(item), Set.of()).get(item))
        .as("what channels are told")
        .isEqualTo(41);
    JsonNode promisable = ahead(item).path("promisable");
    assertThat(promisable.get(0).asLong()).as("can be promised").isEqualTo(41);
    track(item, "EXPIRY", 10);
    assertThat(free("FONDANT-1")).as("less of a life is asked for").isEqualTo(69);
    assertThat(ahead(item).path("promisable").get(0).asLong()).isEqualTo(69);
    assertThat(ahead(item).path("promisable").get(32).asLong())
        .as("the old lot may be sent no longer")
        .isEqualTo(41);
    recall(lot("FONDANT-OLD"), "mould found");
    assertThat(free("FONDANT-1")).isEqualTo(41);
  }

  @Test
  void aRecalledLotGoesToQuarantineAndWhoGotItIsKnown() {
    long item = tracked("PATTY-10", 0);
    came(item, "GOOD", 10, TODAY.plusDays(300));
    came(item, "BAD", 10, TODAY.plusDays(100));
    sent("C1", "PATTY-10", 3);
    Packer.packAndHandOver(here.world(), order("C1"));
    sent("C2", "PATTY-10", 2);
    long lot = lot("BAD");
    JsonNode before = here.mara().read("/api/stock/lots/" + lot);
    assertThat(before.path("holding").size()).isEqualTo(1);
    assertThat(before.path("sent").get(0).path("units").asLong()).isEqualTo(3);
    assertThat(before.path("sent").get(0).path("email").asString())
        .isEqualTo("buyer-C1@buyer.example");

    assertThat(recall(lot, " ")).isEqualTo(422);
    assertThat(recall(lot, "mould found")).isEqualTo(204);
    assertThat(recall(lot, "again")).isEqualTo(409);
    await("the order has the good lot").until(() -> held(item).equals(List.of("GOOD 2")));
    here.awaitStage("C2", "RELEASED");
    JsonNode after = here.mara().read("/api/stock/lots/" + lot);
    assertThat(after.path("holding").isEmpty()).isTrue();
    assertThat(after.path("there").valueStream().map(t -> t.path("state").asString()))
        .containsOnly("QUARANTINE");
    assertThat(after.path("there").get(0).path("units").asLong()).isEqualTo(7);
    assertThat(free("PATTY-10")).isEqualTo(8);
    assertThat(here.mara().raw("/api/stock/lots/" + lot + "/orders.csv").body())
        .contains("buyer-C1@buyer.example")
        .contains(" +31 20 555 0101");
    Object more = line(item, null, part(1, "", "BAD", null, "SELLABLE"));
    assertThat(receive("PO-9", false, more).status()).isEqualTo(422);
    Object aside = line(item, null, part(1, "", "BAD", null, "QUARANTINE"));
    assertThat(receive("PO-9", false, aside).status()).isEqualTo(200);
  }

  @Test
  void whatOneNodeSendsToAnotherIsUnderWayAndComesInThere() {
    long item = tracked("FONDANT-1", 30);
    long book = id("BOOK-RECORD");
    came(item, "T-OLD", 3, TODAY.plusDays(40));
    came(item, "T-NEW", 9, TODAY.plusDays(400));
    long books = free("BOOK-RECORD");
    assertThat(transfer(Map.of("sku", "FONDANT-1", "units", 13)).status()).isEqualTo(422);
    assertThat(transfer(Map.of("sku", "NO-SUCH", "units", 1)).status()).isEqualTo(422);
    Visitor.Answer sent =
        transfer(Map.of("sku", "FONDANT-1", "units", 5), Map.of("sku", "BOOK-RECORD", "units", 2));
    assertThat(sent.status()).isEqualTo(200);
    String number = sent.body().path("number").asString();
    assertThat(free("FONDANT-1")).as("what expires first left first").isEqualTo(7);
    assertThat(free("BOOK-RECORD")).isEqualTo(books - 2);
    JsonNode delivery =
        here.mara()
            .read("/api/stock/deliveries")
            .valueStream()
            .filter(d -> d.path("number").asString().equals(number))
            .findFirst()
            .orElseThrow();
    assertThat(delivery.path("node").asString()).isEqualTo("Ferry Lane");
    assertThat(delivery.path("lines").valueStream().map(l -> l.path("lot").asString("")))
        .containsExactly("", "T-OLD", "T-NEW");
    Object[] lines =
        delivery
            .path("lines")
            .valueStream()
            .map(l ->
                line(
                    l.path("itemId").asLong(),
                    l.path("expectedId").asLong(),
                    part(
                        l.path("quantity").asLong(),
                        "",
                        l.path("lot").asString(""),
                        null,
                        "SELLABLE")))
            .toArray();
    assertThat(receiveAt(here.nodeId("FER"), number, false, lines).status()).isEqualTo(200);
    assertThat(free("FONDANT-1")).isEqualTo(12);
    assertThat(free("BOOK-RECORD")).isEqualTo(books);
    assertThat(
            here.mara()
                .read("/api/stock/movements?item=" + book)
                .path("rows")
                .valueStream()
                .limit(4)
                .map(m -> m.path("reason").asString()))
        .containsExactly("TRANSFER_IN", "TRANSFER_IN", "TRANSFER_OUT", "TRANSFER_OUT");
  }

  @Test
  void whatIsUnderWayIsNeverForgotten() {
    long book = id("BOOK-YEAR");
    receive("PO-8", false, line(book, null, part(10, "", "", null, "SELLABLE")));
    long before = free("BOOK-YEAR");
    long back = underWay(book, 4);
    assertThat(free("BOOK-YEAR")).isEqualTo(before - 4);
    assertThat(states(book)).contains("IN_TRANSIT 4");
    assertThat(here.mara().post("/api/stock/expected/" + back + "/drop", "").status())
        .as("it is somewhere")
        .isEqualTo(409);
    Object more = line(book, back, part(5, "", "", null, "SELLABLE"));
    assertThat(receiveAt(here.nodeId("FER"), "T", false, more).status())
        .as("more than was sent")
        .isEqualTo(422);
    Object there = line(book, back, part(4, "", "", null, "SELLABLE"));
    assertThat(receiveAt(node(), "T", false, there).status()).as("the wrong node").isEqualTo(422);
    assertThat(here.mara().post("/api/stock/expected/" + back + "/come-back", "").status())
        .isEqualTo(204);
    assertThat(free("BOOK-YEAR")).isEqualTo(before);

    long some = underWay(book, 3);
    Object two = line(book, some, part(2, "", "", null, "SELLABLE"));
    assertThat(receiveAt(here.nodeId("FER"), "T", false, two).status()).isEqualTo(200);
    assertThat(free("BOOK-YEAR")).as("one did not arrive").isEqualTo(before - 1);
    assertThat(here.mara().read("/api/stock/movements?item=" + book).toString())
        .contains("TRANSFER_LOST");
    assertThat(receiveAt(here.nodeId("FER"), "T", false, two).status()).as("twice").isEqualTo(422);

    long gone = underWay(book, 1);
    String lost = "/api/stock/expected/" + gone + "/lost";
    assertThat(here.mara().post(lost, Map.of("reason", "")).status()).isEqualTo(422);
    assertThat(here.mara().post(lost, Map.of("reason", "van stolen")).status()).isEqualTo(204);
    assertThat(free("BOOK-YEAR")).isEqualTo(before - 2);
    assertThat(states(book)).doesNotContain("IN_TRANSIT");
  }

  @Test
  void aReceiptIsTakenBackUntilSomethingOfItIsUsed() {
    here.world().scrapAll("BRUSH");
    long brush = id("BRUSH");
    expect(brush, 10, "PO-BACK");
    long supply = expectedBy(brush, "PO-BACK");
    Visitor.Answer came =
        receive("PO-BACK", false, line(brush, supply, part(7, "R-1", "", null, "SELLABLE")));
    assertThat(free("BRUSH")).isEqualTo(7);
    assertThat(ahead(brush).path("expected")).as("no more of it comes").isEmpty();
    assertThat(takeBack(came, "")).isEqualTo(422);
    assertThat(takeBack(came, "counted the wrong pallet")).isEqualTo(204);
    assertThat(free("BRUSH")).isZero();
    assertThat(ahead(brush).path("expected").get(0).path("quantity").asLong()).isEqualTo(10);
    assertThat(takeBack(came, "again")).as("once").isEqualTo(409);
    JsonNode sheet = here.mara().read("/api/stock/receipts/" + receipt(came));
    assertThat(sheet.path("reversed").path("reason").asString())
        .isEqualTo("counted the wrong pallet");

    Visitor.Answer again =
        receive("PO-BACK", true, line(brush, supply, part(4, "R-1", "", null, "SELLABLE")));
    assertThat(ahead(brush).path("expected").get(0).path("quantity").asLong()).isEqualTo(6);
    sent("TB1", "BRUSH", 2);
    assertThat(takeBack(again, "too late")).as("two of it are held").isEqualTo(409);
    assertThat(ahead(brush).path("expected").get(0).path("quantity").asLong()).isEqualTo(6);
  }

  @Test
  void whatCameShortFromAnotherNodeIsUnderWayAgainWhenItsReceiptIsTakenBack() {
    long book = id("BOOK-YEAR");
    receive("PO-9", false, line(book, null, part(10, "", "", null, "SELLABLE")));
    long before = free("BOOK-YEAR");
    long some = underWay(book, 3);
    Object two = line(book, some, part(2, "", "", null, "SELLABLE"));
    Visitor.Answer came = receiveAt(here.nodeId("FER"), "T", false, two);
    assertThat(free("BOOK-YEAR")).isEqualTo(before - 1);
    assertThat(takeBack(came, "the third lay behind the door")).isEqualTo(204);
    assertThat(free("BOOK-YEAR")).isEqualTo(before - 3);
    assertThat(states(book)).contains("IN_TRANSIT 3");
    Object three = line(book, some, part(3, "", "", null, "SELLABLE"));
    assertThat(receiveAt(here.nodeId("FER"), "T", false, three).status()).isEqualTo(200);
    assertThat(free("BOOK-YEAR")).isEqualTo(before);
  }

  @Test
  void theLotThatIsNamedIsSentToTheOtherNode() {
    long item = tracked("SEED-PHAC-100", 0);
    came(item, "L-FIRST", 5, null);
    came(item, "L-SECOND", 5, null);
    Map<String, Object> second = Map.of("sku", "SEED-PHAC-100", "units", 4, "lot", "L-SECOND");
    assertThat(transfer(second).status()).isEqualTo(200);
    assertThat(
            places(item)
                .valueStream()
                .filter(p -> p.path("state").asString().equals("IN_TRANSIT"))
                .map(p -> p.path("lot").asString()))
        .containsExactly("L-SECOND");
    assertThat(transfer(second).status()).as("only one of it is left").isEqualTo(422);
    Map<String, Object> unknown = Map.of("sku", "SEED-PHAC-100", "units", 1, "lot", "L-NONE");
    assertThat(transfer(unknown).body().toString()).contains("lines[0].lot");
  }

  private static int takeBack(Visitor.Answer came, String why) {
    return here.mara()
        .post("/api/stock/receipts/" + receipt(came) + "/reversal", Map.of("reason", why))
        .status();
  }

  private static long receipt(Visitor.Answer came) {
    return came.body().path("id").asLong();
  }

  @Test
  void aLotThatWasRecalledOnItsWayIsNotSoldWhenItComesBack() {
    long item = tracked("FONDANT-12", 0);
    came(item, "ON-ITS-WAY", 5, TODAY.plusDays(300));
    String number =
        transfer(Map.of("sku", "FONDANT-12", "units", 5)).body().path("number").asString();
    assertThat(recall(lot("ON-ITS-WAY"), "mould found")).isEqualTo(204);
    long supply = expectedBy(item, number);
    assertThat(here.mara().post("/api/stock/expected/" + supply + "/come-back", "").status())
        .isEqualTo(204);
    assertThat(free("FONDANT-12")).isZero();
    assertThat(states(item)).contains("QUARANTINE 5");
  }

  /** Sends units on their way, and gives what is expected of them. */
  private static long underWay(long item, long units) {
    String number =
        transfer(Map.of("sku", "BOOK-YEAR", "units", units)).body().path("number").asString();
    return expectedBy(item, number);
  }

  private static long expectedBy(long item, String number) {
    return ahead(item)
        .path("expected")
        .valueStream()
        .filter(e -> e.path("number").asString().equals(number))
        .findFirst()
        .orElseThrow()
        .path("id")
        .asLong();
  }

  private static String states(long item) {
    return places(item)
        .valueStream()
        .map(p -> p.path("state").asString() + " " + p.path("onHand").asLong())
        .toList()
        .toString();
  }

  private static Visitor.Answer transfer(Object... lines) {
    return here.mara()
        .post(
            "/api/stock/transfers",
            Map.of(
                "fromId",
                here.nodeId("STW"),
                "toId",
                here.nodeId("FER"),
                "due",
                TODAY.plusDays(2).toString(),
                "lines",
                List.of(lines)));
  }

  @Test
  void whatExpiresIsTakenOffSale() {
    long item = tracked("SEED-CLOV-100", 0);
    came(item, "SOON", 6, TODAY.plusDays(1));
    assertThat(free("SEED-CLOV-100")).isEqualTo(6);
    here.world()
        .db()
        .update(LOT)
        .set(LOT.EXPIRES, TODAY.minusDays(1))
        .where(LOT.CODE.eq("SOON"))
        .execute();
    assertThat(here.world().bean(LotAging.class).age()).isEqualTo(6);
    assertThat(here.world().bean(LotAging.class).age()).as("once").isZero();
    assertThat(free("SEED-CLOV-100")).isZero();
  }

  @Test
  void aTrackedItemIsCountedLotByLot() {
    long item = tracked("SEED-PHAC-100", 0);
    came(item, "P1", 6, null);
    long place = places(item).get(0).path("id").asLong();
    assertThat(count(item, null, 5).status()).isEqualTo(422);
    assertThat(count(item, place, 5).status()).isEqualTo(200);
    assertThat(free("SEED-PHAC-100")).isEqualTo(5);
  }

  private static Visitor.Answer count(long item, @Nullable Long place, int units) {
    Map<String, Object> counted = new HashMap<>();
    counted.put("nodeId", node());
    counted.put("placeId", place);
    counted.put("reason", "COUNT");
    counted.put("counted", units);
    counted.put("note", "");
    return here.mara().post("/api/stock/items/" + item + "/adjustments", counted);
  }

  private static JsonNode sent(String id, String sku, long units) {
    here.world().shop().place(Sample.order(id, sku, units));
    here.awaitStage(id, "RELEASED");
    return here.mara().read("/api/orders/" + order(id)).path("consignments").get(0);
  }

  private static long order(String external) {
    return here.order(external).path("id").asLong();
  }

  /** Open allocations of an item, as lot and units. */
  private static List<String> held(long item) {
    List<String> held = new ArrayList<>();
    places(item)
        .valueStream()
        .filter(p -> p.path("allocated").asLong() > 0)
        .forEach(p -> held.add(p.path("lot").asString() + " " + p.path("allocated").asLong()));
    return held;
  }

  private static int recall(long lot, String note) {
    return here.mara().post("/api/stock/lots/" + lot + "/recall", Map.of("note", note)).status();
  }

  private static long lot(String code) {
    return here.world()
        .db()
        .select(LOT.ID)
        .from(LOT)
        .where(LOT.CODE.eq(code))
        .fetchSingle()
        .value1();
  }

  /** An item of which nothing is left, tracked by lot and expiry from now on. */
  private static long tracked(String sku, int minLife) {
    long id = id(sku);
    here.world().scrapAll(sku);
    track(id, sku.equals("SEED-PHAC-100") ? "LOT" : "EXPIRY", minLife);
    return id;
  }

  private static void track(long id, String by, int minLife) {
    Map<String, Object> tracking =
        Map.of("by", by, "pick", "FEFO", "oneLot", false, "minLife", minLife);
    assertThat(here.mara().change("PUT", "/api/stock/items/" + id + "/tracking", tracking).status())
        .isEqualTo(204);
  }

  private static void came(long item, String lot, long units, @Nullable LocalDate expires) {
    assertThat(
            receive("PO-7", false, line(item, null, part(units, "", lot, expires, "SELLABLE")))
                .status())
        .isEqualTo(200);
  }

  private static Visitor.Answer receive(String number, boolean restComes, Object... lines) {
    return receiveAt(node(), number, restComes, lines);
  }

  private static Visitor.Answer receiveAt(
      long node, String number, boolean restComes, Object... lines) {
    return here.mara()
        .post(
            "/api/stock/receipts",
            Map.of(
                "nodeId",
                node,
                "supplier",
                "Meadow Seeds",
                "number",
                number,
                "note",
                "",
                "restComes",
                restComes,
                "lines",
                List.of(lines)));
  }

  private static Object line(long item, @Nullable Long expectedId, Object... parts) {
    Map<String, Object> line = new HashMap<>();
    line.put("itemId", item);
    line.put("expectedId", expectedId);
    line.put("parts", List.of(parts));
    return line;
  }

  private static Object part(
      long units, String bin, String lot, @Nullable LocalDate expires, String state) {
    Map<String, Object> part = new HashMap<>();
    part.put("units", units);
    part.put("bin", bin);
    part.put("lot", lot);
    part.put("expires", expires == null ? null : expires.toString());
    part.put("state", state);
    return part;
  }

  private static void expect(long item, long units, String number) {
    Map<String, Object> wish =
        Map.of(
            "nodeId",
            node(),
            "supplier",
            "Meadow Seeds",
            "number",
            number,
            "quantity",
            units,
            "due",
            TODAY.plusDays(3).toString(),
            "confidence",
            100,
            "slipDays",
            0);
    assertThat(here.mara().post("/api/stock/items/" + item + "/expected", wish).status())
        .isEqualTo(201);
  }

  private static JsonNode ahead(long item) {
    return here.mara().read("/api/stock/items/" + item + "/expected");
  }

  private static JsonNode places(long item) {
    return here.mara().read("/api/stock/items/" + item + "/places").path("places");
  }

  private static long free(String sku) {
    return here.mara()
        .read("/api/stock?search=" + sku)
        .path("items")
        .path("rows")
        .get(0)
        .path("available")
        .asLong();
  }

  private static long node() {
    return here.nodeId("STW");
  }

  private static long id(String sku) {
    return here.world()
        .db()
        .select(ITEM.ID)
        .from(ITEM)
        .where(ITEM.SKU.eq(sku))
        .fetchSingle()
        .value1();
  }
}
