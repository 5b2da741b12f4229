package dev.ordinator.intake;

import static dev.ordinator.schema.Tables.EVENT;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.ORDER_LINE;
import static dev.ordinator.schema.Tables.ORDER_PAYMENT;
import static dev.ordinator.schema.Tables.ORDER_TAG;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.schema.Tables.SNAG;
import static dev.ordinator.schema.Tables.SNAG_ORDER;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Channels;
import dev.ordinator.channels.Connector.ListingData;
import dev.ordinator.channels.IncomingOrder;
import dev.ordinator.core.money.Money;
import dev.ordinator.core.orders.Address;
import dev.ordinator.core.orders.PaymentState;
import dev.ordinator.desk.OrderDesk;
import dev.ordinator.intake.BulkIntake.Arrival;
import dev.ordinator.intake.Intake.Source;
import dev.ordinator.orders.NewOrder.Buyer;
import dev.ordinator.orders.NewOrder.Header;
import dev.ordinator.orders.NewOrder.Payment;
import dev.ordinator.orders.NewOrder.Tender;
import dev.ordinator.orders.NewOrder.Wish;
import dev.ordinator.platform.Transactions;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.TestWorld;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.Callable;
import java.util.concurrent.CyclicBarrier;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.json.JsonMapper;

/** Many at once come out as if each had come alone. */
class BulkIntakeTest {
  private static final long SEED = 20_261_125;

  /** What routing, which comes after, does not touch. */
  private static final List<Field<?>> HEAD =
      List.of(
          SALES_ORDER.TAX,
          SALES_ORDER.UNITS,
          SALES_ORDER.TOTAL,
          SALES_ORDER.RATE,
          SALES_ORDER.RATE_DAY,
          SALES_ORDER.BASE_TOTAL,
          SALES_ORDER.LEVEL,
          SALES_ORDER.PRIORITY,
          SALES_ORDER.CURRENCY,
          SALES_ORDER.PAYMENT_STATE,
          SALES_ORDER.HELD,
          SALES_ORDER.SHIP_POSTCODE,
          SALES_ORDER.DISCOUNT,
          SALES_ORDER.SHIPPING_CHARGE);

  private static final List<Field<?>> LINE =
      List.of(
          ORDER_LINE.LINE_NO,
          ORDER_LINE.EXTERNAL_ID,
          ORDER_LINE.LISTING_ID,
          ORDER_LINE.ITEM_ID,
          ORDER_LINE.QUANTITY,
          ORDER_LINE.CANCELLED,
          ORDER_LINE.UNITS_EACH,
          ORDER_LINE.DISCOUNT,
          ORDER_LINE.ORDER_DISCOUNT,
          ORDER_LINE.TAX,
          ORDER_LINE.TAX_RATE,
          ORDER_LINE.PERSONALISATION);

  @Test
  void manyAtOnceComeOutAsIfEachHadComeAlone() throws Exception {
    try (TestWorld world = TestWorld.installed()) {
      var application = world.addInstance("--ordinator.working=false");
      Channel channel = application.getBean(Channels.class).byCode("WEB").orElseThrow();
      List<IncomingOrder> alone = orders("A", world.db());
      List<IncomingOrder> together = orders("Z", world.db());
      Intake intake = application.getBean(Intake.class);
      alone.forEach(o -> intake.take(channel, o, "", "test"));
      application
          .getBean(Transactions.class)
          .run(() ->
              application
                  .getBean(BulkIntake.class)
                  .take(channel, together.stream().map(o -> new Arrival(o, "", "test")).toList()));
      assertThat(world.db().fetchCount(SALES_ORDER, SALES_ORDER.STAGE.eq("APPROVED")))
          .as("many go straight through")
          .isGreaterThan(30);
      OrderDesk desk = application.getBean(OrderDesk.class);
      while (desk.workOnOne()) {
        // one step after the other
      }
      for (int i = 0; i < alone.size(); i++) {
        assertThat(kept(world.db(), "Z" + i))
            .as("order %d, seed %d", i, SEED)
            .isEqualTo(kept(world.db(), "A" + i));
      }
    }
  }

  @Test
  void webhookAndPollAtTheSameInstantMakeOneOrder() throws Exception {
    try (TestWorld world = TestWorld.installed();
        var pool = Executors.newFixedThreadPool(3)) {
      var application = world.addInstance("--ordinator.working=false");
      Channel channel = application.getBean(Channels.class).byCode("WEB").orElseThrow();
      Intake intake = application.getBean(Intake.class);
      BulkIntake bulk = application.getBean(BulkIntake.class);
      JsonMapper json = JsonMapper.builder().build();
      for (int round = 0; round < 25; round++) {
        List<String> page = new ArrayList<>();
        for (int i = 0; i < 4; i++) {
          page.add(json.writeValueAsString(Sample.order("R" + round + "-" + i)));
        }
        CyclicBarrier together = new CyclicBarrier(3);
        List<Callable<Integer>> ways =
            List.of(
                () -> {
                  together.await();
                  return bulk.take(channel, page, Source.PULL);
                },
                () -> {
                  together.await();
                  return page.reversed().stream()
                      .mapToInt(m -> intake.take(channel, m, Source.WEBHOOK).isNews() ? 1 : 0)
                      .sum();
                },
                () -> {
                  together.await();
                  return intake.take(channel, page.get(1), Source.WEBHOOK).isNews() ? 1 : 0;
                });
        int news = 0;
        for (Future<Integer> way : pool.invokeAll(ways)) {
          news += way.get();
        }
        assertThat(news).as("round %d: each is news once", round).isEqualTo(4);
      }
      assertThat(world.db().fetchCount(SALES_ORDER)).isEqualTo(100);
      assertThat(world.db().fetchCount(EVENT, EVENT.KIND.eq("RECEIVED"))).isEqualTo(100);
    }
  }

  private static Map<String, Object> kept(DSLContext db, String externalId) {
    long id =
        db.select(SALES_ORDER.ID)
            .from(SALES_ORDER)
            .where(SALES_ORDER.EXTERNAL_ID.eq(externalId))
            .fetchSingle()
            .value1();
    return Map.of(
        "head",
        db.select(HEAD).from(SALES_ORDER).where(SALES_ORDER.ID.eq(id)).fetchSingle().intoList(),
        "snags of the check",
        db.select(SNAG.CAUSE)
            .from(SNAG_ORDER)
            .join(SNAG)
            .on(SNAG.ID.eq(SNAG_ORDER.SNAG_ID))
            .where(SNAG_ORDER.ORDER_ID.eq(id))
            .and(SNAG.CAUSE.in("UNMATCHED_LISTING", "UNKNOWN_SERVICE", "BAD_ADDRESS", "NO_RATE"))
            .fetchSet(SNAG.CAUSE),
        "approved",
        db.fetchExists(SALES_ORDER, SALES_ORDER.ID.eq(id).and(SALES_ORDER.APPROVED_AT.isNotNull())),
        "lines",
        db.select(LINE)
            .from(ORDER_LINE)
            .where(ORDER_LINE.ORDER_ID.eq(id))
            .orderBy(ORDER_LINE.LINE_NO)
            .fetch()
            .map(r -> r.intoList()),
        "tags",
        db.select(ORDER_TAG.TAG)
            .from(ORDER_TAG)
            .where(ORDER_TAG.ORDER_ID.eq(id))
            .fetchSet(ORDER_TAG.TAG),
        "paid",
        db.select(ORDER_PAYMENT.METHOD, ORDER_PAYMENT.AMOUNT, ORDER_PAYMENT.REFERENCE)
            .from(ORDER_PAYMENT)
            .where(ORDER_PAYMENT.ORDER_ID.eq(id))
            .fetch()
            .map(r -> r.intoList()),
        "timeline",
        db.select(EVENT.KIND, EVENT.ACTOR, EVENT.TEXT, EVENT.WHY)
            .from(EVENT)
            .where(EVENT.ORDER_ID.eq(id))
            .and(EVENT.KIND.in("RECEIVED", "RULES", "APPROVED", "NOTE", "HELD"))
            .orderBy(EVENT.ID)
            .fetch()
            .map(r -> r.intoList()));
  }

  /** The same orders under other ids: plain ones, and some of everything that stops one. */
  private static List<IncomingOrder> orders(String prefix, DSLContext db) {
    Random random = new Random(SEED);
    List<String> skus = db.select(ITEM.SKU).from(ITEM).orderBy(ITEM.ID).limit(40).fetch(ITEM.SKU);
    List<IncomingOrder> orders = new ArrayList<>();
    for (int i = 0; i < 200; i++) {
      orders.add(order(prefix + i, skus, random));
    }
    return orders;
  }

  private static IncomingOrder order(String id, List<String> skus, Random random) {
    String currency = random.nextInt(5) == 0 ? "GBP" : "EUR";
    List<IncomingOrder.Line> lines = new ArrayList<>();
    for (int n = 1; n <= 1 + random.nextInt(4); n++) {
      String sku = random.nextInt(30) == 0 ? "NO-SUCH" : skus.get(random.nextInt(skus.size()));
      long quantity = 1 + random.nextInt(5);
      Money price = Money.of(100 + random.nextInt(90_000), currency);
      lines.add(
          new IncomingOrder.Line(
              Integer.toString(n),
              new ListingData("P-" + sku, sku, "", "the " + sku, "", price),
              quantity,
              random.nextInt(10) == 0 ? quantity - 1 : 0,
              price,
              Money.of(random.nextInt(3) == 0 ? random.nextInt(90) : 0, currency),
              random.nextInt(3) == 0 ? Money.of(random.nextInt(50), currency) : null,
              random.nextInt(9) == 0 ? List.of(new Wish("text", "For Ilse", "")) : List.of()));
    }
    String country = List.of("NL", "DE", "FR", "CH").get(random.nextInt(4));
    Money shipping = Money.of(random.nextInt(900), currency);
    return new IncomingOrder(
        new Header(
            id,
            1,
            Instant.now().minusSeconds(3_600),
            "",
            "",
            false,
            new Buyer("Ilse Brandt", id + "@brandt.example", ""),
            new Address(
                "Ilse Brandt",
                "Donauweg 18",
                random.nextInt(15) == 0 ? "?" : postcode(country),
                "Stad",
                country),
            null,
            random.nextInt(20) == 0 ? "by pigeon" : "Standard",
            null,
            null,
            new Payment(
                random.nextInt(8) == 0 ? PaymentState.UNPAID : PaymentState.PAID,
                "card",
                random.nextInt(5) == 0
                    ? List.of(new Tender("voucher", shipping, "V-" + random.nextInt(100)))
                    : List.of(),
                null),
            shipping,
            Money.of(random.nextInt(4) == 0 ? random.nextInt(80) : 0, currency),
            random.nextInt(6) == 0 ? Money.of(1_000, currency) : null,
            random.nextBoolean(),
            "",
            ""),
        false,
        lines,
        List.of());
  }

  private static String postcode(String country) {
    return switch (country) {
      case "NL" -> "1012 AB";
      case "CH" -> "8001";
      default -> "89073";
    };
  }
}
