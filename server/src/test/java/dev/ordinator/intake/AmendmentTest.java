package dev.ordinator.intake;

import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.schema.Tables.SNAG;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.ordinator.core.orders.Address;
import dev.ordinator.orders.Orders;
import dev.ordinator.standins.ShopOrder;
import dev.ordinator.standins.Told;
import dev.ordinator.stock.LedgerCheck;
import dev.ordinator.stock.StockLedger;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Packer;
import dev.ordinator.testing.Sample;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Orders that change, or are cancelled, after they were taken in. */
class AmendmentTest {
  private static final ShopOrder.ShipTo HOME = Sample.order("x").shipTo();
  private static final ShopOrder.ShipTo AWAY =
      new ShopOrder.ShipTo("Ilse Verbruggen", "Molenkade 3", "9711 AA", "Groningen", "NL");

  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @AfterAll
  static void levelsAreStillWhatTheLedgerSays() {
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
  }

  @Test
  void aChangeBeforeReleaseIsFollowed() {
    here.world().shop().place(Sample.order("A1", "TOOL-J", 1, HOME, "unpaid", ""));
    long id = here.awaitMark("A1", "payment awaited").path("id").asLong();
    here.world().shop().change("A1", o -> o.withLines(lines(o, 4)).movedTo(AWAY));
    await("it is ours too")
        .until(() -> sheet(id).path("shipTo").path("city").asString().equals("Groningen"));
    assertThat(sheet(id).path("lines").get(0).path("quantity").asLong()).isEqualTo(4);
    assertThat(sheet(id).path("timeline").toString())
        .contains("Lindepad 12, 1012 AB Amsterdam, NL → Molenkade 3, 9711 AA Groningen, NL")
        .contains("1 × Listing of TOOL-J at 10.00 EUR → 4 × Listing of TOOL-J");
    here.world().shop().pay("A1");
    here.awaitStage("A1", "RELEASED");
    assertThat(sheet(id).path("consignments").get(0).path("units").asLong()).isEqualTo(4);
  }

  @Test
  void aChangeAfterReleaseWaitsForAPersonWhoSeesTheDifference() {
    long id = released("A2", 1);
    here.world().shop().change("A2", o -> o.withLines(lines(o, 3)));
    here.awaitMark("A2", "changed by channel");
    JsonNode change = sheet(id).path("amendments").get(0).path("changes").get(0);
    assertThat(change.path("before").asString()).isEqualTo("1 × Listing of TOOL-J at 10.00 EUR");
    assertThat(change.path("after").asString()).isEqualTo("3 × Listing of TOOL-J at 10.00 EUR");

    assertThat(post(id, "keep-ours")).isEqualTo(204);
    assertThat(sheet(id).path("amendments").isEmpty()).isTrue();
    assertThat(sheet(id).path("order").path("units").asLong()).isEqualTo(1);
    assertThat(post(id, "keep-ours")).as("it is settled").isEqualTo(409);
    await("the channel hears of it")
        .until(() -> sheet(id).path("timeline").toString().contains("web shop told: "));
    assertThat(here.world().shop().told().objections())
        .extracting(Told.Objection::about)
        .containsExactly("change");
  }

  @Test
  void theirsCanBeTakenAsLongAsNothingHasLeft() {
    long id = released("A3", 1);
    here.world().shop().change("A3", o -> o.withLines(lines(o, 2)));
    here.awaitMark("A3", "changed by channel");
    assertThat(post(id, "take-theirs")).isEqualTo(204);
    await("it is routed anew")
        .until(() -> sheet(id).path("consignments").size() == 2 && stage(id).equals("RELEASED"));
    assertThat(sheet(id).path("consignments").get(0).path("state").asString())
        .isEqualTo("RECALLED");
    assertThat(sheet(id).path("consignments").get(1).path("units").asLong()).isEqualTo(2);

    here.world().shop().change("A3", o -> o.movedTo(AWAY));
    here.awaitMark("A3", "changed by channel");
    String bench = bench(id, 1);
    String sku = sheet(id).path("lines").get(0).path("sku").asString();
    assertThat(here.mara().post(bench + "/scans", Map.of("code", sku)).status())
        .as("nobody packs what is about to change")
        .isEqualTo(409);
    assertThat(post(id, "keep-ours")).isEqualTo(204);
    assertThat(sheet(id).path("timeline").toString()).contains("Kept as it was taken in");
    Packer.packAndHandOver(here.world(), id);
    here.world().shop().change("A3", o -> o.movedTo(HOME).movedTo(AWAY).withGift("Enjoy"));
    await("what has nothing to do with parcels is followed")
        .until(() -> sheet(id).path("giftMessage").asString().equals("Enjoy"));
    assertThat(sheet(id).path("shipTo").path("city").asString())
        .as("the address that was kept stays")
        .isEqualTo("Amsterdam");
    assertThat(sheet(id).path("amendments").isEmpty()).isTrue();
  }

  @Test
  void whoCorrectsAnAddressMustHaveSeenTheOneThatIsThere() {
    here.world().shop().place(Sample.order("A14", "TOOL-J", 1, HOME, "unpaid", ""));
    long id = here.awaitMark("A14", "payment awaited").path("id").asLong();
    String seen = sheet(id).path("shipToTag").asString();
    here.world().shop().change("A14", o -> o.movedTo(AWAY));
    await("the channel moves it")
        .until(() -> sheet(id).path("shipTo").path("city").asString().equals("Groningen"));
    Orders orders = here.world().bean(Orders.class);
    Address third = new Address("Ilse", "Kade 1", "1012 AB", "Amsterdam", "NL");
    assertThatThrownBy(() -> orders.correctAddress(id, third, seen, "Mara"))
        .hasMessageContaining("changed this meanwhile");
    orders.correctAddress(id, third, sheet(id).path("shipToTag").asString(), "Mara");
    assertThat(sheet(id).path("shipTo").path("street").asString()).isEqualTo("Kade 1");
  }

  @Test
  void aGiftMessageTouchesNothingElse() {
    here.world().shop().place(Sample.order("A9", "TOOL-J", 3, HOME, "unpaid", ""));
    long id = here.awaitMark("A9", "payment awaited").path("id").asLong();
    assertThat(
            here.mara()
                .change(
                    "PUT",
                    "/api/orders/" + id + "/address",
                    Map.of(
                        "name", "Ilse Verbruggen",
                        "street", "Lindepad 12a",
                        "postcode", "1012 AB",
                        "city", "Amsterdam",
                        "country", "NL"))
                .status())
        .isEqualTo(204);
    here.world().shop().change("A9", o -> o.withGift("Enjoy"));
    await("the message is ours").until(() -> gift(id).equals("Enjoy"));
    assertThat(sheet(id).path("shipTo").path("street").asString())
        .as("our people had corrected it")
        .isEqualTo("Lindepad 12a");
    here.world().shop().pay("A9");
    here.awaitStage("A9", "RELEASED");
    Packer.scanAll(here.mara(), bench(id, 0));
    here.world().shop().change("A9", o -> o.withGift("Enjoy it"));
    await("the message is ours").until(() -> gift(id).equals("Enjoy it"));
    assertThat(sheet(id).path("consignments").size()).as("nothing is called back").isEqualTo(1);
    assertThat(sheet(id).path("snags").isEmpty()).isTrue();
  }

  @Test
  void unitsThatHaveLeftAreNotUnorderedButProposedAsAReturn() {
    long id = released("A10", 3);
    Packer.packAndHandOver(here.world(), id);
    here.world().shop().change("A10", o -> o.withLines(lines(o, 1)));
    here.awaitMark("A10", "sent, not wanted");
    JsonNode snag = sheet(id).path("snags").get(0);
    assertThat(snag.path("detail").asString()).contains("2 × Listing of TOOL-J");
    assertThat(sheet(id).path("order").path("units").asLong()).as("they are sold").isEqualTo(3);
    assertThat(post(id, "let-be")).isEqualTo(204);
    assertThat(sheet(id).path("snags").isEmpty()).isTrue();
    here.world().shop().place(Sample.order("A11", "TOOL-J", 1));
    here.awaitStage("A11", "RELEASED");
  }

  @Test
  void anOrderThatIsWantedAgainGoesOn() {
    long id = released("A12", 2);
    here.world().shop().change("A12", ShopOrder::cancelled);
    here.awaitStage("A12", "CANCELLED");
    here.world().shop().change("A12", ShopOrder::reopened);
    here.awaitStage("A12", "RELEASED");
    assertThat(sheet(id).path("order").path("units").asLong()).isEqualTo(2);
  }

  @Test
  void whatOurPeopleCancelledDoesNotComeBackWithoutThem() {
    long id = released("A15", 2);
    assertThat(
            here.mara()
                .post("/api/orders/" + id + "/cancel", Map.of("reason", "by telephone"))
                .status())
        .isEqualTo(204);
    here.world().shop().change("A15", ShopOrder::cancelled);
    await("the shop agrees").until(() -> state(id).equals("cancelled"));
    here.world().shop().change("A15", ShopOrder::reopened);
    here.awaitMark("A15", "changed by channel");
    assertThat(stage(id)).isEqualTo("CANCELLED");
    assertThat(post(id, "take-theirs")).isEqualTo(204);
    here.awaitStage("A15", "RELEASED");
  }

  @Test
  void theRestOfAnOrderThatIsWantedAgainGoesOnThoughAPartHasLeft() {
    long id = released("A16", 1);
    Packer.packAndHandOver(here.world(), id);
    here.world().shop().change("A16", o -> o.withLines(twoLines(o)));
    await("the second line is ours").until(() -> sheet(id).path("lines").size() == 2);
    here.world().shop().change("A16", ShopOrder::cancelled);
    here.awaitMark("A16", "sent, not wanted");
    await("what had not left is cancelled")
        .until(() -> sheet(id).path("order").path("units").asLong() == 1);
    here.world().shop().change("A16", ShopOrder::reopened);
    await("it is wanted again").until(() -> sheet(id).path("order").path("units").asLong() == 4);
  }

  @Test
  void aPaymentThatIsTakenBackStopsThePacker() {
    long id = released("A13", 1);
    here.world().shop().change("A13", ShopOrder::unpaid);
    await("it is held")
        .until(() -> sheet(id).path("order").path("marks").toString().contains("HELD"));
    String sku = sheet(id).path("lines").get(0).path("sku").asString();
    assertThat(here.mara().post(bench(id, 0) + "/scans", Map.of("code", sku)).status())
        .isEqualTo(409);
    here.world().shop().pay("A13");
    await("it goes on")
        .until(() -> !sheet(id).path("order").path("marks").toString().contains("HELD"));
    Packer.packAndHandOver(here.world(), id);
  }

  private static String gift(long id) {
    return sheet(id).path("giftMessage").asString();
  }

  private static String bench(long id, int consignment) {
    return "/api/dispatch/consignments/"
        + sheet(id).path("consignments").get(consignment).path("id").asLong();
  }

  @Test
  void aChangeThatIsTakenBackAsksNobodyAnyMore() {
    long id = released("A4", 1);
    here.world().shop().change("A4", o -> o.movedTo(AWAY));
    here.awaitMark("A4", "changed by channel");
    here.world().shop().change("A4", o -> o.movedTo(HOME));
    await("the snag is gone").until(() -> sheet(id).path("snags").isEmpty());
  }

  @Test
  void someUnitsAreCancelledBeforeRelease() {
    here.world().shop().place(Sample.order("A5", "TOOL-J", 5, HOME, "unpaid", ""));
    long id = here.awaitMark("A5", "payment awaited").path("id").asLong();
    here.world().shop().change("A5", o -> o.without("1", 2));
    await("three are left")
        .until(() -> sheet(id).path("lines").get(0).path("cancelled").asLong() == 2);
    here.world().shop().pay("A5");
    here.awaitStage("A5", "RELEASED");
    assertThat(sheet(id).path("consignments").get(0).path("units").asLong()).isEqualTo(3);
  }

  @Test
  void aCancelledOrderIsFreedAtOnceUnlessSomebodyPacksIt() {
    released("A6", 1);
    here.world().shop().change("A6", ShopOrder::cancelled);
    here.awaitStage("A6", "CANCELLED");

    long id = released("A7", 2);
    JsonNode consignment = sheet(id).path("consignments").get(0);
    Packer.scanAll(here.mara(), "/api/dispatch/consignments/" + consignment.path("id").asLong());
    here.world().shop().change("A7", ShopOrder::cancelled);
    here.awaitMark("A7", "cancelled by channel");
    assertThat(stage(id)).isEqualTo("RELEASED");
    assertThat(post(id, "take-back")).isEqualTo(204);
    here.awaitStage("A7", "CANCELLED");
    assertThat(
            here.world()
                .db()
                .select(SNAG.CAUSE)
                .from(SNAG)
                .where(SNAG.CLOSED_AT.isNull())
                .and(SNAG.ORDER_ID.eq(id))
                .fetch(SNAG.CAUSE))
        .as("but what came in for it")
        .containsExactly("MONEY_TO_RETURN");
  }

  @Test
  void whatANodeGivesBackWhileAPersonIsAskedIsStoppedWhereItGoesNext() {
    here.world()
        .bean(StockLedger.class)
        .adjust(
            here.itemId("TOOL-J"), here.nodeId("CAN"), 9, StockLedger.Reason.RECEIPT, "test", "");
    long id = released("A26", 1);
    here.world().shop().change("A26", o -> o.movedTo(AWAY));
    here.awaitMark("A26", "changed by channel");
    refuse(id);
    await("another node is asked")
        .until(() -> sheet(id).path("consignments").size() == 2 && stage(id).equals("RELEASED"));
    JsonNode second = sheet(id).path("consignments").get(1);
    String bench = "/api/dispatch/consignments/" + second.path("id").asLong();
    assertThat(here.mara().post(bench + "/scans", Map.of("code", "TOOL-J")).status())
        .as("it would go to the old address")
        .isEqualTo(409);
  }

  @Test
  void whatANodeGivesBackOfACancelledOrderIsSentByNobody() {
    long id = released("A27", 2);
    JsonNode consignment = sheet(id).path("consignments").get(0);
    String bench = "/api/dispatch/consignments/" + consignment.path("id").asLong();
    assertThat(here.mara().post(bench + "/scans", Map.of("code", "TOOL-J")).status())
        .isEqualTo(200);
    here.world().shop().change("A27", ShopOrder::cancelled);
    here.awaitMark("A27", "cancelled by channel");
    refuse(id);
    here.awaitStage("A27", "CANCELLED");
    assertThat(post(id, "let-go")).as("nobody is asked any more").isEqualTo(409);
  }

  private static void refuse(long id) {
    JsonNode consignment = sheet(id).path("consignments").get(0);
    assertThat(
            here.mara()
                .post(
                    "/api/dispatch/consignments/" + consignment.path("id").asLong() + "/refusal",
                    Map.of("reason", "NO_TIME", "missing", Map.of(), "note", ""))
                .status())
        .isEqualTo(204);
  }

  @Test
  void whatWasCancelledTooLateIsSaid() {
    long id = released("A8", 1);
    Packer.packAndHandOver(here.world(), id);
    here.world().shop().change("A8", ShopOrder::cancelled);
    here.awaitMark("A8", "sent, not wanted");
    assertThat(post(id, "take-back")).isEqualTo(409);
    assertThat(
            here.mara()
                .post(
                    "/api/orders/" + id + "/returns",
                    Map.of("reason", "UNWANTED", "note", "", "units", returnable(id)))
                .status())
        .isEqualTo(201);
    assertThat(sheet(id).path("snags").isEmpty()).as("what comes back is opened").isTrue();
  }

  /** All that was sent, by its line. */
  private static Map<String, Long> returnable(long id) {
    Map<String, Long> units = new HashMap<>();
    here.mara()
        .read("/api/orders/" + id + "/returnable")
        .path("lines")
        .forEach(line -> units.put(line.path("id").asString(), line.path("left").asLong()));
    return units;
  }

  private static long released(String id, long units) {
    here.world().shop().place(Sample.order(id, "TOOL-J", units, HOME, "paid", ""));
    return here.awaitStage(id, "RELEASED").path("id").asLong();
  }

  private static List<ShopOrder.Line> lines(ShopOrder order, long units) {
    ShopOrder.Line l = order.lines().getFirst();
    return List.of(
        new ShopOrder.Line(
            l.id(), l.productId(), l.sku(), l.gtin(), l.title(), units, l.unitPrice(), "0.00"));
  }

  /** The order's line as it is, and three more of it as a line of its own. */
  private static List<ShopOrder.Line> twoLines(ShopOrder order) {
    ShopOrder.Line l = order.lines().getFirst();
    return List.of(
        l,
        new ShopOrder.Line(
            "2", l.productId(), l.sku(), l.gtin(), l.title(), 3, l.unitPrice(), "0.00"));
  }

  private static JsonNode sheet(long id) {
    return here.mara().read("/api/orders/" + id);
  }

  private static int post(long id, String what) {
    return here.mara().post("/api/orders/" + id + "/" + what, "").status();
  }

  private static String state(long id) {
    return here.world()
        .db()
        .select(SALES_ORDER.EXTERNAL_STATE)
        .from(SALES_ORDER)
        .where(SALES_ORDER.ID.eq(id))
        .fetchSingle()
        .value1();
  }

  private static String stage(long id) {
    return here.world()
        .db()
        .select(SALES_ORDER.STAGE)
        .from(SALES_ORDER)
        .where(SALES_ORDER.ID.eq(id))
        .fetchSingle()
        .value1();
  }
}
