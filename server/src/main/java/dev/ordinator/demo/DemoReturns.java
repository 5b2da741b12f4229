package dev.ordinator.demo;

import static dev.ordinator.schema.Tables.CONSIGNMENT_LINE;
import static dev.ordinator.schema.Tables.ORDER_LINE;
import static dev.ordinator.schema.Tables.RMA_LINE;
import static dev.ordinator.schema.Tables.SALES_ORDER;

import dev.ordinator.core.money.Money;
import dev.ordinator.core.returns.Refund;
import dev.ordinator.dispatch.Consignments;
import dev.ordinator.dispatch.Outbox;
import dev.ordinator.returns.Refunds;
import dev.ordinator.returns.ReturnCard.Reason;
import dev.ordinator.returns.Returns;
import dev.ordinator.stock.CameBack;
import dev.ordinator.stock.CameBack.Disposition;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.function.BiConsumer;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/**
 * Some of what was delivered comes back: at the end of the past there are returns at every step.
 */
@Component
class DemoReturns {
  private static final String MANAGER = "Mara";
  private static final String PACKER = "Joss";

  /** One consignment in so many. */
  private static final int ONE_IN = 12;

  /** One return in so many is called off. */
  private static final int KEPT_ONE_IN = 9;

  private static final Map<Reason, List<String>> WORDS =
      Map.of(
          Reason.DAMAGED, List.of("the corner is crushed", "one jar is broken"),
          Reason.FAULTY, List.of("it leaks", "the hinge is loose"),
          Reason.WRONG_ITEM, List.of("I ordered the other size"),
          Reason.UNWANTED, List.of("", "bought twice by mistake"),
          Reason.TOO_LATE, List.of("the swarm is gone"));

  private static final List<Reason> REASONS = WORDS.keySet().stream().sorted().toList();

  private final DSLContext db;
  private final Returns returns;
  private final Refunds refunds;
  private final CameBack cameBack;
  private final Outbox outbox;
  private final Random random = new Random(20261127);

  DemoReturns(DSLContext db, Returns returns, Refunds refunds, CameBack cameBack, Outbox outbox) {
    this.db = db;
    this.returns = returns;
    this.refunds = refunds;
    this.cameBack = cameBack;
    this.outbox = outbox;
  }

  /** A line of which a buyer sends something back. */
  private record Line(long id, long orderLineId, long itemId, long units) {}

  /**
   * @param delivered when it came to the buyer
   * @param happen has something done at a time
   */
  void after(
      Consignments.Head consignment, Instant delivered, BiConsumer<Instant, Runnable> happen) {
    if (random.nextInt(ONE_IN) == 0) {
      Instant opened = delivered.plus(hours(12, 120));
      happen.accept(opened, () -> open(consignment, opened, happen));
    }
  }

  private void open(
      Consignments.Head consignment, Instant opened, BiConsumer<Instant, Runnable> happen) {
    List<Line> lines =
        db.select(
                CONSIGNMENT_LINE.ID,
                CONSIGNMENT_LINE.ORDER_LINE_ID,
                CONSIGNMENT_LINE.ITEM_ID,
                CONSIGNMENT_LINE.QUANTITY)
            .from(CONSIGNMENT_LINE)
            .join(ORDER_LINE)
            .on(ORDER_LINE.ID.eq(CONSIGNMENT_LINE.ORDER_LINE_ID))
            .where(CONSIGNMENT_LINE.CONSIGNMENT_ID.eq(consignment.id()))
            .and(CONSIGNMENT_LINE.QUANTITY.eq(CONSIGNMENT_LINE.ORDERED))
            // of kits only whole ones are paid back
            .and(CONSIGNMENT_LINE.ITEM_ID.eq(ORDER_LINE.ITEM_ID))
            .orderBy(CONSIGNMENT_LINE.ID)
            .fetch(r -> new Line(r.value1(), r.value2(), r.value3(), r.value4()));
    if (lines.isEmpty()) {
      return;
    }
    Line line = lines.get(random.nextInt(lines.size()));
    long units = 1 + random.nextLong(Math.min(line.units(), 3));
    Reason why = REASONS.get(random.nextInt(REASONS.size()));
    List<String> words = WORDS.getOrDefault(why, List.of(""));
    long id =
        returns.open(
            consignment.orderId(),
            new Returns.Wish(
                why, words.get(random.nextInt(words.size())), null, Map.of(line.id(), units)),
            MANAGER);
    if (random.nextInt(KEPT_ONE_IN) == 0) {
      happen.accept(opened.plus(hours(48, 120)), () -> returns.callOff(id, MANAGER));
    } else {
      Instant came = opened.plus(hours(60, 190));
      happen.accept(came, () -> arrive(id, consignment, line, units, why));
      // long enough that at the end of the past some are still owed
      happen.accept(came.plus(hours(12, 320)), () -> settle(id, consignment, line, units));
    }
  }

  private void arrive(
      long id, Consignments.Head consignment, Line line, long units, Reason reason) {
    long rmaLine =
        db.select(RMA_LINE.ID).from(RMA_LINE).where(RMA_LINE.RMA_ID.eq(id)).fetchSingle().value1();
    String lot =
        cameBack.lotsSent(consignment.id(), line.itemId()).keySet().stream().findFirst().orElse("");
    returns.arrive(
        id, List.of(new Returns.Part(rmaLine, units, becomes(reason), lot)), false, PACKER);
  }

  private static Disposition becomes(Reason reason) {
    return switch (reason) {
      case DAMAGED -> Disposition.SCRAP;
      case FAULTY -> Disposition.SUPPLIER;
      case NOT_AS_DESCRIBED, OTHER -> Disposition.QUARANTINE;
      case WRONG_ITEM, UNWANTED, TOO_LATE -> Disposition.RESTOCK;
    };
  }

  private void settle(long id, Consignments.Head consignment, Line line, long units) {
    var order =
        db.select(SALES_ORDER.PAYMENT_STATE, SALES_ORDER.CURRENCY)
            .from(SALES_ORDER)
            .where(SALES_ORDER.ID.eq(consignment.orderId()))
            .fetchSingle();
    boolean paid = List.of("PAID", "PART_REFUNDED").contains(order.value1());
    if (!paid) {
      returns.close(id, "not paid yet: taken off the invoice", MANAGER);
      return;
    }
    Money nothing = Money.of(0, order.value2());
    refunds.ask(
        consignment.orderId(),
        refunds.ofOrder(consignment.orderId()).size() + 1,
        id,
        new Refund.Asked(Map.of(Long.toString(line.orderLineId()), units), nothing, nothing),
        "sent back",
        MANAGER);
    while (outbox.deliverOne()) {
      // until its channel has taken it on
    }
  }

  private Duration hours(int least, int most) {
    return Duration.ofHours(least + random.nextInt(most - least));
  }
}
