package dev.ordinator.files;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Visitor;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;
import org.jspecify.annotations.Nullable;
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
    JsonNode checked = map(id, null, null).body();
    assertThat(checked.path("asks").isEmpty()).as("the columns tell").isTrue();
    assertThat(checked.path("counts").path("NEW").asInt()).isEqualTo(37);
    assertThat(checked.path("counts").path("REFUSED").asInt()).isEqualTo(3);
    JsonNode refused = here.mara().read(path(id) + "/rows?state=REFUSED").path("rows");
    assertThat(refused.get(0).path("rowNo").asInt()).as("as a person counts").isEqualTo(6);
    assertThat(refused.get(0).path("columnNo").asInt()).isEqualTo(8);
    assertThat(refused.get(0).path("problem").asString())
        .isEqualTo("quantity ‘zwei’ is not a whole number");
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
  void anOfficeProgramsCellsAreWhatTheyAreAndWhatFitsNotIsRefusedWithItsValue() {
    JsonNode card = foreign("office-dates-formulas.xlsx");
    long id = card.path("file").path("id").asLong();
    // whatever is said of texts never touches numbers
    JsonNode checked = map(id, "COMMA", "DOTS").body();
    assertThat(checked.path("asks").isEmpty()).as("%s", checked.path("asks")).isTrue();
    assertThat(problems(id))
        .containsOnlyKeys("X-7", "X-8", "X-9")
        .containsEntry("X-7", "quantity ‘1.5’ is not a whole number")
        .containsEntry("X-9", "price ‘#DIV/0!’ is not a number");
    assertThat(problems(id).get("X-8")).contains("3.33333").contains("more than 2 decimals");
    take(id);
    assertThat(line("X-1", "unitPrice")).isEqualTo(1_250);
    assertThat(line("X-2", "unitPrice")).as("=19.99*3").isEqualTo(5_997);
    assertThat(shipping("X-2")).as("=0.1+0.2").isEqualTo(30);
    assertThat(line("X-4", "quantity")).isEqualTo(3);
    assertThat(line("X-4", "unitPrice")).isEqualTo(1_250);
    for (String ref : List.of("X-1", "X-2", "X-3", "X-4")) {
      assertThat(sheet(ref).path("order").path("placedAt").asString())
          .as(ref)
          .startsWith("2026-11-24");
    }
    assertThat(sheet("X-5").path("shipTo").path("postcode").asString())
        .as("a number lost its zero")
        .isEqualTo("01067");
  }

  @Test
  void aTruthIsNoQuantityAndANumberIsNoDay() throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    try (Workbook workbook = new Workbook(out, "Test", "1.0")) {
      Worksheet sheet = workbook.newWorksheet("Orders");
      List<String> headers =
          List.of("order", "placed", "buyer", "street", "postcode", "city", "country", "sku");
      List<String> cells = List.of("TN", "", "A", "Donauweg 18", "89073", "Ulm", "DE", "TOOL-J");
      for (int i = 0; i < headers.size(); i++) {
        sheet.value(0, i, headers.get(i));
        sheet.value(1, i, cells.get(i).replace("TN", "TN1"));
        sheet.value(2, i, cells.get(i).replace("TN", "TN2"));
      }
      sheet.value(0, 8, "quantity");
      sheet.value(0, 9, "price");
      sheet.value(1, 8, true);
      sheet.value(1, 9, 5);
      sheet.value(2, 1, 46_350);
      sheet.value(2, 8, 1);
      sheet.value(2, 9, 5);
    }
    JsonNode card = upload("truth.xlsx", out.toByteArray());
    mapAsGuessed(card);
    assertThat(problems(card.path("file").path("id").asLong()))
        .containsEntry("TN1", "quantity ‘TRUE’ is not a whole number")
        .hasEntrySatisfying("TN2", why -> assertThat(why).contains("‘46350’ is not a date"));
  }

  @Test
  void whatAWholeColumnLeavesOpenIsAskedBeforeAnythingIsRead() {
    JsonNode card = foreign("semicolon-decimal-comma.csv");
    long id = card.path("file").path("id").asLong();
    JsonNode asked = map(id, null, null).body();
    assertThat(asked.path("file").path("state").asString()).isEqualTo("UPLOADED");
    assertThat(asked.path("asks").valueStream().map(a -> a.path("field").asString()).toList())
        .containsExactlyInAnyOrder("QUANTITY", "PRICE");
    assertThat(asked.path("asks").toString()).contains("1.000").contains("1.234");
    assertThat(here.mara().post(path(id) + "/take", "").status()).isEqualTo(409);

    JsonNode answered = map(id, "COMMA", null).body();
    assertThat(answered.path("file").path("state").asString()).isEqualTo("CHECKED");
    assertThat(problems(id)).containsOnlyKeys("D-3");
    assertThat(problems(id).get("D-3")).contains("price ‘1,234.50’");
    assertThat(answered.path("sums").path("orders").asInt()).isEqualTo(2);
    assertThat(answered.path("sums").path("units").asLong()).isEqualTo(1_003);
    assertThat(answered.path("sums").path("value").asLong())
        .isEqualTo(3 * 1_250 + 590 + 1_000 * 123_400L);
    assertThat(here.mara().read(path(id) + "/rows").toString())
        .as("a hundred times the item's price is marked")
        .contains("price 1234.00 EUR: the item’s own is");
  }

  @Test
  void filesOfOtherProgramsAreReadAsTheyAreMeant() {
    for (String name : List.of("sep-line.csv", "utf16le.csv")) {
      long id = foreign(name).path("file").path("id").asLong();
      JsonNode checked = map(id, null, null).body();
      assertThat(checked.path("asks").isEmpty()).as(name).isTrue();
      assertThat(checked.path("counts").path("REFUSED").asInt()).as(name).isZero();
      take(id);
      assertThat(sheet("S-1").path("shipTo").path("name").asString()).isEqualTo("Jürgen Straße €5");
      assertThat(line("S-2", "quantity")).isEqualTo(1_000);
      assertThat(line("S-2", "unitPrice")).isEqualTo(123_450);
      assertThat(sheet("S-2").path("shipTo").path("street").asString()).isEqualTo("Line 1\nLine 2");
      assertThat(sheet("S-2").path("order").path("placedAt").asString()).startsWith("2026-04-03");
      here.mara().post(path(id) + "/undo", "");
    }
    long us = foreign("us-dates-thousands.csv").path("file").path("id").asLong();
    assertThat(map(us, null, null).body().path("asks").isEmpty()).isTrue();
    take(us);
    assertThat(line("S-8", "quantity")).isEqualTo(1_000);
    assertThat(line("S-8", "unitPrice")).isEqualTo(123_450);
    assertThat(sheet("S-8").path("order").path("placedAt").asString()).startsWith("2026-03-04");

    JsonNode titled = foreign("office-merged-title.xlsx");
    assertThat(titled.path("file").path("headers").get(0).asString())
        .as("below its title")
        .isEqualTo("order");
    assertThat(mapAsGuessed(titled).path("counts").path("REFUSED").asInt()).isZero();
  }

  @Test
  void dayAndMonthThatCouldChangePlacesAreAsked() {
    long id =
        upload(
                "days.csv",
                ("order,placed,buyer,street,postcode,city,country,sku,quantity,price\n"
                        + "DM1,03/04/2027,A,Donauweg 18,89073,Ulm,DE,TOOL-J,1,5.00\n")
                    .getBytes(StandardCharsets.UTF_8))
            .path("file")
            .path("id")
            .asLong();
    JsonNode asked = map(id, null, null).body();
    assertThat(asked.path("asks").toString()).contains("2027-04-03").contains("2027-03-04");
    assertThat(map(id, null, "MONTH_FIRST").body().path("counts").path("NEW").asInt()).isEqualTo(1);
  }

  @Test
  void aCellBeyondTheHeaderAndTwoColumnsOfOneNameAreNotGuessed() {
    JsonNode card =
        upload(
            "twice.csv",
            ("order;buyer;street;postcode;city;country;sku;quantity;price;price\n"
                    + "TW1;A;Donauweg 18;89073;Ulm;DE;TOOL-J;1;5.00;6.00\n"
                    + "TW2;A;Donauweg 18;Hof;89073;Ulm;DE;TOOL-J;1;5.00;6.00\n")
                .getBytes(StandardCharsets.UTF_8));
    assertThat(card.path("guess").path("columns").has("PRICE")).isFalse();
    long id = card.path("file").path("id").asLong();
    assertThat(map(id, null, null).status()).as("a person says which").isEqualTo(422);
    Map<String, Object> columns = new HashMap<>();
    card.path("guess")
        .path("columns")
        .propertyStream()
        .forEach(e -> columns.put(e.getKey(), e.getValue().asInt()));
    columns.put("PRICE", 9);
    Map<String, Object> mapping = new HashMap<>();
    mapping.put("columns", columns);
    mapping.put("numbers", null);
    mapping.put("days", null);
    mapping.put("country", "DE");
    mapping.put("payment", "paid");
    here.mara().change("PUT", path(id) + "/mapping", mapping);
    assertThat(problems(id)).containsOnlyKeys("TW2");
    assertThat(problems(id).get("TW2")).contains("‘6.00’ stands beyond the last column");
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

  private static JsonNode foreign(String name) {
    try (var file = FileIntakeTest.class.getResourceAsStream("/foreign-files/" + name)) {
      return upload(name, Objects.requireNonNull(file).readAllBytes());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** What is said of refused orders, by their names. */
  private static Map<String, String> problems(long id) {
    return here.mara()
        .read(path(id) + "/rows?state=REFUSED")
        .path("rows")
        .valueStream()
        .collect(
            Collectors.toMap(
                r -> r.path("orderRef").asString(), r -> r.path("problem").asString()));
  }

  private static JsonNode sheet(String externalId) {
    await(externalId + " is in").until(() -> !here.order(externalId).isMissingNode());
    return here.mara().read("/api/orders/" + here.order(externalId).path("id").asLong());
  }

  private static long line(String externalId, String what) {
    return sheet(externalId).path("lines").get(0).path(what).asLong();
  }

  private static long shipping(String externalId) {
    return sheet(externalId).path("figures").path("shippingCharge").asLong();
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

  private static Visitor.Answer map(long id, @Nullable String numbers, @Nullable String days) {
    JsonNode guess = here.mara().read(path(id)).path("guess");
    Map<String, Object> mapping = new HashMap<>();
    mapping.put("columns", guess.path("columns"));
    mapping.put("numbers", numbers);
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
