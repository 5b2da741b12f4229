package dev.ordinator.dispatch;

import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Packer;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.Visitor;
import java.io.IOException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.openpdf.text.pdf.PdfReader;
import org.openpdf.text.pdf.parser.PdfTextExtractor;
import tools.jackson.databind.JsonNode;

/** What a packer may rely on at the bench. */
class PackingTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @Test
  void theBenchSaysWhatIsWrongWithAScanAndCountsOnlyWhatBelongs() {
    String path = released("S1", "SMOKER-L", 2);
    String gtin = here.mara().read(path).path("lines").get(0).path("gtin").asString();

    assertThat(scan(path, "TOOL-J")).isEqualTo("WRONG_ITEM");
    assertThat(here.mara().post(path + "/label", "").status())
        .as("not everything is in")
        .isEqualTo(409);
    assertThat(scan(path, " smoker-l ")).isEqualTo("COUNTED");
    assertThat(scan(path, gtin.replaceFirst("^0+", ""))).isEqualTo("COUNTED");
    assertThat(scan(path, gtin)).isEqualTo("TOO_MANY");
    assertThat(packed(path)).isEqualTo(2);

    assertThat(here.mara().post(path + "/start-over", "").status()).isEqualTo(204);
    assertThat(packed(path)).isZero();
    assertThat(here.mara().post(path + "/hand-over", "").status())
        .as("it has no label")
        .isEqualTo(409);
  }

  @Test
  void whatIsToBeMadeOfALineAndTheGiftMessageReachBenchAndSlip() throws IOException {
    Map<String, Object> line = new HashMap<>();
    line.put("sku", "SMOKER-L");
    line.put("quantity", 1);
    line.put("unitPrice", null);
    line.put("wish", "For Äijä, 2026");
    Map<String, Object> order = new HashMap<>();
    order.put("once", "phone-gift-1");
    order.put("buyer", Map.of("name", "Ilse Verbruggen", "email", "", "phone", ""));
    order.put("shipTo", Sample.HOME);
    order.put("service", "");
    order.put("arriveBy", null);
    order.put("payment", "PAID");
    order.put("shippingCharge", 0);
    order.put("discount", 0);
    order.put("instructions", "no paper inside");
    order.put("giftMessage", "Many bees to you!");
    order.put("lines", List.of(line));
    long id = here.mara().post("/api/intake/by-hand", order).body().path("id").asLong();
    here.awaitStage("phone-gift-1", "RELEASED");
    String path =
        "/api/dispatch/consignments/"
            + here.mara().read("/api/orders/" + id).path("consignments").get(0).path("id").asLong();
    JsonNode bench = here.mara().read(path);
    assertThat(bench.path("giftMessage").asString()).isEqualTo("Many bees to you!");
    assertThat(bench.path("instructions").asString()).isEqualTo("no paper inside");
    assertThat(bench.path("lines").get(0).path("wishes").get(0).path("text").asString())
        .isEqualTo("For Äijä, 2026");
    assertThat(text(path + "/slip.pdf")).contains("For Äijä, 2026", "Many bees to you!");
  }

  @Test
  void aParcelThatIsTakenBackIsUnpackedAndItsLabelVoid() {
    String path = released("S8", "SMOKER-L", 1);
    Packer.pack(here.mara(), here.mara().read(path).path("consignment").path("id").asLong());
    String tracking = here.mara().read(path).path("parcels").get(0).path("tracking").asString();
    long order = here.mara().read(path).path("consignment").path("orderId").asLong();
    assertThat(
            here.mara()
                .post("/api/orders/" + order + "/cancel", Map.of("reason", "not wanted"))
                .status())
        .isEqualTo(204);
    await("the carrier has it back")
        .until(() ->
            here.world().standIns().carrier().parcels().stream()
                .anyMatch(p -> p.tracking().equals(tracking) && p.voided()));
    assertThat(toUnpack()).contains(path);
    assertThat(here.mara().post(path + "/unpacked", "").status()).isEqualTo(200);
    assertThat(here.mara().post(path + "/unpacked", "").status()).as("once").isEqualTo(409);
    assertThat(toUnpack()).doesNotContain(path);
  }

  private static List<String> toUnpack() {
    return here.mara()
        .read("/api/dispatch/consignments?doing=UNPACK")
        .valueStream()
        .map(c -> "/api/dispatch/consignments/" + c.path("id").asLong())
        .toList();
  }

  @Test
  void aCarrierThatDoesNotAnswerCostsNoScans() {
    String path = released("S2", "SMOKER-L", 3);
    Packer.scanAll(here.mara(), path);
    here.world().standIns().carrier().faults().failNext(1);

    Visitor.Answer failed = here.mara().post(path + "/label", "");
    assertThat(failed.status()).isEqualTo(502);
    assertThat(failed.body().path("detail").asString()).contains("What you scanned is kept");
    assertThat(packed(path)).isEqualTo(3);
    assertThat(here.mara().post(path + "/label", "").status()).isEqualTo(200);
  }

  @Test
  void manyHandsAtOnceMakeOneLabelAndOneHandOver() {
    String path = released("S3", "SMOKER-L", 1);
    Packer.scanAll(here.mara(), path);
    int before = here.world().standIns().carrier().parcels().size();

    assertThat(together(path + "/label")).containsOnly(200);
    assertThat(here.world().standIns().carrier().parcels()).hasSize(before + 1);
    assertThat(here.mara().read(path).path("parcels").size()).isEqualTo(1);
    assertThat(together(path + "/hand-over")).containsOnlyOnce(200).contains(409);
  }

  @Test
  void slipAndLabelArePdfsThatNameWhatTheyBelongTo() throws Exception {
    String path = released("S4", "SMOKER-L", 2);
    Packer.scanAll(here.mara(), path);
    JsonNode bench = here.mara().post(path + "/label", "").body();

    String number = bench.path("consignment").path("number").asString();
    assertThat(text(path + "/slip.pdf")).contains(number, "SMOKER-L", "Ilse Verbruggen");
    long parcel = bench.path("parcels").get(0).path("id").asLong();
    assertThat(text("/api/dispatch/parcels/" + parcel + "/label.pdf"))
        .contains(number, "Ilse Verbruggen", "Lindepad 12");
  }

  @Test
  void aParcelIsFoundByTheNumberOnItsSlip() {
    String path = released("S5", "SMOKER-L", 1);
    String number = here.mara().read(path).path("consignment").path("number").asString();
    assertThat(here.mara().read("/api/dispatch/find?number=" + number).path("number").asString())
        .isEqualTo(number);
    assertThat(here.mara().get("/api/dispatch/find?number=nothing").status()).isEqualTo(404);
  }

  /** Places an order and waits until its consignment can be packed; gives the bench's path. */
  private static String released(String id, String sku, long quantity) {
    here.world().shop().place(Sample.order(id, sku, quantity));
    long order = here.awaitStage(id, "RELEASED").path("id").asLong();
    JsonNode consignment = here.mara().read("/api/orders/" + order).path("consignments").get(0);
    return "/api/dispatch/consignments/" + consignment.path("id").asLong();
  }

  private static String scan(String path, String code) {
    return here.mara().post(path + "/scans", Map.of("code", code)).body().path("result").asString();
  }

  private static long packed(String path) {
    return here.mara().read(path).path("consignment").path("packed").asLong();
  }

  private static List<Integer> together(String path) {
    var presses =
        IntStream.range(0, 6)
            .mapToObj(i -> CompletableFuture.supplyAsync(() -> here.mara().post(path, "").status()))
            .toList();
    return presses.stream().map(CompletableFuture::join).toList();
  }

  private static String text(String path) throws IOException {
    try (PdfReader pdf = new PdfReader(here.mara().bytes(path))) {
      return new PdfTextExtractor(pdf).getTextFromPage(1);
    }
  }
}
