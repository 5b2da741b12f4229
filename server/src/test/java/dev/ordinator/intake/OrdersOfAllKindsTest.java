package dev.ordinator.intake;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.STOCK_MOVEMENT;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.standins.Guild;
import dev.ordinator.standins.GuildOrder;
import dev.ordinator.standins.Market;
import dev.ordinator.standins.MarketOrder;
import dev.ordinator.standins.ShopOrder;
import dev.ordinator.stock.LedgerCheck;
import dev.ordinator.stock.StockLedger;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Sample;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** What orders bring with them, from each kind of channel. */
class OrdersOfAllKindsTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @Test
  void aMarketplaceOrderSaysNothingOfTaxAndGetsItFromItemAndDestination() {
    market().place(market().generator().of("K-DE-1", "DE", "TOOL-J", 2));
    JsonNode sheet = sheet("K-DE-1", "RELEASED");
    JsonNode line = sheet.path("lines").get(0);
    long gross = line.path("unitPrice").asLong() * 2;
    assertThat(line.path("tax").asLong())
        .as("19 %% within %d", gross)
        .isEqualTo((2 * gross * 1_900 + 11_900) / (2 * 11_900));
    assertThat(sheet.path("site").asString()).isEqualTo("DE");
    assertThat(sheet.path("team").asString()).isEqualTo("Marketplaces");
    assertThat(sheet.path("order").path("number").asString()).startsWith("KM-");
  }

  @Test
  void basketsAreLeftAloneAndAcceptedOffersWaitForTheirMoney() {
    MarketOrder order = market().generator().of("K-NL-2", "NL", "TOOL-J", 1);
    market().place(order.inState("basket"));
    market().place(market().generator().of("K-NL-3", "NL", "TOOL-J", 1).inState("offer_accepted"));
    here.awaitMark("K-NL-3", "payment awaited");
    assertThat(here.order("K-NL-2").isMissingNode()).as("a basket is no order yet").isTrue();
    market().place(order.inState("ready").inState("ready"));
    here.awaitStage("K-NL-2", "RELEASED");
    market().place(order("K-NL-3").inState("ready"));
    here.awaitStage("K-NL-3", "RELEASED");
  }

  @Test
  void whatTheChannelsDepotSendsIsRecordedAndMovesItsStock() {
    addToDepot("TOOL-J", 10);
    MarketOrder o = market().generator().of("K-NL-4", "NL", "TOOL-J", 3);
    MarketOrder depot =
        new MarketOrder(
            o.orderRef(),
            o.site(),
            o.state(),
            1,
            o.created(),
            o.updated(),
            o.currency(),
            o.customer(),
            o.deliverTo(),
            o.delivery(),
            "depot",
            o.items(),
            o.shippingPrice(),
            o.voucher(),
            o.grandTotal(),
            o.paidWith(),
            List.of());
    market().place(depot);
    await("it is recorded")
        .until(() -> here.order("K-NL-4").path("stage").asString("").equals("RECEIVED"));
    String its = "/api/orders/" + here.order("K-NL-4").path("id").asLong();
    Map<String, Object> why = Map.of("reason", "wait");
    assertThat(here.mara().post(its + "/hold", why).status())
        .as("the depot packs it")
        .isEqualTo(409);
    assertThat(here.mara().post(its + "/cancel", why).status()).isEqualTo(409);
    assertThat(here.mara().change("PUT", its + "/address", Sample.HOME).status()).isEqualTo(409);
    market().place(order("K-NL-4").sentFromDepot("KD-1", Instant.now()));
    JsonNode sheet = sheet("K-NL-4", "SHIPPED");
    assertThat(sheet.path("consignments").get(0).path("node").asString())
        .isEqualTo("Kestrel depot");
    assertThat(
            here.world()
                .db()
                .select(STOCK_MOVEMENT.QUANTITY)
                .from(STOCK_MOVEMENT)
                .where(STOCK_MOVEMENT.REASON.eq("CHANNEL_SHIPPED"))
                .fetch(STOCK_MOVEMENT.QUANTITY))
        .containsExactly(-3L);
    assertThat(market().told().shipmentsOf("K-NL-4")).as("it knows").isEmpty();
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
  }

  @Test
  void aWholesaleOrderHasItsDiscountsInPerCentAndIsPaidLater() {
    GuildOrder plain = guild().of("G-1", "TOOL-J", 10, "EUR", Instant.now());
    guild().place(plain);
    JsonNode sheet = sheet("G-1", "RELEASED");
    JsonNode line = sheet.path("lines").get(0);
    long goods = line.path("unitPrice").asLong() * 10;
    assertThat(line.path("discount").asLong()).as("5 %%").isEqualTo((goods * 5 + 50) / 100);
    assertThat(sheet.path("figures").path("payWithinDays").asInt()).isEqualTo(30);
    assertThat(sheet.path("figures").path("pricesWithTax").asBoolean()).isFalse();
    assertThat(sheet.path("order").path("total").asLong())
        .as("goods less discount, freight, and tax on freight: the portal sends none on goods")
        .isEqualTo(
            goods
                - line.path("discount").asLong()
                + 3_500
                + sheet.path("figures").path("tax").asLong());
  }

  @Test
  void foreignCurrenciesNeedTheRateOfTheirDayAndKeepIt() {
    Instant then = Instant.now().minusSeconds(86_400L * 400);
    guild().place(guild().of("G-2", "TOOL-J", 2, "CHF", then));
    JsonNode stuck = here.awaitMark("G-2", "no exchange rate");
    assertThat(stuck.path("baseTotal").asLong()).isZero();
    String day = then.toString().substring(0, 10);
    assertThat(csv("currency,day,rate\nCHF," + day + ",nothing\n")).isEqualTo(422);
    assertThat(csv("currency,day,rate\nCHF," + day + ",1.25\n")).isEqualTo(200);
    JsonNode sheet = sheet("G-2", "RELEASED");
    long total = sheet.path("order").path("total").asLong();
    assertThat(sheet.path("figures").path("baseTotal").asLong())
        .isBetween(total * 125 / 100, total * 125 / 100 + 1);
  }

  @Test
  void textsFilesTendersAndThePickUpStoreComeWithTheOrder() {
    ShopOrder o = Sample.order("W-1", "TOOL-J", 1);
    ShopOrder.Line l = o.lines().getFirst();
    here.world()
        .shop()
        .place(
            new ShopOrder(
                o.id(),
                1,
                "open",
                o.placedAt(),
                "EUR",
                o.buyer(),
                o.shipTo(),
                "",
                null,
                "CAN",
                o.payment(),
                List.of(
                    new ShopOrder.Tender("voucher", "4.00", "V-7"),
                    new ShopOrder.Tender("card", "6.00", "")),
                "0.00",
                "0.00",
                "10.00",
                "",
                "",
                List.of(
                    new ShopOrder.Line(
                        l.id(),
                        l.productId(),
                        l.sku(),
                        l.gtin(),
                        l.title(),
                        1,
                        0,
                        l.unitPrice(),
                        "0.00",
                        List.of(
                            new ShopOrder.Wish("label", "Ilse's honey", ""),
                            new ShopOrder.Wish("logo", "", "https://shop.example/logo.svg"))))));
    JsonNode sheet = sheet("W-1", "RELEASED");
    assertThat(sheet.path("consignments").get(0).path("node").asString())
        .as("where the buyer collects it")
        .isEqualTo("Canal Row");
    assertThat(sheet.path("lines").get(0).path("wishes").toString())
        .contains("Ilse's honey", "https://shop.example/logo.svg");
    assertThat(sheet.path("figures").path("tenders").toString()).contains("voucher", "400", "600");
  }

  private static Market market() {
    return here.world().standIns().market();
  }

  private static Guild guild() {
    return here.world().standIns().guild();
  }

  private static MarketOrder order(String ref) {
    return market().orders().stream()
        .filter(o -> o.orderRef().equals(ref))
        .findFirst()
        .orElseThrow();
  }

  private static JsonNode sheet(String externalId, String stage) {
    return here.mara()
        .read("/api/orders/" + here.awaitStage(externalId, stage).path("id").asLong());
  }

  private static int csv(String rates) {
    return here.mara().postText("/api/rates", "text/csv", rates).status();
  }

  @Test
  void discountsThatAreWithinThePricesAreNotTakenTwice() {
    discountsWithin(true);
    try {
      ShopOrder order = Sample.order("DW1", "TOOL-J", 2);
      ShopOrder.Line l = order.lines().getFirst();
      here.world()
          .shop()
          .place(
              order
                  .withLines(
                      List.of(
                          new ShopOrder.Line(
                              l.id(),
                              l.productId(),
                              l.sku(),
                              l.gtin(),
                              l.title(),
                              2,
                              l.unitPrice(),
                              "3.00")))
                  .withTotal("20.00"));
      long id = here.awaitStage("DW1", "RELEASED").path("id").asLong();
      JsonNode sheet = here.mara().read("/api/orders/" + id);
      assertThat(sheet.path("lines").get(0).path("discount").asLong()).isZero();
      assertThat(sheet.path("order").path("total").asLong()).isEqualTo(2000);
      assertThat(sheet.path("timeline").toString()).doesNotContain("its parts add up to");
    } finally {
      discountsWithin(false);
    }
  }

  private static void discountsWithin(boolean whether) {
    here.world()
        .db()
        .execute(
            "update channel set terms = json_set(terms, '$.discountsWithin', "
                + whether
                + ") where code = 'WEB'");
  }

  private static void addToDepot(String sku, long units) {
    var db = here.world().db();
    long item = db.select(ITEM.ID).from(ITEM).where(ITEM.SKU.eq(sku)).fetchSingle().value1();
    long node = db.select(NODE.ID).from(NODE).where(NODE.CODE.eq("KES")).fetchSingle().value1();
    here.world()
        .bean(StockLedger.class)
        .adjust(item, node, units, StockLedger.Reason.RECEIPT, "Joss", "");
  }
}
