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
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import org.jooq.DSLContext;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Component;

/**
 * Some of what was delivered comes back: at the end of the past there are returns at every step.
 */
@Component
@Profile("seed")
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

  DemoReturns(DSLContext db, Returns returns, Refunds refunds, CameBack cameBack, Outbox outbox) {
    this.db = db;
    this.returns = returns;
    this.refunds = refunds;
    this.cameBack = cameBack;
    this.outbox = outbox;
  }

  /** The returns of one past. */
  Course course(Timeline timeline, long seed) {
    return new Course(timeline, new Random(seed + 1));
  }

  /** A line of which a buyer sends something back. */
  private record Line(long id, long orderLineId, long itemId, long units) {}

  /** How far a return is to come before the past ends; of each there is one at least. */
  private enum Fate {
    AWAITED,
    ARRIVED,
    SETTLED,
    CALLED_OFF
  }

  final class Course {
    private final Timeline timeline;
    private final Random random;
    private final Set<Fate> missing = EnumSet.allOf(Fate.class);

    private Course(Timeline timeline, Random random) {
      this.timeline = timeline;
      this.random = random;
    }

    /**
     * @param delivered when it came to the buyer
     */
    void after(Consignments.Head consignment, Instant delivered) {
      Optional<Fate> wanted = missing.stream().filter(f -> fits(f, delivered)).findFirst();
      if (wanted.isPresent()) {
        Instant opened = delivered.plus(Duration.ofHours(12));
        timeline.happen(opened, () -> openWanted(consignment, wanted.get()));
      } else if (random.nextInt(ONE_IN) == 0) {
        timeline.happen(delivered.plus(hours(12, 120)), () -> openAny(consignment));
      }
    }

    /** Whether what was delivered then has had the time, and not too much of it. */
    private boolean fits(Fate fate, Instant delivered) {
      long days = Duration.between(delivered, timeline.end()).toDays();
      return switch (fate) {
        case AWAITED -> days >= 1 && days < 6;
        case ARRIVED -> days >= 4 && days < 9;
        case SETTLED, CALLED_OFF -> days >= 7;
      };
    }

    private void openWanted(Consignments.Head consignment, Fate fate) {
      Optional<Opened> opened = missing.contains(fate) ? open(consignment) : Optional.empty();
      opened.ifPresent(back -> {
        missing.remove(fate);
        Instant now = timeline.now();
        Instant end = timeline.end();
        switch (fate) {
          case AWAITED -> {}
          case ARRIVED -> timeline.happen(end.minus(Duration.ofDays(2)), back::arrive);
          case SETTLED -> {
            timeline.happen(now.plus(Duration.ofDays(3)), back::arrive);
            timeline.happen(now.plus(Duration.ofDays(5)), back::settle);
          }
          case CALLED_OFF -> timeline.happen(now.plus(Duration.ofDays(3)), back::callOff);
        }
      });
    }

    private void openAny(Consignments.Head consignment) {
      open(consignment)
          .ifPresent(back -> {
            Instant opened = timeline.now();
            if (random.nextInt(KEPT_ONE_IN) == 0) {
              timeline.happen(opened.plus(hours(48, 120)), back::callOff);
            } else {
              Instant came = opened.plus(hours(60, 190));
              timeline.happen(came, back::arrive);
              // long enough that at the end of the past some are still owed
              timeline.happen(came.plus(hours(12, 320)), back::settle);
            }
          });
    }

    private Optional<Opened> open(Consignments.Head consignment) {
      List<Line> lines = linesOf(consignment);
      if (lines.isEmpty()) {
        return Optional.empty();
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
      return Optional.of(new Opened(id, consignment, line, units, why));
    }

    private Duration hours(int least, int most) {
      return Duration.ofHours(least + random.nextInt(most - least));
    }
  }

  private List<Line> linesOf(Consignments.Head consignment) {
    return db.select(
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
  }

  /** A return that has been opened, and what is done about it. */
  private final class Opened {
    private final long id;
    private final Consignments.Head consignment;
    private final Line line;
    private final long units;
    private final Reason reason;

    Opened(long id, Consignments.Head consignment, Line line, long units, Reason reason) {
      this.id = id;
      this.consignment = consignment;
      this.line = line;
      this.units = units;
      this.reason = reason;
    }

    void callOff() {
      returns.callOff(id, MANAGER);
    }

    void arrive() {
      long rmaLine =
          db.select(RMA_LINE.ID)
              .from(RMA_LINE)
              .where(RMA_LINE.RMA_ID.eq(id))
              .fetchSingle()
              .value1();
      returns.arrive(id, parts(rmaLine), false, PACKER);
    }

    /** By lot or number, as they were sent; all in one part where neither is tracked. */
    private List<Returns.Part> parts(long rmaLine) {
      Disposition becomes = becomes(reason);
      List<Returns.Part> parts = new ArrayList<>();
      long left = units;
      for (var lot : cameBack.lotsSent(consignment.id(), line.itemId()).entrySet()) {
        long some = Math.min(left, lot.getValue());
        if (some > 0) {
          parts.add(new Returns.Part(rmaLine, some, becomes, lot.getKey(), null));
          left -= some;
        }
      }
      if (left > 0) {
        parts.add(new Returns.Part(rmaLine, left, becomes, "", null));
      }
      return parts;
    }

    void settle() {
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
          new Refund.Asked(
              Map.of(Long.toString(line.orderLineId()), units), nothing, nothing, nothing),
          "sent back",
          MANAGER);
      while (outbox.deliverOne()) {
        // until its channel has taken it on
      }
    }
  }

  private static Disposition becomes(Reason reason) {
    return switch (reason) {
      case DAMAGED -> Disposition.SCRAP;
      case FAULTY -> Disposition.SUPPLIER;
      case NOT_AS_DESCRIBED, OTHER -> Disposition.QUARANTINE;
      case WRONG_ITEM, UNWANTED, TOO_LATE -> Disposition.RESTOCK;
    };
  }
}
