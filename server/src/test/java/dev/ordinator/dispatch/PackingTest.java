package dev.ordinator.dispatch;

import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.testing.Packer;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.TestWorld;
import dev.ordinator.testing.Visitor;
import java.io.IOException;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.stream.IntStream;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.openpdf.text.pdf.PdfReader;
import org.openpdf.text.pdf.parser.PdfTextExtractor;
import tools.jackson.databind.JsonNode;

/** What a packer may rely on at the bench. */
class PackingTest {
  private static TestWorld world;
  private static Visitor mara;

  @BeforeAll
  static void start() throws Exception {
    world = TestWorld.started();
    mara = world.visitor("mara");
  }

  @AfterAll
  static void stop() {
    world.close();
  }

  @Test
  void theBenchSaysWhatIsWrongWithAScanAndCountsOnlyWhatBelongs() {
    String path = released("S1", "SMOKER-L", 2);
    String gtin = mara.read(path).path("lines").get(0).path("gtin").asString();

    assertThat(scan(path, "TOOL-J")).isEqualTo("WRONG_ITEM");
    assertThat(mara.post(path + "/label", "").status()).as("not everything is in").isEqualTo(409);
    assertThat(scan(path, " smoker-l ")).isEqualTo("COUNTED");
    assertThat(scan(path, gtin.replaceFirst("^0+", ""))).isEqualTo("COUNTED");
    assertThat(scan(path, gtin)).isEqualTo("TOO_MANY");
    assertThat(packed(path)).isEqualTo(2);

    assertThat(mara.post(path + "/start-over", "").status()).isEqualTo(204);
    assertThat(packed(path)).isZero();
    assertThat(mara.post(path + "/hand-over", "").status()).as("it has no label").isEqualTo(409);
  }

  @Test
  void aCarrierThatDoesNotAnswerCostsNoScans() {
    String path = released("S2", "SMOKER-L", 3);
    Packer.scanAll(mara, path);
    world.standIns().carrier().faults().failNext(1);

    Visitor.Answer failed = mara.post(path + "/label", "");
    assertThat(failed.status()).isEqualTo(502);
    assertThat(failed.body().path("detail").asString()).contains("What you scanned is kept");
    assertThat(packed(path)).isEqualTo(3);
    assertThat(mara.post(path + "/label", "").status()).isEqualTo(200);
  }

  @Test
  void manyHandsAtOnceMakeOneLabelAndOneHandOver() {
    String path = released("S3", "SMOKER-L", 1);
    Packer.scanAll(mara, path);
    int before = world.standIns().carrier().parcels().size();

    assertThat(together(path + "/label")).containsOnly(200);
    assertThat(world.standIns().carrier().parcels()).hasSize(before + 1);
    assertThat(mara.read(path).path("parcels").size()).isEqualTo(1);
    assertThat(together(path + "/hand-over")).containsOnlyOnce(200).contains(409);
  }

  @Test
  void slipAndLabelArePdfsThatNameWhatTheyBelongTo() throws Exception {
    String path = released("S4", "SMOKER-L", 2);
    Packer.scanAll(mara, path);
    JsonNode bench = mara.post(path + "/label", "").body();

    String number = bench.path("consignment").path("number").asString();
    assertThat(text(path + "/slip.pdf")).contains(number, "SMOKER-L", "Ilse Verbruggen");
    long parcel = bench.path("parcels").get(0).path("id").asLong();
    assertThat(text("/api/dispatch/parcels/" + parcel + "/label.pdf"))
        .contains(number, "Ilse Verbruggen", "Lindepad 12");
  }

  @Test
  void aParcelIsFoundByTheNumberOnItsSlip() {
    String path = released("S5", "SMOKER-L", 1);
    String number = mara.read(path).path("consignment").path("number").asString();
    assertThat(mara.read("/api/dispatch/find?number=" + number).path("number").asString())
        .isEqualTo(number);
    assertThat(mara.get("/api/dispatch/find?number=nothing").status()).isEqualTo(404);
  }

  /** Places an order and waits until its consignment can be packed; gives the bench's path. */
  private static String released(String id, String sku, long quantity) {
    world.shop().place(Sample.order(id, sku, quantity));
    await(id + " is released").until(() -> !consignments(id).isEmpty());
    return "/api/dispatch/consignments/" + consignments(id).getFirst().path("id").asLong();
  }

  private static List<JsonNode> consignments(String externalId) {
    for (JsonNode row : mara.read("/api/orders?limit=500").path("rows")) {
      if (row.path("externalId").asString().equals(externalId)) {
        return mara.read("/api/orders/" + row.path("id").asLong())
            .path("consignments")
            .valueStream()
            .filter(c -> c.path("state").asString().equals("RELEASED"))
            .toList();
      }
    }
    return List.of();
  }

  private static String scan(String path, String code) {
    return mara.post(path + "/scans", Map.of("code", code)).body().path("result").asString();
  }

  private static long packed(String path) {
    return mara.read(path).path("consignment").path("packed").asLong();
  }

  private static List<Integer> together(String path) {
    var presses =
        IntStream.range(0, 6)
            .mapToObj(i -> CompletableFuture.supplyAsync(() -> mara.post(path, "").status()))
            .toList();
    return presses.stream().map(CompletableFuture::join).toList();
  }

  private static String text(String path) throws IOException {
    try (PdfReader pdf = new PdfReader(mara.bytes(path))) {
      return new PdfTextExtractor(pdf).getTextFromPage(1);
    }
  }
}
