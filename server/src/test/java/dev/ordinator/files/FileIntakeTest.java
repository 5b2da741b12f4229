package dev.ordinator.files;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Visitor;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Spreadsheets of orders: seen row by row, taken, corrected, taken back. */
class FileIntakeTest {
  private static final String HEADERS =
      "Bestellung;Datum;Kunde;E-Mail;Straße;PLZ;Ort;Artikel;Menge;Einzelpreis;Zahlung";

  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @Test
  void aForeignLayoutIsMappedOnceAndBadRowsDontStopTheGoodOnes() {
    List<String> rows = new ArrayList<>(List.of(HEADERS));
    for (int i = 1; i <= 40; i++) {
      rows.add(row("F" + i, "24.11.2026", "TOOL-J", "2", "1.012,50"));
    }
    rows.set(5, row("F5", "24.11.2026", "TOOL-J", "zwei", "12,50"));
    rows.set(9, row("F9", "24.11.2026", "TOOL-J", "1", "12,505"));
    rows.set(13, row("", "24.11.2026", "TOOL-J", "1", "12,50"));
    byte[] file = String.join("\r\n", rows).getBytes(Charset.forName("windows-1252"));

    JsonNode card = upload("clubs.csv", file);
    assertThat(card.path("file").path("state").asString()).isEqualTo("UPLOADED");
    assertThat(card.path("file").path("headers").get(4).asString())
        .as("an older encoding is read as well")
        .isEqualTo("Straße");
    assertThat(card.path("guess").path("columns").path("STREET").asInt())
        .as("and understood")
        .isEqualTo(4);

    long id = card.path("file").path("id").asLong();
    assertThat(map(id, "yyyy", true).status()).isEqualTo(422);
    JsonNode checked = map(id, "dd.MM.yyyy", true).body();
    assertThat(checked.path("counts").path("NEW").asInt()).isEqualTo(37);
    assertThat(checked.path("counts").path("REFUSED").asInt()).isEqualTo(3);
    JsonNode refused = here.mara().read(path(id) + "/rows?state=REFUSED").path("rows");
    assertThat(refused.get(0).path("rowNo").asInt()).as("as a person counts").isEqualTo(6);
    assertThat(refused.get(0).path("columnNo").asInt()).isEqualTo(8);
    assertThat(refused.get(0).path("problem").asString())
        .isEqualTo("quantity is not a whole number");
    assertThat(refused.get(1).path("problem").asString()).contains("more than 2 decimals");
    assertThat(refused.get(2).path("problem").asString()).isEqualTo("order is missing");

    assertThat(take(id)).isEqualTo(37);
    assertThat(orders("F")).isEqualTo(37);
    JsonNode sheet = here.mara().read("/api/orders/" + here.order("F1").path("id").asLong());
    assertThat(sheet.path("lines").get(0).path("unitPrice").asLong()).isEqualTo(101_250);
    assertThat(sheet.path("timeline").toString()).contains("file clubs.csv, row 2");

    List<String> cells = new ArrayList<>();
    refused.get(0).path("cells").forEach(c -> cells.add(c.asString()));
    cells.set(8, "2");
    assertThat(
            here.mara()
                .change("PUT", path(id) + "/rows/6", Map.of("cells", cells))
                .body()
                .path("counts")
                .path("NEW")
                .asInt())
        .isEqualTo(1);
    assertThat(take(id)).as("what is new comes to the rest").isEqualTo(38);

    JsonNode again = upload("clubs-again.csv", file);
    assertThat(again.path("file").path("state").asString())
        .as("the layout is remembered")
        .isEqualTo("CHECKED");
    assertThat(again.path("counts").path("SAME").asInt()).isEqualTo(37);
  }

  @Test
  void aFileCanBeTakenBackAndBroughtAgain() {
    String rows =
        "order,buyer,street,postcode,city,country,sku,quantity,price\n"
            + "U1,Ilse,Lindepad 12,1012 AB,Amsterdam,NL,TOOL-J,1,10.00\n"
            + "U1,Ilse,Lindepad 12,1012 AB,Amsterdam,NL,BRUSH,2,5.00\n";
    long id = brought(rows);
    assertThat(take(id)).isEqualTo(1);
    JsonNode row = here.order("U1");
    assertThat(row.path("units").asLong()).as("two rows are one order").isEqualTo(3);
    assertThat(here.mara().post(path(id) + "/undo", "").status()).isEqualTo(204);
    assertThat(here.order("U1").isMissingNode()).isTrue();
    assertThat(take(brought(rows))).as("it comes in anew").isEqualTo(1);
    String approve = "/api/orders/" + here.order("U1").path("id").asLong() + "/approve";
    await("it has been checked, and can be approved")
        .until(() -> here.mara().post(approve, "").status() == 204);
    here.awaitStage("U1", "RELEASED");
    long last =
        here.mara()
            .read("/api/intake/files?channel=" + clubs())
            .get(0)
            .path("file")
            .path("id")
            .asLong();
    assertThat(here.mara().post(path(last) + "/undo", "").status())
        .as("released is released")
        .isEqualTo(409);
  }

  @Test
  void aLargeFileIsWorkedOnInTheBackgroundAndOneBadOrderStopsNoOther() {
    StringBuilder rows =
        new StringBuilder("order,buyer,street,postcode,city,country,sku,quantity,price\n");
    for (int i = 1; i <= 1_100; i++) {
      String units = i == 700 ? "none" : "1";
      for (String sku : List.of("TOOL-J", i == 900 ? "NO-SUCH" : "BRUSH")) {
        rows.append(
            "L%d,Ilse,Lindepad 12,1012 AB,Amsterdam,NL,%s,%s,9.99%n".formatted(i, sku, units));
      }
    }
    long id = brought(rows.toString());
    awaitState(id, "CHECKED");
    assertThat(here.mara().read(path(id)).path("counts").path("NEW").asInt()).isEqualTo(2_198);
    here.mara().post(path(id) + "/take", "");
    awaitState(id, "TAKEN");
    assertThat(here.mara().read(path(id)).path("orders").asInt()).isEqualTo(1_099);
    assertThat(orders("L")).isEqualTo(1_099);
    await("the desk has looked at the order in question")
        .until(() -> here.order("L900").path("marks").toString().contains("unmatched"));
  }

  @Test
  void theTemplateIsReadAsItIsInBothFormats() throws Exception {
    for (String format : List.of("csv", "xlsx")) {
      byte[] template = here.mara().bytes("/api/intake/files/template?format=" + format);
      JsonNode card = upload("template." + format, template);
      JsonNode checked = mapAsGuessed(card);
      assertThat(checked.path("counts").path("NEW").asInt()).as(format).isEqualTo(1);
    }
  }

  @Test
  void whatIsNoSpreadsheetIsRefusedAndNothingIsKept() {
    int before = here.mara().read("/api/intake/files?channel=" + clubs()).size();
    for (byte[] bad :
        List.of(
            new byte[0],
            "PK\u0003\u0004 this is no workbook".getBytes(StandardCharsets.ISO_8859_1),
            "a,\"b\nnever closed".getBytes(StandardCharsets.UTF_8))) {
      assertThat(
              here.mara()
                  .postBytes("/api/intake/files?channel=" + clubs() + "&name=bad", bad)
                  .status())
          .isEqualTo(422);
    }
    assertThat(here.mara().read("/api/intake/files?channel=" + clubs()).size()).isEqualTo(before);
  }

  private static String row(String order, String day, String sku, String units, String price) {
    return String.join(
        ";",
        order,
        day,
        "Imkerverein Ulm",
        "kasse@ulm.example",
        "Donauweg 18",
        "89073",
        "Ulm",
        sku,
        units,
        price,
        "paid");
  }

  private static long brought(String rows) {
    JsonNode card = upload("undo.csv", rows.getBytes(StandardCharsets.UTF_8));
    if (!card.path("file").path("state").asString().equals("CHECKED")) {
      mapAsGuessed(card);
    }
    return card.path("file").path("id").asLong();
  }

  private static JsonNode upload(String name, byte[] content) {
    Visitor.Answer answer =
        here.mara().postBytes("/api/intake/files?channel=" + clubs() + "&name=" + name, content);
    assertThat(answer.status()).as("%s", answer).isEqualTo(200);
    return answer.body();
  }

  private static JsonNode mapAsGuessed(JsonNode card) {
    return here.mara()
        .change("PUT", path(card.path("file").path("id").asLong()) + "/mapping", card.path("guess"))
        .body();
  }

  private static Visitor.Answer map(long id, String days, boolean comma) {
    JsonNode guess = here.mara().read(path(id)).path("guess");
    Map<String, Object> mapping = new HashMap<>();
    mapping.put("columns", guess.path("columns"));
    mapping.put("decimalComma", comma);
    mapping.put("days", days);
    mapping.put("country", "DE");
    mapping.put("payment", "paid");
    return here.mara().change("PUT", path(id) + "/mapping", mapping);
  }

  private static int take(long id) {
    here.mara().post(path(id) + "/take", "");
    awaitState(id, "TAKEN");
    return here.mara().read(path(id)).path("orders").asInt();
  }

  private static void awaitState(long id, String state) {
    await("the file is " + state)
        .until(
            () -> here.mara().read(path(id)).path("file").path("state").asString().equals(state));
  }

  private static String path(long id) {
    return "/api/intake/files/" + id;
  }

  private static int orders(String prefix) {
    return here.world()
        .db()
        .fetchCount(
            SALES_ORDER,
            SALES_ORDER.CHANNEL_ID.eq(clubs()).and(SALES_ORDER.EXTERNAL_ID.startsWith(prefix)));
  }

  private static long clubs() {
    return here.world()
        .db()
        .select(CHANNEL.ID)
        .from(CHANNEL)
        .where(CHANNEL.CODE.eq("CLUBS"))
        .fetchSingle()
        .value1();
  }
}
