package dev.ordinator.intake;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.REFUSED_MESSAGE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.channels.Channel;
import dev.ordinator.channels.ChannelKind;
import dev.ordinator.channels.Channels;
import dev.ordinator.channels.Connector;
import dev.ordinator.channels.Connector.Asked;
import dev.ordinator.channels.Connectors;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.Transactions;
import dev.ordinator.stock.StockLedger;
import dev.ordinator.testing.FarSide;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Packer;
import dev.ordinator.testing.TestWorld;
import dev.ordinator.testing.Visitor;
import dev.ordinator.writeback.ObjectionWriteBack;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.function.IntUnaryOperator;
import java.util.function.UnaryOperator;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** What every connector must stand, against the stand-in of its kind of channel, by pull alone. */
class ConnectorKitTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @BeforeAll
  static void onlyPullsAndEnoughOfEverything() {
    here.world().standIns().hooksTo("");
    here.world().db().update(CHANNEL).set(CHANNEL.INTERVAL_SECONDS, 1).execute();
    here.world().db().update(NODE).setNull(NODE.CAPACITY_PER_DAY).execute();
    long item =
        here.world()
            .db()
            .select(ITEM.ID)
            .from(ITEM)
            .where(ITEM.SKU.eq(FarSide.SKU))
            .fetchSingle()
            .value1();
    long node =
        here.world()
            .db()
            .select(NODE.ID)
            .from(NODE)
            .where(NODE.CODE.eq("STW"))
            .fetchSingle()
            .value1();
    here.world()
        .bean(StockLedger.class)
        .adjust(item, node, 5_000, StockLedger.Reason.RECEIPT, "Joss", "");
  }

  @AfterEach
  void wellAgain() {
    FarSide.all(here.world()).forEach(side -> side.faults().rewrite(UnaryOperator.identity()));
  }

  static Stream<FarSide> sides() {
    return FarSide.all(here.world()).stream();
  }

  @Test
  void everyConnectorIsPutThroughThis() {
    Channels channels = here.world().bean(Channels.class);
    List<ChannelKind> driven =
        sides().map(s -> channels.byCode(s.code()).orElseThrow().kind()).toList();
    Connectors connectors = here.world().bean(Connectors.class);
    assertThat(driven)
        .containsExactlyInAnyOrderElementsOf(
            Arrays.stream(ChannelKind.values())
                .filter(k -> connectors.of(k).isPresent())
                .filter(k -> connectors.of(k).get() instanceof Connector.OrderSource)
                .toList());
  }

  @ParameterizedTest
  @MethodSource("sides")
  void nothingIsLostOrTakenTwiceWhenPagesMoveWhileTheyAreRead(FarSide side) {
    side.faults().delay(30);
    for (int i = 0; i < 110; i++) {
      side.place(id(side, "P" + i), 1);
    }
    // what was at the front of the list goes to its end, again and again
    for (int i = 0; i < 30; i++) {
      side.change(id(side, "P" + i), 2);
    }
    side.faults().delay(0);
    for (int i = 0; i < 10; i++) {
      side.change(id(side, "P" + i), 3);
    }
    await("all of " + side.code() + " are in, each once and as it is now")
        .untilAsserted(() ->
            assertThat(revisions(side, "P"))
                .isEqualTo(expected(side, "P", 110, i -> i < 10 ? 2 : i < 30 ? 1 : 0)));
  }

  @ParameterizedTest
  @MethodSource("sides")
  void whatFailsIsAskedAgain(FarSide side) {
    side.expire();
    side.faults().limitNext(2, 1);
    side.faults().failNext(2);
    side.faults().garbleNext(2);
    for (int i = 0; i < 30; i++) {
      side.place(id(side, "F" + i), 1);
    }
    await("too many, 500, cut off, expired: all of " + side.code() + " come in")
        .untilAsserted(
            () -> assertThat(revisions(side, "F")).isEqualTo(expected(side, "F", 30, i -> 0)));
    await("and the connection is well again")
        .until(() ->
            here.world()
                    .db()
                    .select(CHANNEL.LAST_ERROR)
                    .from(CHANNEL)
                    .where(CHANNEL.CODE.eq(side.code()))
                    .fetchSingle()
                    .value1()
                == null);
  }

  @ParameterizedTest
  @MethodSource("sides")
  void aChannelThatHangsKeepsNoOtherWaiting(FarSide side) {
    side.faults().hang();
    side.place(id(side, "H0"), 1);
    List<FarSide> others = sides().filter(o -> !o.code().equals(side.code())).toList();
    others.forEach(o -> o.place(id(o, "beside-" + side.code()), 1));
    await("the others come in while it hangs")
        .until(
            () -> others.stream().allMatch(o -> revisions(o, "beside-" + side.code()).size() == 1));
    assertThat(revisions(side, "H0")).isEmpty();
    side.faults().goOn();
    await("then it comes in too").until(() -> revisions(side, "H0").size() == 1);
  }

  @ParameterizedTest
  @MethodSource("sides")
  void unknownFieldsAreNoMatterAndWrongTypesAreRefusedWithTheirPlace(FarSide side) {
    side.faults()
        .rewrite(text -> text.replace("\"currency\":", "\"brandNew\":{\"a\":[1]},\"currency\":"));
    side.place(id(side, "U0"), 1);
    await("a field that nobody knows").until(() -> revisions(side, "U0").size() == 1);
    side.faults()
        .rewrite(text ->
            text.replace(
                "\"" + side.unitsField() + "\":7,", "\"" + side.unitsField() + "\":\"seven\","));
    side.place(id(side, "U1"), 7);
    side.place(id(side, "U2"), 1);
    await("the one after it").until(() -> revisions(side, "U2").size() == 1);
    await("the one that can't be read is refused with its place")
        .until(() ->
            here
                .world()
                .db()
                .select(REFUSED_MESSAGE.PLACE)
                .from(REFUSED_MESSAGE)
                .where(REFUSED_MESSAGE.EXTERNAL_ID.eq(id(side, "U1")))
                .fetch(REFUSED_MESSAGE.PLACE)
                .stream()
                .anyMatch(place -> place.endsWith("[0]." + side.unitsField())));
    assertThat(revisions(side, "U1")).isEmpty();
  }

  @ParameterizedTest
  @MethodSource("sides")
  void aCancelledOrderIsCancelled(FarSide side) {
    side.place(id(side, "C0"), 1);
    await("it is released").until(() -> stage(id(side, "C0")).equals("RELEASED"));
    side.cancel(id(side, "C0"));
    await("it is taken back and cancelled").until(() -> stage(id(side, "C0")).equals("CANCELLED"));
  }

  @ParameterizedTest
  @MethodSource("sides")
  void aShipmentIsToldOnceHoweverOftenItHasToBeTried(FarSide side) {
    side.place(id(side, "S0"), 2);
    await("it is released").until(() -> stage(id(side, "S0")).equals("RELEASED"));
    side.faults().failNext(2);
    side.faults().limitNext(1, 1);
    side.faults().garbleNext(1);
    Packer.packAndHandOver(here.world(), orderId(id(side, "S0")));
    await("it is told").until(() -> side.told().shipmentsOf(id(side, "S0")).size() == 1);
    var shipment = side.told().shipmentsOf(id(side, "S0")).getFirst();
    assertThat(shipment.lines().values()).containsExactly(2L);
    assertThat(shipment.trackingNumbers()).hasSize(1);
  }

  @ParameterizedTest
  @MethodSource("sides")
  void aRefundIsToldOnceHoweverOftenItHasToBeTried(FarSide side) {
    side.place(id(side, "R0"), 2);
    await("it is released").until(() -> stage(id(side, "R0")).equals("RELEASED"));
    here.world()
        .db()
        .update(SALES_ORDER)
        .set(SALES_ORDER.PAYMENT_STATE, "PAID")
        .where(SALES_ORDER.EXTERNAL_ID.eq(id(side, "R0")))
        .execute();
    String refunds = "/api/orders/" + orderId(id(side, "R0")) + "/refunds";
    long line = here.mara().read(refunds).path("lines").get(0).path("id").asLong();
    side.faults().failNext(2);
    side.faults().limitNext(1, 1);
    side.faults().garbleNext(1);
    Map<String, Object> asked = Map.of("units", Map.of(line, 1), "shipping", 0, "fee", 0);
    assertThat(
            here.mara().post(refunds, Map.of("no", 1, "asked", asked, "reason", "broken")).status())
        .isEqualTo(204);
    await("it is settled")
        .until(() ->
            here.mara()
                .read(refunds)
                .path("refunds")
                .get(0)
                .path("state")
                .asString()
                .equals("SETTLED"));
    assertThat(side.told().refunds().stream().filter(r -> r.orderId().equals(id(side, "R0"))))
        .singleElement()
        .satisfies(r -> assertThat(r.lines().values()).containsExactly(1L));
  }

  @ParameterizedTest
  @MethodSource("sides")
  void thatAChangeIsNotFollowedIsToldOnceHoweverOftenItHasToBeTried(FarSide side) {
    side.place(id(side, "O0"), 1);
    await("it is in").until(() -> revisions(side, "O0").size() == 1);
    side.faults().failNext(2);
    side.faults().garbleNext(1);
    TestWorld world = here.world();
    world
        .bean(Transactions.class)
        .run(() ->
            world
                .bean(ObjectionWriteBack.class)
                .note(
                    world.bean(Orders.class).head(orderId(id(side, "O0"))),
                    Asked.CHANGE,
                    "it is packed"));
    await("it is told").until(() -> !side.told().objections().isEmpty());
    assertThat(side.told().objections())
        .singleElement()
        .satisfies(o -> {
          assertThat(o.orderId()).isEqualTo(id(side, "O0"));
          assertThat(o.about()).isEqualTo("change");
          assertThat(o.reason()).isEqualTo("it is packed");
        });
  }

  @ParameterizedTest
  @MethodSource("sides")
  void aForgedMessageIsRefused(FarSide side) {
    Channel channel = here.world().bean(Channels.class).byCode(side.code()).orElseThrow();
    Visitor visitor = Visitor.anonymous(here.world().address());
    assertThat(
            visitor.postRaw(
                "/hooks/channels/" + channel.code(),
                "{}",
                Map.of(
                    "webhook-id", "x",
                    "webhook-timestamp", "1",
                    "webhook-signature", "v1,eA==",
                    "X-Guild-Time", "1",
                    "X-Guild-Signature", "00")))
        .isEqualTo(401);
  }

  /** Orders of different channels may have the same id; those of a test must not meet another's. */
  private static String id(FarSide side, String name) {
    return side.code() + "-" + name;
  }

  /** The revision that each order must have: so many changes after its first. */
  private static Map<String, Long> expected(
      FarSide side, String prefix, int orders, IntUnaryOperator changes) {
    return IntStream.range(0, orders)
        .boxed()
        .collect(
            Collectors.toMap(
                i -> id(side, prefix + i), i -> side.firstRevision() + changes.applyAsInt(i)));
  }

  private static Map<String, Long> revisions(FarSide side, String prefix) {
    return here.world()
        .db()
        .select(SALES_ORDER.EXTERNAL_ID, SALES_ORDER.EXTERNAL_REV)
        .from(SALES_ORDER)
        .where(SALES_ORDER.EXTERNAL_ID.startsWith(id(side, prefix)))
        .fetchMap(SALES_ORDER.EXTERNAL_ID, SALES_ORDER.EXTERNAL_REV);
  }

  private static String stage(String externalId) {
    return here.world()
        .db()
        .select(SALES_ORDER.STAGE)
        .from(SALES_ORDER)
        .where(SALES_ORDER.EXTERNAL_ID.eq(externalId))
        .fetchOptional(SALES_ORDER.STAGE)
        .orElse("");
  }

  private static long orderId(String externalId) {
    return here.world()
        .db()
        .select(SALES_ORDER.ID)
        .from(SALES_ORDER)
        .where(SALES_ORDER.EXTERNAL_ID.eq(externalId))
        .fetchSingle()
        .value1();
  }
}
