package dev.ordinator.stockfiles;

import static dev.ordinator.schema.Tables.EXPECTED_SUPPLY;
import static dev.ordinator.schema.Tables.ITEM;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.stock.LedgerCheck;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Visitor;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.net.URLEncoder;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.time.LocalDate;
import java.util.List;
import java.util.Objects;
import java.util.zip.Deflater;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.JsonNode;

/** Items, levels, counts, supplies and kits by file. */
class StockFilesTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @AfterEach
  void levelsAreStillWhatTheLedgerSays() {
    assertThat(here.world().bean(LedgerCheck.class).discrepancies()).isEmpty();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "items",
        "levels",
        "counts",
        "inbound",
        "kits",
        "nodes",
        "capacity",
        "zones",
        "lanes"
      })
  void whatIsWrittenIsReadAgainAndChangesNothing(String kind) throws IOException {
    for (String format : List.of("csv", "xlsx")) {
      byte[] file = here.mara().bytes("/api/stock/files/" + kind + "/out?format=" + format);
      JsonNode seen = check(kind, file).body();
      assertThat(seen.path("counts").propertyNames())
          .as("%s as %s", kind, format)
          .isSubsetOf("SAME");
      assertThat(List.of("inbound", "capacity").contains(kind) || seen.path("rows").size() > 2)
          .isTrue();
      assertThat(take(kind, file, false).body().path("taken").asInt()).isZero();
    }
  }

  @Test
  void eachRowIsSeenAndABadOneKeepsAllOrIsLeftOut() {
    String file =
        """
        sku,name,gtin,list price,ended
        NEW-1,Queen marking pen,,4.50,
        SMOKER-L,,,39.00,
        SMOKER-S,,123,,
        NEW-2,,,1.00,
        BRUSH,,,-1,
        BRUSH,,,"1,234",
        ,No SKU,,,
        TOOL-J,,,,maybe
        """;
    JsonNode seen = check("items", file).body();
    assertThat(seen.path("counts").path("NEW").asInt()).isEqualTo(1);
    assertThat(seen.path("counts").path("CHANGED").asInt())
        .as("1,234 is read as its column is written")
        .isEqualTo(2);
    assertThat(
            seen.path("rows")
                .valueStream()
                .filter(r -> r.path("fate").asString().equals("REFUSED"))
                .map(r -> r.path("row").asInt() + " " + r.path("what").asString()))
        .satisfiesExactly(
            r -> assertThat(r).startsWith("4 "),
            r -> assertThat(r).isEqualTo("5 the name is missing"),
            r -> assertThat(r).isEqualTo("6 list price is less than zero"),
            r -> assertThat(r).isEqualTo("8 the sku is missing"),
            r -> assertThat(r).isEqualTo("9 ended: ‘maybe’ is neither yes nor no"));
    Visitor.Answer all = take("items", bytes(file), false);
    assertThat(all.status()).isEqualTo(422);
    assertThat(all.body().path("field").asString()).isEqualTo("row 4");
    assertThat(exists("NEW-1")).as("nothing was taken").isFalse();
    JsonNode good = take("items", bytes(file), true).body();
    assertThat(good.path("taken").asInt()).isEqualTo(3);
    assertThat(good.path("refused").asInt()).isEqualTo(5);
    assertThat(exists("NEW-1")).isTrue();
    assertThat(take("items", bytes(file), true).body().path("taken").asInt())
        .as("again changes nothing")
        .isZero();
  }

  @Test
  void unitsThatCouldBeOneOrAThousandAreRefusedAndNeverTakenForOne() {
    JsonNode open =
        check("levels", "sku,node,on hand\nTOOL-J,STW,\"1,000\"\nBRUSH,STW,12\n").body();
    assertThat(open.path("rows").get(0).path("what").asString())
        .isEqualTo("on hand: ‘1,000’ can be read as 1000 or as 1; write it so that it can’t");
    JsonNode told =
        check("levels", "sku,node,on hand\nTOOL-J,STW,\"1,000\"\nBRUSH,STW,12.00\n").body();
    assertThat(told.path("rows").get(0).path("what").asString())
        .as("another row shows how the column is written")
        .contains("1000");
    JsonNode days =
        check(
                "inbound",
                "from,sku,node,quantity,due\nA,TOOL-J,STW,5,03/04/2027\nA,BRUSH,STW,5,04/04/2027\n")
            .body();
    assertThat(days.path("rows").get(0).path("what").asString())
        .contains("2027-04-03")
        .contains("2027-03-04");
  }

  @Test
  void anOlderFileWithSemicolonsAndDecimalCommasIsReadAsItIsMeant() {
    byte[] file =
        """
        Artikel;Bezeichnung;Preis;Gewicht
        WABE-1;Wabenhonig für Kenner;12,50 €;1.250
        WABE-2;Honiglöffel aus Olivenholz;4,95;40
        """
            .getBytes(Charset.forName("windows-1252"));
    String headers =
        header("sku", "Artikel")
            + header("name", "Bezeichnung")
            + header("list price", "Preis")
            + header("weight", "Gewicht");
    JsonNode seen = check("items?x=" + headers, file).body();
    JsonNode first = seen.path("rows").get(0);
    assertThat(first.path("what").asString())
        .as("1.250 grams may be one or a thousand")
        .isEqualTo("weight: ‘1.250’ can be read as 1.25 or as 1250; write it so that it can’t");
    assertThat(seen.path("rows").get(1).path("what").asString())
        .isEqualTo("Honiglöffel aus Olivenholz");
    assertThat(take("items?x=" + headers, file, true).body().path("taken").asInt()).isEqualTo(1);
    assertThat(
            here.world()
                .db()
                .select(ITEM.LIST_PRICE)
                .from(ITEM)
                .where(ITEM.SKU.eq("WABE-2"))
                .fetchSingle()
                .value1())
        .isEqualTo(495);
    JsonNode again = check("items", file).body();
    assertThat(again.path("columns").get(0).path("header").asString())
        .as("which column is which is remembered")
        .isEqualTo("Artikel");
  }

  /** Made with an office program: a merged title, formulas, dates, twenty thousand rows. */
  @Test
  void aWorkbookOfAnOfficeProgramComesInAsItIsMeant() throws IOException {
    byte[] file;
    try (InputStream in = StockFilesTest.class.getResourceAsStream("/sheets/supplies-20000.xlsx")) {
      file = Objects.requireNonNull(in).readAllBytes();
    }
    String headers =
        header("from", "Lieferant")
            + header("number", "PO")
            + header("node", "Lager")
            + header("sku", "Artikel")
            + header("quantity", "Menge")
            + header("due", "Termin");
    JsonNode seen = check("inbound?x=" + headers, file).body();
    assertThat(seen.path("counts").path("NEW").asInt()).isEqualTo(20_000);
    assertThat(seen.path("rows").get(0).path("row").asInt()).isEqualTo(3);
    assertThat(seen.path("rows").get(1).path("what").asString()).isEqualTo("24 on 2027-01-05");
    assertThat(take("inbound?x=" + headers, file, false).body().path("taken").asInt())
        .isEqualTo(20_000);
    assertThat(
            here.world()
                .db()
                .fetchCount(EXPECTED_SUPPLY, EXPECTED_SUPPLY.DUE.eq(LocalDate.parse("2027-01-05"))))
        .isEqualTo(67);
    here.world()
        .db()
        .deleteFrom(EXPECTED_SUPPLY)
        .where(EXPECTED_SUPPLY.DUE.ne(LocalDate.parse("2027-01-05")))
        .execute();
  }

  @Test
  void aFileThatUnpacksToFarMoreThanItIsIsGivenUp() throws IOException {
    ByteArrayOutputStream bomb = new ByteArrayOutputStream();
    try (ZipOutputStream zip = new ZipOutputStream(bomb)) {
      zip.setLevel(Deflater.BEST_SPEED);
      zip.putNextEntry(new ZipEntry("xl/sharedStrings.xml"));
      byte[] nothing = new byte[1024 * 1024];
      for (int i = 0; i < 600; i++) {
        zip.write(nothing);
      }
      zip.closeEntry();
    }
    Visitor.Answer answer = check("items", bomb.toByteArray());
    assertThat(answer.status()).isEqualTo(422);
    assertThat(answer.body().path("detail").asString()).contains("once it is unpacked");
  }

  @Test
  void aCountIsTakenBinByBin() {
    String file =
        """
        sku,node,bin,lot,use until,counted
        BRUSH,Stillwater,Z-99,,,7
        SYRUP-2,STW,Z-98,COUNTED-1,2027-09-30,4
        SYRUP-2,STW,,,,4
        """;
    JsonNode seen = check("counts", file).body();
    assertThat(seen.path("rows").get(0).path("what").asString()).isEqualTo("0 → 7 (+7)");
    assertThat(seen.path("rows").get(2).path("what").asString())
        .isEqualTo("say which lot it is of");
    assertThat(take("counts", bytes(file), true).body().path("taken").asInt()).isEqualTo(2);
    assertThat(check("counts", file).body().path("rows").get(0).path("fate").asString())
        .isEqualTo("SAME");
  }

  @Test
  void aColumnThatIsMissingIsAskedFor() {
    JsonNode seen = check("levels", "sku,on hand\nBRUSH,4\n").body();
    assertThat(
            seen.path("columns")
                .valueStream()
                .filter(c -> c.path("required").asBoolean() && c.path("header").isNull())
                .map(c -> c.path("column").asString()))
        .containsExactly("node");
    assertThat(seen.path("rows").isEmpty()).isTrue();
    assertThat(check("nothing", "a\n").status()).isEqualTo(404);
  }

  @Test
  void theNetworkIsChangedByFilesAndADayMayHaveAnotherCapacity() {
    String nodes =
        """
        node,cut-off,capacity,workdays,per unit
        STW,16:30,,MON-SAT,
        CAN,,none,,0.25
        FER,25:00,,,
        XXX,,,,
        """;
    JsonNode seen = check("nodes", nodes).body();
    assertThat(seen.path("counts").path("CHANGED").asInt()).isEqualTo(2);
    assertThat(seen.path("rows").toString())
        .contains("no time such as 15:00", "no node is called ‘XXX’");
    assertThat(take("nodes", bytes(nodes), true).status()).isEqualTo(200);
    JsonNode terms = here.mara().read("/api/network/nodes/STW/terms");
    assertThat(terms.path("cutOff").asString()).startsWith("16:30");
    assertThat(terms.path("workdays").asString()).isEqualTo("MON-SAT");
    assertThat(here.mara().read("/api/network/nodes/CAN/terms").path("capacityPerDay").isNull())
        .isTrue();

    LocalDate leaves = LocalDate.parse(node("STW").path("leaves").asString());
    String days = "node,day,consignments\nSTW,%s,0\nSTW,%s,none\n".formatted(leaves, "2027-01-04");
    assertThat(take("capacity", bytes(days), false).body().path("taken").asInt()).isEqualTo(2);
    assertThat(node("STW").path("capacityLeft").asInt()).isZero();
    assertThat(here.mara().read("/api/network/nodes/STW/days")).hasSize(2);
    String usual = "node,day,consignments\nSTW,%s,usual\n".formatted(leaves);
    assertThat(take("capacity", bytes(usual), false).status()).isEqualTo(200);
    assertThat(node("STW").path("capacityLeft").asInt()).isPositive();

    String zones = "zone,country,postcode\nISLES,NL,17\nISLES,NL,18\nISLES,nl,\nNO,Holland,\n";
    assertThat(check("zones", zones).body().path("counts").path("REFUSED").asInt()).isEqualTo(1);
    assertThat(take("zones", bytes(zones), true).status()).isEqualTo(200);
    String carrier =
        here.world()
            .db()
            .fetchSingle("select code from carrier order by id limit 1")
            .get(0, String.class);
    String lanes =
        "node,zone,carrier,service,transit days,up to g,price\n"
            + "STW,ISLES,%1$s,Ferry,3,2000,6.50\nSTW,ISLES,%1$s,Ferry,3,10000,9\n"
                .formatted(carrier)
            + "STW,ISLES,%1$s,Twice,3,2000,1\nSTW,ISLES,%1$s,Twice,3,2000,2\n".formatted(carrier);
    JsonNode lane = check("lanes", lanes).body();
    assertThat(lane.path("counts").path("NEW").asInt()).isEqualTo(1);
    assertThat(lane.path("counts").path("REFUSED").asInt()).as("steps must ascend").isEqualTo(1);
    assertThat(take("lanes", bytes(lanes), true).status()).isEqualTo(200);
    assertThat(
            here.mara()
                .read("/api/network?grams=5000")
                .path("zones")
                .valueStream()
                .filter(z -> z.path("zone").asString().equals("ISLES"))
                .findFirst()
                .orElseThrow()
                .path("ways")
                .get(0)
                .path("carriage")
                .asLong())
        .isEqualTo(900);
  }

  private static JsonNode node(String code) {
    return here.mara()
        .read("/api/network")
        .path("nodes")
        .valueStream()
        .filter(n -> n.path("code").asString().equals(code))
        .findFirst()
        .orElseThrow();
  }

  private static boolean exists(String sku) {
    return here.world().db().fetchExists(ITEM, ITEM.SKU.eq(sku));
  }

  private static String header(String column, String header) {
    return "&header=" + URLEncoder.encode(column + "=" + header, StandardCharsets.UTF_8);
  }

  private static byte[] bytes(String text) {
    return text.getBytes(StandardCharsets.UTF_8);
  }

  private static Visitor.Answer check(String kind, String file) {
    return check(kind, bytes(file));
  }

  private static Visitor.Answer check(String kind, byte[] file) {
    return here.mara().postBytes(path(kind, "/check"), file);
  }

  private static Visitor.Answer take(String kind, byte[] file, boolean goodOnly) {
    String path = path(kind, "");
    return here.mara()
        .postBytes(path + (path.contains("?") ? "&" : "?") + "goodOnly=" + goodOnly, file);
  }

  /** A kind, perhaps with parameters behind it. */
  private static String path(String kind, String rest) {
    int at = kind.indexOf('?');
    return at < 0
        ? "/api/stock/files/" + kind + rest
        : "/api/stock/files/" + kind.substring(0, at) + rest + kind.substring(at);
  }
}
