package dev.ordinator.suppliers;

import static dev.ordinator.schema.Tables.ITEM;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Visitor;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** What suppliers offer, as their files say. */
class SupplierOffersTest {
  private static final String HEAD = "code,title,gtin,price,available\n";

  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @Test
  void aFileIsLookedAtFirstAndABadRowKeepsNoOtherBack() {
    long id = supplier("LOOK");
    String file =
        HEAD
            + "A1,Comb honey cutter,,12.50,30\n"
            + "A2,Pollen trap,8712340050813,x,30\n"
            + "A3,Pollen trap,123,9.00,30\n"
            + "A4,Pollen trap,,9.005,30\n"
            + "A5,Pollen trap,,9.00,-2\n"
            + "A1,Comb honey cutter again,,12.50,30\n"
            + ",No code,,12.50,30\n";
    JsonNode seen = check(id, file);
    assertThat(seen.path("rows").asInt()).isEqualTo(1);
    assertThat(seen.path("refused").valueStream().map(r -> r.path("row").asInt()))
        .containsExactly(3, 4, 5, 6, 7, 8);
    assertThat(offers(id)).as("nothing is taken by looking").isEmpty();
    assertThat(take(id, file).path("changed").asInt()).isEqualTo(1);
    assertThat(offers(id)).hasSize(1);
    assertThat(take(id, file).path("changed").asInt()).as("again changes nothing").isZero();
    assertThat(post(id, "/offers/check", "code;title\n").status()).isEqualTo(422);
  }

  @Test
  void aFileOfAnOfficeProgramIsReadAsItIsWritten() {
    long id = supplier("OFFICE");
    String file =
        "Our offers\n\nAvailable;Price;Name;Code\n12;1.234,50;Press;P-1\n3;9,90;Tap;P-2\n";
    take(id, file);
    assertThat(offers(id).valueStream().map(o -> o.path("price").asLong()))
        .containsExactlyInAnyOrder(123_450L, 990L);
  }

  @Test
  void whatIsNoLongerInTheFileCountsAsNoneAndComesBackWithIt() {
    long id = supplier("GONE");
    take(id, HEAD + "B1,Wax sheet,,2.00,30\nB2,Wax block,,8.00,5\n");
    JsonNode seen = check(id, HEAD + "B1,Wax sheet,,2.20,30\n");
    assertThat(seen.path("changes").valueStream().map(c -> c.path("kind").asString()))
        .containsExactlyInAnyOrder("CHANGED", "GONE");
    take(id, HEAD + "B1,Wax sheet,,2.20,30\n");
    assertThat(offers(id).get(1).path("available").asLong()).isZero();
    take(id, HEAD + "B1,Wax sheet,,2.20,30\nB2,Wax block,,8.00,7\n");
    assertThat(offers(id).get(1).path("available").asLong()).isEqualTo(7);
  }

  @Test
  void aNewPriceIsWhatTheItemCostsUnlessAnotherSellsItToo() {
    String gtin =
        here.world()
            .db()
            .select(ITEM.GTIN)
            .from(ITEM)
            .where(ITEM.SKU.eq("BOOK-YEAR"))
            .fetchSingle()
            .value1();
    long one = supplier("ONE");
    take(one, HEAD + "C1,The beekeeping year," + gtin + ",11.11,30\n");
    assertThat(offers(one).get(0).path("sku").asString()).isEqualTo("BOOK-YEAR");
    assertThat(cost("BOOK-YEAR")).isEqualTo(1111);
    take(one, HEAD + "C1,The beekeeping year," + gtin + ",12.12,30\n");
    assertThat(cost("BOOK-YEAR")).isEqualTo(1212);
    long two = supplier("TWO");
    take(two, HEAD + "X9,The beekeeping year," + gtin + ",9.99,30\n");
    assertThat(cost("BOOK-YEAR")).as("a person chooses between two").isEqualTo(1212);
  }

  private static long supplier(String code) {
    Visitor.Answer added =
        here.mara()
            .post(
                "/api/suppliers", Map.of("code", code, "name", code + " & Co", "currency", "EUR"));
    assertThat(added.status()).isEqualTo(200);
    assertThat(
            here.mara()
                .post("/api/suppliers", Map.of("code", code, "name", "x", "currency", "EUR"))
                .status())
        .as("once")
        .isEqualTo(409);
    return added.body().path("id").asLong();
  }

  private static JsonNode check(long id, String csv) {
    return post(id, "/offers/check", csv).body();
  }

  private static JsonNode take(long id, String csv) {
    return post(id, "/offers", csv).body();
  }

  private static Visitor.Answer post(long id, String path, String csv) {
    return here.mara()
        .postBytes("/api/suppliers/" + id + path, csv.getBytes(StandardCharsets.UTF_8));
  }

  private static JsonNode offers(long id) {
    return here.mara().read("/api/suppliers/" + id + "/offers");
  }

  private static long cost(String sku) {
    return here.world()
        .db()
        .select(ITEM.COST)
        .from(ITEM)
        .where(ITEM.SKU.eq(sku))
        .fetchSingle()
        .value1();
  }
}
