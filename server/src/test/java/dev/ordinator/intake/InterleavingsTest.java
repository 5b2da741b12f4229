package dev.ordinator.intake;

import static dev.ordinator.schema.Tables.AMENDMENT;
import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.CONSIGNMENT_LINE;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.ORDER_LINE;
import static dev.ordinator.schema.Tables.OUTBOX;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.sum;
import static org.jooq.impl.DSL.val;

import dev.ordinator.doctor.Doctor;
import dev.ordinator.standins.ShopOrder;
import dev.ordinator.stock.StockLedger;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Sample;
import java.math.BigDecimal;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.jooq.DSLContext;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import tools.jackson.databind.JsonNode;

/**
 * Channel, staff and nodes do what they like in any order; a plain model of what left the nodes
 * says how much stock there must be, and no order sends what nobody wanted when it left.
 */
class InterleavingsTest {
  private static final List<String> SKUS = List.of("BRUSH", "TOOL-J");
  private static final int STOCK = 400;
  private static final int ORDERS = 6;
  private static final int STEPS = 90;
  private static final List<String> CLERK =
      List.of(
          "approve",
          "hold",
          "release-hold",
          "release-hold",
          "keep-ours",
          "take-theirs",
          "take-back",
          "let-go");
  private static final ShopOrder.ShipTo AWAY =
      new ShopOrder.ShipTo("Ilse Verbruggen", "Kade 3", "9712 CP", "Groningen", "NL");

  @RegisterExtension static final OwnWorld here = new OwnWorld();

  /** Units that were handed over, by SKU. */
  private final Map<String, Long> left = new HashMap<>();

  private final List<String> done = new ArrayList<>();

  @BeforeAll
  static void enoughOfEverything() {
    here.world().db().update(NODE).setNull(NODE.CAPACITY_PER_DAY).execute();
    for (String sku : SKUS) {
      here.world().scrapAll(sku);
      for (String node : List.of("STW", "CAN")) {
        here.world()
            .bean(StockLedger.class)
            .adjust(
                here.itemId(sku), here.nodeId(node), STOCK, StockLedger.Reason.RECEIPT, "test", "");
      }
    }
  }

  @ParameterizedTest
  @ValueSource(ints = {1, 2, 3})
  void whateverIsDoneStockAndMoneyAndWhatLeavesAgree(int seed) {
    Random random = new Random(seed);
    Map<String, Long> before = stock();
    List<String> ids = new ArrayList<>();
    for (int i = 0; i < ORDERS; i++) {
      String id = "IL" + seed + "-" + i;
      ids.add(id);
      here.world()
          .shop()
          .place(
              Sample.order(
                  id,
                  SKUS.get(random.nextInt(2)),
                  1 + random.nextInt(4),
                  Sample.HOME,
                  random.nextInt(4) == 0 ? "unpaid" : "paid",
                  "Home delivery"));
    }
    await("all are in").until(() -> ids.stream().allMatch(id -> revision(id) > 0));
    for (int step = 0; step < STEPS; step++) {
      String id = ids.get(random.nextInt(ids.size()));
      switch (random.nextInt(6)) {
        case 0 -> channel(random, id);
        case 1, 2 -> clerk(random, id);
        default -> node(random, id);
      }
    }
    comeToRest(ids);
    for (int round = 0; round < 2; round++) {
      // all that may be packed is, and leaves
      ids.forEach(id -> node(random, id));
    }
    comeToRest(ids);

    assertThat(here.world().bean(Doctor.class).look().stream().filter(f -> !f.trouble().isEmpty()))
        .as("after %s", done)
        .isEmpty();
    Map<String, Long> expected = new HashMap<>(before);
    left.forEach((sku, units) -> expected.merge(sku, -units, Long::sum));
    assertThat(stock())
        .as("what left is gone, and nothing else, after %s", done)
        .isEqualTo(expected);
    for (String id : ids) {
      agrees(id);
    }
  }

  private void channel(Random random, String id) {
    long units = 1 + random.nextInt(4);
    String what =
        List.of("units", "address", "gift", "cancel", "reopen", "pay", "unpay")
            .get(random.nextInt(7));
    done.add(id + " channel " + what);
    here.world()
        .shop()
        .change(
            id,
            o ->
                switch (what) {
                  case "units" -> priced(o, units);
                  case "address" -> o.movedTo(o.shipTo().equals(AWAY) ? Sample.HOME : AWAY);
                  case "gift" -> o.withGift("Gift " + o.revision());
                  case "cancel" -> o.cancelled();
                  case "reopen" -> o.reopened();
                  case "pay" -> o.paid();
                  default -> o.unpaid();
                });
    if (random.nextBoolean()) {
      await("it is followed").until(() -> isSeen(id));
    }
  }

  /** So many of its one line, and a total that says so. */
  private static ShopOrder priced(ShopOrder order, long units) {
    ShopOrder.Line line = order.lines().getFirst();
    return order
        .withLines(
            List.of(
                new ShopOrder.Line(
                    line.id(),
                    line.productId(),
                    line.sku(),
                    line.gtin(),
                    line.title(),
                    units,
                    line.unitPrice(),
                    line.discount())))
        .withTotal(
            new BigDecimal(line.unitPrice()).multiply(BigDecimal.valueOf(units)).toPlainString());
  }

  private void clerk(Random random, String id) {
    String what = random.nextInt(9) == 0 ? "cancel" : CLERK.get(random.nextInt(CLERK.size()));
    Object body =
        what.equals("hold") || what.equals("cancel") ? Map.of("reason", "so it is") : Map.of();
    act(id + " " + what, "/api/orders/" + orderId(id) + "/" + what, body);
  }

  private void node(Random random, String id) {
    for (JsonNode c : here.mara().read("/api/orders/" + orderId(id)).path("consignments")) {
      String path = "/api/dispatch/consignments/" + c.path("id").asLong();
      String state = c.path("state").asString();
      if (state.equals("RELEASED") && random.nextInt(6) == 0) {
        act(
            id + " refuse",
            path + "/refusal",
            Map.of("reason", "NO_TIME", "missing", Map.of(), "note", ""));
      } else if (state.equals("RELEASED")) {
        for (JsonNode line : here.mara().read(path).path("lines")) {
          long missing = line.path("quantity").asLong() - line.path("packed").asLong();
          for (long unit = 0; unit < missing; unit++) {
            act(id + " scan", path + "/scans", Map.of("code", line.path("sku").asString()));
          }
        }
        act(id + " label", path + "/label", "");
      } else if (state.equals("PACKED")) {
        Map<String, Long> units = units(c.path("id").asLong());
        boolean asked = isAsked(id);
        if (act(id + " hand over", path + "/hand-over", "")) {
          assertThat(asked && isAsked(id))
              .as("%s leaves though a person is asked, after %s", id, done)
              .isFalse();
          units.forEach((sku, n) -> left.merge(sku, n, Long::sum));
        }
      }
    }
  }

  /** Refusals are answers like others; a failure is none. */
  private boolean act(String what, String path, Object body) {
    int status = here.mara().post(path, body).status();
    done.add(what + " " + status);
    assertThat(status).as("%s", done).isLessThan(500);
    return status < 300;
  }

  private static void comeToRest(List<String> ids) {
    DSLContext db = here.world().db();
    await("the channel's last words are in")
        .until(() -> ids.stream().allMatch(InterleavingsTest::isSeen));
    await("no step is due")
        .until(() ->
            db.fetchCount(
                    SALES_ORDER,
                    SALES_ORDER
                        .NEXT_STEP
                        .isNotNull()
                        .and(SALES_ORDER.NEXT_STEP_AT.le(Instant.now())))
                == 0);
    await("all is told").until(() -> db.fetchCount(OUTBOX, OUTBOX.STATE.eq("PENDING")) == 0);
  }

  /** No more was sent than is sold, and what is shipped was sent. */
  private void agrees(String id) {
    DSLContext db = here.world().db();
    long orderId = orderId(id);
    long sold =
        db.select(
                coalesce(
                    sum(ORDER_LINE.QUANTITY.minus(ORDER_LINE.CANCELLED)), val(BigDecimal.ZERO)))
            .from(ORDER_LINE)
            .where(ORDER_LINE.ORDER_ID.eq(orderId))
            .fetchSingle()
            .value1()
            .longValueExact();
    long sent =
        db.select(coalesce(sum(CONSIGNMENT_LINE.QUANTITY), val(BigDecimal.ZERO)))
            .from(CONSIGNMENT_LINE)
            .join(CONSIGNMENT)
            .on(CONSIGNMENT.ID.eq(CONSIGNMENT_LINE.CONSIGNMENT_ID))
            .where(CONSIGNMENT.ORDER_ID.eq(orderId))
            .and(CONSIGNMENT.HANDED_OVER_AT.isNotNull())
            .fetchSingle()
            .value1()
            .longValueExact();
    String stage =
        db.select(SALES_ORDER.STAGE)
            .from(SALES_ORDER)
            .where(SALES_ORDER.ID.eq(orderId))
            .fetchSingle()
            .value1();
    assertThat(sent)
        .as("%s sends no more than it sold, after %s", id, done)
        .isLessThanOrEqualTo(sold);
    if (List.of("SHIPPED", "DELIVERED").contains(stage)) {
      assertThat(sent).as("%s is %s, after %s", id, stage, done).isEqualTo(sold);
    }
  }

  private static Map<String, Long> units(long consignment) {
    Map<String, Long> units = new HashMap<>();
    here.world()
        .db()
        .select(ITEM.SKU, CONSIGNMENT_LINE.QUANTITY)
        .from(CONSIGNMENT_LINE)
        .join(ITEM)
        .on(ITEM.ID.eq(CONSIGNMENT_LINE.ITEM_ID))
        .where(CONSIGNMENT_LINE.CONSIGNMENT_ID.eq(consignment))
        .forEach(r -> units.merge(r.value1(), r.value2(), Long::sum));
    return units;
  }

  private static Map<String, Long> stock() {
    Map<String, Long> units = new HashMap<>();
    here.world()
        .db()
        .select(ITEM.SKU, STOCK_LEVEL.ON_HAND)
        .from(STOCK_LEVEL)
        .join(ITEM)
        .on(ITEM.ID.eq(STOCK_LEVEL.ITEM_ID))
        .where(ITEM.SKU.in(SKUS))
        .forEach(r -> units.merge(r.value1(), r.value2(), Long::sum));
    return units;
  }

  private static boolean isAsked(String id) {
    return here.world()
        .db()
        .fetchExists(AMENDMENT, AMENDMENT.ORDER_ID.eq(orderId(id)).and(AMENDMENT.STATE.eq("OPEN")));
  }

  private static boolean isSeen(String id) {
    long theirs =
        here.world().shop().orders().stream()
            .filter(o -> o.id().equals(id))
            .findFirst()
            .orElseThrow()
            .revision();
    return revision(id) == theirs;
  }

  private static long revision(String id) {
    return here.world()
        .db()
        .select(SALES_ORDER.EXTERNAL_REV)
        .from(SALES_ORDER)
        .where(SALES_ORDER.EXTERNAL_ID.eq(id))
        .fetchOptional(SALES_ORDER.EXTERNAL_REV)
        .orElse(0L);
  }

  private static long orderId(String id) {
    return here.world()
        .db()
        .select(SALES_ORDER.ID)
        .from(SALES_ORDER)
        .where(SALES_ORDER.EXTERNAL_ID.eq(id))
        .fetchSingle()
        .value1();
  }
}
