package dev.ordinator.planning;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.ordinator.core.network.NodeKind;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

class PlanningTest {
  /** Two warehouses in the Netherlands, ladder of three rungs; STW has twelve boxes and CAN two. */
  private static final String CASE =
      """
      {
        "currency": "EUR",
        "now": "2026-11-24T08:00:00Z",
        "policy": { "splitPenalty": 300, "latePenaltyPerDay": 250, "unfilledPenaltyPerUnit": 5000,
                    "rungStep": 2000, "volumeDivisor": 5000 },
        "zones": [ { "code": "BENELUX", "match": [ { "country": "NL" },
                                                   { "country": "BE", "postcodes": ["1", "20"] } ] } ],
        "items": [ { "sku": "BOX-10", "weight": 4200, "volume": 21000 } ],
        "nodes": [ { "code": "STW", "kind": "WAREHOUSE", "country": "NL",
                     "timeZone": "Europe/Amsterdam", "cutOff": "15:00", "capacityLeft": 120,
                     "handling": { "perConsignment": 150, "perLine": 20, "perUnit": 5 } },
                   { "code": "CAN", "kind": "STORE", "country": "NL",
                     "timeZone": "Europe/Amsterdam" } ],
        "lanes": [ { "node": "STW", "zone": "BENELUX", "carrier": "HERON", "service": "STD",
                     "transitDays": 1,
                     "rates": [ { "upTo": 2000, "price": 420 }, { "upTo": 10000, "price": 690 },
                                { "upTo": 30000, "price": 1190 } ] },
                   { "node": "CAN", "zone": "BENELUX", "carrier": "HERON", "service": "STD",
                     "transitDays": 2, "rates": [ { "upTo": 30000, "price": 500 } ] } ],
        "stock": [ { "node": "STW", "sku": "BOX-10", "available": 12 },
                   { "node": "CAN", "sku": "BOX-10", "available": 2 } ],
        "ladder": [ { "name": "One node", "nodes": { "sameCountry": true } },
                    { "name": "Two nodes", "nodes": {}, "maxConsignments": 2, "late": "ALLOW" },
                    { "name": "What there is", "maxConsignments": 3, "cover": "MOST",
                      "late": "ALLOW" } ],
        "orders": [ { "id": "W-1001", "to": { "country": "NL", "postcode": "1012AB" },
                      "arriveBy": "2026-11-27",
                      "lines": [ { "id": "1", "sku": "BOX-10", "quantity": 2 } ] } ]
      }
      """;

  @Test
  void anOrderAloneIsPlannedWithItsGroundsAndRunnerUp() {
    PlanningAnswer answer = Planner.solve(CASE);
    PlanningAnswer.Order order = answer.orders().getFirst();
    assertThat(order.rung()).isZero();
    PlanningAnswer.Consignment sent = order.consignments().getFirst();
    assertThat(sent.node()).isEqualTo("CAN");
    assertThat(sent.handOver()).isEqualTo("2026-11-24");
    assertThat(sent.arrival()).isEqualTo("2026-11-26");
    assertThat(sent.billable()).isEqualTo(8400);
    assertThat(order.cost()).isEqualTo(500);
    // 690 + 150 + 20 + 2 × 5
    assertThat(order.grounds()).extracting("runnerUp.cost").isEqualTo(870L);
    assertThat(answer.total()).isEqualTo(500).isEqualTo(answer.bound());
  }

  @Test
  void whatNoNodeHasIsSplitAndWhatNobodyHasIsLeft() {
    PlanningAnswer.Order split = Planner.solve(asking(13)).orders().getFirst();
    assertThat(split.rung()).isEqualTo(1);
    assertThat(split.consignments()).hasSize(2);
    PlanningAnswer.Order some = Planner.solve(asking(20)).orders().getFirst();
    assertThat(some.rung()).isEqualTo(2);
    assertThat(some.unfilled().getFirst().quantity()).isEqualTo(6);
    PlanningAnswer.Order none =
        Planner.solve(
                CASE.replace("\"available\": 12", "\"available\": 0")
                    .replace("\"available\": 2 ", "\"available\": 0 "))
            .orders()
            .getFirst();
    assertThat(none.rung()).isNull();
    assertThat(none.cost()).isEqualTo(2 * 5000);
  }

  @Test
  void ofABatchTheHigherClassIsServedFirstHoweverItIsListed() {
    String second =
        """
        , { "id": "W-1002", "to": { "country": "NL" }, "priority": %d,
            "lines": [ { "id": "1", "sku": "BOX-10", "quantity": 13, "divisible": true } ] } ]
        }
        """;
    String both = CASE.strip().replaceFirst("]\\s*}$", "") + second;
    PlanningAnswer later = Planner.solve(both.formatted(2));
    assertThat(later.orders().get(0).unfilled()).isEmpty();
    assertThat(later.orders().get(1).unfilled()).hasSize(1);
    PlanningAnswer sooner = Planner.solve(both.formatted(0));
    assertThat(sooner.orders().get(1).unfilled()).isEmpty();
    assertThat(sooner.orders().get(0).unfilled()).hasSize(1);
    assertThat(later.bound()).isPositive().isLessThanOrEqualTo(later.objective());
    assertThat(later.timeWasUp()).isNull();
    PlanningAnswer early = Planner.solve(both.formatted(2), Integer.MAX_VALUE, () -> true);
    assertThat(early.timeWasUp()).as("it is said").isTrue();
    assertThat(early.orders().get(0).unfilled()).as("and all have a plan").isEmpty();
    assertThat(later.gap()).isPositive();
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "\"kind\": \"STORE\"          | \"kind\": \"SHED\"       | $.nodes[1].kind",
        "\"cutOff\": \"15:00\"        | \"cutOff\": \"3 pm\"     | $.nodes[0].cutOff",
        "\"cutOff\": \"15:00\"        | \"closes\": \"15:00\"    | $.nodes[0].closes",
        "\"timeZone\": \"Europe/Amsterdam\" } | \"timeZone\": \"Mars\" } | $.nodes[1].timeZone",
        "\"node\": \"CAN\", \"zone\"  | \"node\": \"XYZ\", \"zone\" | $.lanes[1].node",
        "\"upTo\": 10000              | \"upTo\": 1000           | $.lanes[0].rates",
        "\"available\": 12            | \"available\": -1        | $.stock[0].available",
        "\"available\": 12            | \"available\": 1.5       | $.stock[0].available",
        "\"quantity\": 2              | \"quantity\": 0          | $.orders[0].lines[0].quantity",
        "\"quantity\": 2              | \"quantity\": 1000000000001 | $.orders[0].lines[0].quantity",
        "\"quantity\": 2              | \"quantity\": \"2\"   | $.orders[0].lines[0].quantity",
        "\"quantity\": 2              | \"quantity\": 100000000000 | $.orders[0].lines",
        "\"capacityLeft\": 120        | \"capacityLeft\": -1     | $.nodes[0].capacityLeft",
        "\"capacityLeft\": 120        | \"holidays\": [null]     | $.nodes[0].holidays",
        "\"transitDays\": 1           | \"transitDays\": 100000  | $.lanes[0].transitDays",
        "\"transitDays\": 1           | \"transitDays\": true    | $.lanes[0].transitDays",
        "\"currency\": \"EUR\"      | \"currency\": \"EURO\" | $.currency",
        "2026-11-24T08:00:00Z         | 9999-11-24T08:00:00Z     | $.now",
        "\"sku\": \"BOX-10\", \"quantity\" | \"sku\": \"BOX\", \"quantity\" | $.orders[0].lines[0].sku",
        "\"now\": \"2026-11-24T08:00:00Z\", | '' | $.now",
        "\"volumeDivisor\": 5000      | \"volumeDivisor\": 0     | $.policy.volumeDivisor",
        "\"orders\": [                | \"orders\": [[           | $.orders[0]",
      })
  void whatIsWrongIsToldWithItsPlace(String good, String bad, String path) {
    String broken = CASE.replace(good, bad);
    assertThat(broken).isNotEqualTo(CASE);
    assertThatThrownBy(() -> Planner.solve(broken))
        .isInstanceOfSatisfying(CaseError.class, e -> assertThat(e.path()).isEqualTo(path));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "\"currency\": \"EUR\",     | \"currency\": \"EUR\", \"currency\": \"CHF\",",
        "\"BOX-10\", \"weight\": 4200 | \"BOX-10\", \"weight\": [[4200]]",
        "\"level\"                    | \"level\"",
        "\"kind\": \"STORE\"        | \"kind\": \"SHED\"",
      })
  void whatIsWrongIsSaidInWordsThatKnowNothingOfOurCode(String good, String bad) {
    String broken = good.equals(bad) ? "[".repeat(5_000) : CASE.replace(good, bad);
    assertThatThrownBy(() -> Planner.solve(broken))
        .isInstanceOfSatisfying(
            CaseError.class,
            e -> assertThat(e.what()).doesNotContain("dev.ordinator", "java.", "tools.jackson"));
  }

  @Test
  void theTotalIsWhatIsPaidAndTheObjectiveWhatIsMinimised() {
    PlanningAnswer alone = Planner.solve(asking(13));
    assertThat(alone.total()).isEqualTo(alone.orders().getFirst().cost());
    assertThat(alone.objective()).as("one rung down").isEqualTo(alone.total() + 2000);
    assertThat(alone.bound()).isEqualTo(alone.objective());
  }

  @Test
  void anOrderThatGoesInThousandsOfParcelsIsSolvedAndMoreAreRefused() {
    String huge =
        CASE.replace("\"available\": 12", "\"available\": 1000000000000")
            .replace("\"quantity\": 2", "\"quantity\": 70000");
    PlanningAnswer.Order order = Planner.solve(huge).orders().getFirst();
    assertThat(order.consignments().getFirst().billable()).isEqualTo(294_000_000L);
    assertThatThrownBy(() -> Planner.solve(huge.replace("70000", "1000000000")))
        .hasMessageContaining("more than 10,000 parcels");
  }

  @Test
  void theCommandPrintsThePlanOrWhatIsWrong(@TempDir Path folder) throws IOException {
    Path file = Files.writeString(folder.resolve("case.json"), CASE);
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    ByteArrayOutputStream err = new ByteArrayOutputStream();
    assertThat(run(out, err, file)).isZero();
    JsonNode answer = JsonMapper.builder().build().readTree(out.toByteArray());
    assertThat(answer.path("orders").get(0).path("consignments").get(0).path("cost"))
        .hasToString(
            "{\"carriage\":500,\"handling\":0,\"purchase\":0,\"clearance\":0,\"lateness\":0}");

    Files.writeString(file, "{");
    assertThat(run(out, err, file)).isEqualTo(2);
    assertThat(err.toString(StandardCharsets.UTF_8)).contains("$: it is no JSON: line 1");
    assertThat(run(out, err, folder.resolve("none.json"))).isEqualTo(2);
  }

  @Test
  void anExampleCanBeSolvedAsItIs(@TempDir Path folder) throws IOException {
    ByteArrayOutputStream example = new ByteArrayOutputStream();
    ByteArrayOutputStream again = new ByteArrayOutputStream();
    ByteArrayOutputStream err = new ByteArrayOutputStream();
    assertThat(run(example, err, "--example", "60")).isZero();
    assertThat(run(again, err, "--example", "60")).isZero();
    assertThat(again.toByteArray()).as("always the same").isEqualTo(example.toByteArray());

    Path file = Files.write(folder.resolve("case.json"), example.toByteArray());
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    assertThat(run(out, err, file.toString())).isZero();
    JsonNode answer = JsonMapper.builder().build().readTree(out.toByteArray());
    assertThat(answer.path("orders")).hasSize(60);
    assertThat(answer.path("objective").asLong())
        .isGreaterThanOrEqualTo(answer.path("bound").asLong());

    assertThat(run(out, err, "--example", "many")).isEqualTo(2);
    assertThat(err.toString(StandardCharsets.UTF_8)).contains("a number of orders");
  }

  @Test
  void whatMayBeLeftOutHasItsDefault() {
    Case read = CaseReader.read(CASE);
    assertThat(read.policy().splitPenalty()).isEqualTo(300);
    assertThat(read.situation().network().nodes().getLast().kind()).isEqualTo(NodeKind.STORE);
    assertThat(read.situation().network().nodes().getLast().cutOff()).isEqualTo("15:00");
    assertThat(read.ladder().rungs().getFirst().maxConsignments()).isEqualTo(1);
  }

  private static int run(ByteArrayOutputStream out, ByteArrayOutputStream err, Path file) {
    return run(out, err, file.toString());
  }

  private static int run(
      ByteArrayOutputStream out, ByteArrayOutputStream err, String... arguments) {
    return PlanCommand.run(
        arguments,
        new PrintStream(out, true, StandardCharsets.UTF_8),
        new PrintStream(err, true, StandardCharsets.UTF_8));
  }

  private static String asking(int boxes) {
    return CASE.replace("\"quantity\": 2", "\"quantity\": " + boxes);
  }
}
