package dev.ordinator.suppliers;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static dev.ordinator.schema.Tables.SUPPLIER;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.stock.Items;
import dev.ordinator.stock.LedgerCheck;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Packer;
import dev.ordinator.testing.Sample;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jooq.DSLContext;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** What a supplier has that sends by itself. */
class SupplierStockTest {
  private static final String HEAD = "code,title,gtin,price,available\n";

  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @AfterAll
  static void levelsAreStillWhatTheLedgerSays() {
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
  }

  @Test
  void whatASupplierHasIsPromisedRoutedAndBought() {
    long oakum = supplier("OAKUM");
    here.world().scrapAll("HP-NUC-6");
    take(oakum, HEAD + "OJ-9,Nucleus box," + gtin("HP-NUC-6") + ",31.00,7\n");
    assertThat(free("HP-NUC-6")).isEqualTo(7);

    here.world().shop().place(Sample.order("S1", "HP-NUC-6", 2));
    long order = here.awaitStage("S1", "RELEASED").path("id").asLong();
    JsonNode sheet = here.mara().read("/api/orders/" + order);
    assertThat(sheet.path("consignments").get(0).path("node").asString())
        .isEqualTo("Oakum Joinery");
    JsonNode priced =
        here.mara()
            .read("/api/orders/" + order + "/decisions")
            .get(0)
            .path("considered")
            .valueStream()
            .filter(c -> c.path("node").asString().equals("OAK") && c.path("ruledOut").isNull())
            .findFirst()
            .orElseThrow();
    assertThat(priced.path("purchase").asLong()).isEqualTo(6200);
    assertThat(free("HP-NUC-6")).isEqualTo(5);

    take(oakum, HEAD + "OJ-9,Nucleus box," + gtin("HP-NUC-6") + ",31.00,1\n");
    assertThat(free("HP-NUC-6")).as("what it holds for us is not given twice").isZero();
    Packer.packAndHandOver(here.world(), order);
    assertThat(level("HP-NUC-6")).isZero();
    take(oakum, HEAD + "OJ-9,Nucleus box," + gtin("HP-NUC-6") + ",31.00,4\n");
    assertThat(free("HP-NUC-6")).isEqualTo(4);
  }

  @Test
  void oneCodeOfTwoSuppliersIsTwoThingsAndEachSupplierCostsItsOwnPrice() {
    long oakum = supplier("OAKUM");
    long quill = supplier("QUILL");
    here.world().scrapAll("HP-FEED-TOP");
    take(oakum, HEAD + "1001,Top feeder," + gtin("HP-FEED-TOP") + ",20.00,9\n");
    take(quill, HEAD + "1001,Quill pen,,1.00,50\n");
    assertThat(free("HP-FEED-TOP")).as("a pen is no feeder").isEqualTo(9);
    assertThat(cost("HP-FEED-TOP")).isEqualTo(2000);

    take(quill, HEAD + "1001,Quill pen,,1.00,50\n7,Feeder," + gtin("HP-FEED-TOP") + ",12.00,5\n");
    assertThat(free("HP-FEED-TOP")).isEqualTo(14);
    here.world().shop().place(Sample.order("S9", "HP-FEED-TOP", 2));
    long order = here.awaitStage("S9", "RELEASED").path("id").asLong();
    Map<String, Long> purchase = new HashMap<>();
    here.mara()
        .read("/api/orders/" + order + "/decisions")
        .get(0)
        .path("considered")
        .forEach(c -> {
          if (c.path("ruledOut").isNull()) {
            purchase.put(c.path("node").asString(), c.path("purchase").asLong());
          }
        });
    assertThat(purchase).containsEntry("OAK", 4000L).containsValue(2400L);
  }

  private static long cost(String sku) {
    return db().select(ITEM.COST).from(ITEM).where(ITEM.SKU.eq(sku)).fetchSingle().value1();
  }

  @Test
  void aFileWithMoreWakesTheOrdersThatWait() {
    long quill = supplier("QUILL");
    here.world().scrapAll("BOOK-RECORD");
    here.world().shop().place(Sample.order("S2", "BOOK-RECORD", 1));
    here.awaitMark("S2", "waiting for stock");
    take(quill, HEAD + "Q1,Hive record book," + gtin("BOOK-RECORD") + ",4.00,3\n");
    here.awaitStage("S2", "RELEASED");
  }

  @Test
  void whatWasSaidTooLongAgoCountsAsNone() {
    long quill = supplier("QUILL");
    here.world().scrapAll("LBL-PLAIN");
    take(quill, HEAD + "Q2,Labels," + gtin("LBL-PLAIN") + ",4.00,30\n");
    assertThat(free("LBL-PLAIN")).isEqualTo(30);
    db().update(SUPPLIER)
        .set(SUPPLIER.READ_AT, Instant.now().minus(Duration.ofDays(91)))
        .where(SUPPLIER.ID.eq(quill))
        .execute();
    here.world().bean(SupplierAging.class).age();
    assertThat(free("LBL-PLAIN")).isZero();
    long node =
        Objects.requireNonNull(here.world().bean(SupplierOffers.class).byId(quill).nodeId());
    Map<String, Long> longer = Map.of("nodeId", node, "freshDays", 120L);
    assertThat(here.mara().change("PUT", "/api/suppliers/" + quill + "/sending", longer).status())
        .isEqualTo(204);
    assertThat(free("LBL-PLAIN")).as("it is taken at its word for longer").isEqualTo(30);
  }

  @Test
  void onlyASuppliersNodeAndOnlyOneSupplierEach() {
    long quill = supplier("QUILL");
    long stillwater = node("STW");
    long oakum = node("OAK");
    assertThat(sending(quill, stillwater)).isEqualTo(422);
    assertThat(sending(quill, oakum)).isEqualTo(409);
  }

  private static int sending(long supplier, long node) {
    return here.mara()
        .change(
            "PUT",
            "/api/suppliers/" + supplier + "/sending",
            Map.of("nodeId", node, "freshDays", 90))
        .status();
  }

  private static DSLContext db() {
    return here.world().db();
  }

  private static long supplier(String code) {
    return db().select(SUPPLIER.ID)
        .from(SUPPLIER)
        .where(SUPPLIER.CODE.eq(code))
        .fetchSingle()
        .value1();
  }

  private static long node(String code) {
    return db().select(NODE.ID).from(NODE).where(NODE.CODE.eq(code)).fetchSingle().value1();
  }

  private static String gtin(String sku) {
    return db().select(ITEM.GTIN).from(ITEM).where(ITEM.SKU.eq(sku)).fetchSingle().value1();
  }

  private static long id(String sku) {
    return db().select(ITEM.ID).from(ITEM).where(ITEM.SKU.eq(sku)).fetchSingle().value1();
  }

  private static long free(String sku) {
    return here.world()
        .bean(Items.class)
        .free(List.of(id(sku)), Set.of())
        .getOrDefault(id(sku), 0L);
  }

  private static long level(String sku) {
    return db().select(STOCK_LEVEL.ON_HAND)
        .from(STOCK_LEVEL)
        .where(STOCK_LEVEL.ITEM_ID.eq(id(sku)))
        .and(STOCK_LEVEL.NODE_ID.eq(node("OAK")))
        .fetchSingle()
        .value1();
  }

  private static void take(long supplier, String csv) {
    assertThat(
            here.mara()
                .postBytes(
                    "/api/suppliers/" + supplier + "/offers", csv.getBytes(StandardCharsets.UTF_8))
                .status())
        .isEqualTo(200);
  }
}
