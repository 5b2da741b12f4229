package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.BACKORDER;
import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.EARMARK;
import static dev.ordinator.schema.Tables.EARMARK_USE;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.ORDER_TAG;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static org.jooq.impl.DSL.greatest;
import static org.jooq.impl.DSL.lower;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.selectOne;
import static org.jooq.impl.DSL.sum;
import static org.jooq.impl.DSL.val;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.Schedules;
import dev.ordinator.core.network.NodeKind;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Transactions;
import java.time.Clock;
import java.time.Duration;
import java.time.LocalDate;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Stream;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.context.annotation.Bean;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Units set aside in advance for a channel, a customer or a campaign. Nobody else is given them,
 * and those for whom they are take them first; after their last day they are free by themselves.
 */
@Service
public class Earmarks {
  private static final Duration LOOK_EVERY = Duration.ofMinutes(10);
  private static final int LONGEST_WHO = 190;

  private final DSLContext db;
  private final StockPlaces places;
  private final Transactions transactions;
  private final Events events;
  private final ApplicationEventPublisher publisher;
  private final OrdinatorSettings settings;
  private final Clock clock;

  Earmarks(
      DSLContext db,
      StockPlaces places,
      Transactions transactions,
      Events events,
      ApplicationEventPublisher publisher,
      OrdinatorSettings settings,
      Clock clock) {
    this.db = db;
    this.places = places;
    this.transactions = transactions;
    this.events = events;
    this.publisher = publisher;
    this.settings = settings;
    this.clock = clock;
  }

  /** For whom something is set aside. */
  enum Kind {
    CHANNEL,
    CUSTOMER,
    /** Orders with a tag. */
    CAMPAIGN,
    /** Orders that wait for the item; kept by their queue, so that their dates hold. */
    WAITING,
    /** One order, to which a run gave it. */
    ORDER
  }

  private static final List<String> BY_PEOPLE =
      Stream.of(Kind.CHANNEL, Kind.CUSTOMER, Kind.CAMPAIGN).map(Enum::name).toList();

  /**
   * What is left of an earmark for somebody who may take it.
   *
   * @param placeId the place of its lot, if that is said
   */
  public record Own(
      long id, long itemId, long nodeId, String node, long units, @Nullable Long placeId) {}

  /**
   * @param quantity units set aside at first, of which {@code units} are left
   * @param whoName as people say it
   */
  record Card(
      long id,
      long nodeId,
      String node,
      long quantity,
      long units,
      Kind kind,
      String who,
      @Nullable LocalDate until,
      String note,
      String notedBy) {}

  /**
   * @param kind one that people set aside for
   * @param who a channel's code, a customer's mail address, or a campaign's tag
   * @param until the last day; null: until somebody releases it
   */
  record Wish(
      long nodeId, long quantity, Kind kind, String who, @Nullable LocalDate until, String note) {}

  List<Card> of(long itemId) {
    return db.select(
            EARMARK.ID,
            NODE.ID,
            NODE.NAME,
            EARMARK.QUANTITY,
            EARMARK.UNITS,
            EARMARK.KIND,
            EARMARK.WHO,
            EARMARK.UNTIL,
            EARMARK.NOTE,
            EARMARK.NOTED_BY)
        .from(EARMARK)
        .join(NODE)
        .on(NODE.ID.eq(EARMARK.NODE_ID))
        .where(EARMARK.ITEM_ID.eq(itemId))
        .and(EARMARK.CLOSED_AT.isNull())
        .and(EARMARK.UNITS.gt(0L).or(EARMARK.KIND.in(BY_PEOPLE)))
        .orderBy(EARMARK.ID)
        .fetch(r ->
            new Card(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4(),
                r.value5(),
                Kind.valueOf(r.value6()),
                r.value7(),
                r.value8(),
                r.value9(),
                r.value10()));
  }

  /** What of items is set aside for an order. */
  public List<Own> forOrder(long orderId, Collection<Long> itemIds) {
    Condition channel =
        EARMARK
            .KIND
            .eq(Kind.CHANNEL.name())
            .and(
                EARMARK.WHO.eq(
                    select(CHANNEL.CODE)
                        .from(CHANNEL)
                        .join(SALES_ORDER)
                        .on(SALES_ORDER.CHANNEL_ID.eq(CHANNEL.ID))
                        .where(SALES_ORDER.ID.eq(orderId))));
    Condition customer =
        EARMARK
            .KIND
            .eq(Kind.CUSTOMER.name())
            .and(
                EARMARK.WHO.eq(
                    select(lower(SALES_ORDER.EMAIL))
                        .from(SALES_ORDER)
                        .where(SALES_ORDER.ID.eq(orderId))));
    Condition campaign =
        EARMARK
            .KIND
            .eq(Kind.CAMPAIGN.name())
            .and(
                EARMARK.WHO.in(
                    select(ORDER_TAG.TAG).from(ORDER_TAG).where(ORDER_TAG.ORDER_ID.eq(orderId))));
    Condition waiting =
        EARMARK
            .KIND
            .eq(Kind.WAITING.name())
            .andExists(
                selectOne()
                    .from(BACKORDER)
                    .where(BACKORDER.ORDER_ID.eq(orderId))
                    .and(BACKORDER.ITEM_ID.eq(EARMARK.ITEM_ID))
                    .and(BACKORDER.CLOSED_AT.isNull()));
    Condition order =
        EARMARK.KIND.eq(Kind.ORDER.name()).and(EARMARK.WHO.eq(String.valueOf(orderId)));
    return own(itemIds, channel.or(customer).or(campaign).or(waiting).or(order));
  }

  /** What of items is set aside for a channel, whoever buys there. */
  public List<Own> forChannel(String code, Collection<Long> itemIds) {
    return own(itemIds, EARMARK.KIND.eq(Kind.CHANNEL.name()).and(EARMARK.WHO.eq(code)));
  }

  private List<Own> own(Collection<Long> itemIds, Condition whose) {
    return db.select(
            EARMARK.ID,
            EARMARK.ITEM_ID,
            EARMARK.NODE_ID,
            NODE.CODE,
            EARMARK.UNITS,
            EARMARK.PLACE_ID)
        .from(EARMARK)
        .join(NODE)
        .on(NODE.ID.eq(EARMARK.NODE_ID))
        .where(EARMARK.ITEM_ID.in(itemIds))
        .and(EARMARK.CLOSED_AT.isNull())
        .and(EARMARK.UNITS.gt(0L))
        .and(whose)
        .orderBy(EARMARK.UNTIL.isNull(), EARMARK.UNTIL, EARMARK.ID)
        .fetch(
            r -> new Own(r.value1(), r.value2(), r.value3(), r.value4(), r.value5(), r.value6()));
  }

  /** Sets units aside that are free now. */
  @Transactional
  void setAside(long itemId, Wish wish, String actor) {
    String who = check(wish);
    int taken =
        db.update(STOCK_LEVEL)
            .set(STOCK_LEVEL.EARMARKED, STOCK_LEVEL.EARMARKED.plus(wish.quantity()))
            .where(STOCK_LEVEL.ITEM_ID.eq(itemId))
            .and(STOCK_LEVEL.NODE_ID.eq(wish.nodeId()))
            .and(Levels.FREE.ge(wish.quantity()))
            .execute();
    if (taken == 0) {
      throw Problem.invalid("quantity", "not so many are free there");
    }
    db.insertInto(EARMARK)
        .set(EARMARK.ITEM_ID, itemId)
        .set(EARMARK.NODE_ID, wish.nodeId())
        .set(EARMARK.QUANTITY, wish.quantity())
        .set(EARMARK.UNITS, wish.quantity())
        .set(EARMARK.KIND, wish.kind().name())
        .set(EARMARK.WHO, who)
        .set(EARMARK.UNTIL, wish.until())
        .set(EARMARK.NOTE, wish.note())
        .set(EARMARK.NOTED_BY, actor)
        .set(EARMARK.NOTED_AT, clock.instant())
        .execute();
    noted(
        actor, "%d units of %s are set aside for %s".formatted(wish.quantity(), sku(itemId), who));
  }

  /** Units of items that are kept for those who wait for them. */
  public Map<Long, Long> keptForWaiting(Collection<Long> itemIds) {
    return db.select(EARMARK.ITEM_ID, sum(EARMARK.UNITS))
        .from(EARMARK)
        .where(EARMARK.ITEM_ID.in(itemIds))
        .and(EARMARK.CLOSED_AT.isNull())
        .and(EARMARK.KIND.eq(Kind.WAITING.name()))
        .groupBy(EARMARK.ITEM_ID)
        .fetchMap(EARMARK.ITEM_ID, r -> r.value2().longValueExact());
  }

  /**
   * Keeps so many units of an item for those who wait for it: of those that are kept already, and
   * as far as these are not enough, of those that are free.
   *
   * @param units 0: none are kept any more
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void keepForWaiting(long itemId, long units) {
    var levels =
        db.select(STOCK_LEVEL.NODE_ID, Levels.FREE)
            .from(STOCK_LEVEL)
            .join(NODE)
            .on(NODE.ID.eq(STOCK_LEVEL.NODE_ID))
            .where(STOCK_LEVEL.ITEM_ID.eq(itemId))
            .and(NODE.KIND.ne(NodeKind.CHANNEL_DEPOT.name()))
            .orderBy(STOCK_LEVEL.NODE_ID)
            .forUpdate()
            .fetchMap(STOCK_LEVEL.NODE_ID, Levels.FREE);
    Map<Long, Long> kept =
        db.select(EARMARK.NODE_ID, EARMARK.UNITS)
            .from(EARMARK)
            .where(EARMARK.ITEM_ID.eq(itemId))
            .and(EARMARK.CLOSED_AT.isNull())
            .and(EARMARK.KIND.eq(Kind.WAITING.name()))
            .fetchMap(EARMARK.NODE_ID, EARMARK.UNITS);
    long left = units;
    Map<Long, Long> keep = new LinkedHashMap<>();
    for (long node : levels.keySet()) {
      long stays = Math.min(left, kept.getOrDefault(node, 0L));
      keep.put(node, stays);
      left -= stays;
    }
    for (var level : levels.entrySet()) {
      long before = kept.getOrDefault(level.getKey(), 0L);
      long stays = keep.getOrDefault(level.getKey(), 0L);
      long more = Math.clamp(level.getValue() + before - stays, 0, left);
      left -= more;
      keepAt(itemId, level.getKey(), before, stays + more);
    }
  }

  private void keepAt(long itemId, long nodeId, long before, long units) {
    if (units == before) {
      return;
    }
    db.update(STOCK_LEVEL)
        .set(STOCK_LEVEL.EARMARKED, STOCK_LEVEL.EARMARKED.plus(units - before))
        .where(STOCK_LEVEL.ITEM_ID.eq(itemId))
        .and(STOCK_LEVEL.NODE_ID.eq(nodeId))
        .execute();
    Condition kept =
        EARMARK
            .ITEM_ID
            .eq(itemId)
            .and(EARMARK.NODE_ID.eq(nodeId))
            .and(EARMARK.KIND.eq(Kind.WAITING.name()))
            .and(EARMARK.CLOSED_AT.isNull());
    int updated =
        db.update(EARMARK)
            .set(EARMARK.UNITS, units)
            .set(EARMARK.QUANTITY, greatest(EARMARK.QUANTITY, val(units)))
            .where(kept)
            .execute();
    if (updated == 0) {
      db.insertInto(EARMARK)
          .set(EARMARK.ITEM_ID, itemId)
          .set(EARMARK.NODE_ID, nodeId)
          .set(EARMARK.QUANTITY, units)
          .set(EARMARK.UNITS, units)
          .set(EARMARK.KIND, Kind.WAITING.name())
          .set(EARMARK.WHO, "")
          .set(EARMARK.NOTED_BY, "queue")
          .set(EARMARK.NOTED_AT, clock.instant())
          .execute();
    }
  }

  /** What is left of it is free again; what was taken stays taken. */
  @Transactional
  void release(long id, String actor) {
    if (close(EARMARK.ID.eq(id).and(EARMARK.KIND.in(BY_PEOPLE)), actor) == 0) {
      throw Problem.conflict("it was released already");
    }
  }

  @Bean
  RecurringTask<Void> endEarmarks() {
    return Tasks.recurring("end-earmarks", Schedules.fixedDelay(LOOK_EVERY))
        .execute((instance, context) -> end());
  }

  /** Releases those whose last day is over; gives how many. */
  int end() {
    LocalDate today = LocalDate.ofInstant(clock.instant(), settings.timeZone());
    return transactions.get(() -> close(EARMARK.UNTIL.lt(today), "stock"));
  }

  /** Units are taken out of an earmark by somebody for whom it is; false if they are gone. */
  @Transactional(propagation = Propagation.MANDATORY)
  boolean take(long id, long units) {
    return db.update(EARMARK)
            .set(EARMARK.UNITS, EARMARK.UNITS.minus(units))
            .where(EARMARK.ID.eq(id))
            .and(EARMARK.CLOSED_AT.isNull())
            .and(EARMARK.UNITS.ge(units))
            .execute()
        == 1;
  }

  void used(long allocationId, long earmarkId, long units) {
    db.insertInto(EARMARK_USE)
        .set(EARMARK_USE.ALLOCATION_ID, allocationId)
        .set(EARMARK_USE.EARMARK_ID, earmarkId)
        .set(EARMARK_USE.UNITS, units)
        .execute();
  }

  /**
   * What allocations took out of earmarks goes back into those that are still open. One that names
   * a lot holds it again; if that lies elsewhere now, it names none any more.
   *
   * @return units that are set aside again
   */
  @Transactional(propagation = Propagation.MANDATORY)
  long giveBack(Collection<Long> allocationIds) {
    long back = 0;
    for (var use :
        db.select(EARMARK.ID, EARMARK_USE.UNITS, EARMARK.PLACE_ID)
            .from(EARMARK_USE)
            .join(EARMARK)
            .on(EARMARK.ID.eq(EARMARK_USE.EARMARK_ID))
            .where(EARMARK_USE.ALLOCATION_ID.in(allocationIds))
            .and(EARMARK.CLOSED_AT.isNull())
            .forUpdate()
            .fetch()) {
      boolean holds = use.value3() != null && places.holdFree(use.value3(), use.value2());
      db.update(EARMARK)
          .set(EARMARK.UNITS, EARMARK.UNITS.plus(use.value2()))
          .set(EARMARK.PLACE_ID, holds ? use.value3() : null)
          .where(EARMARK.ID.eq(use.value1()))
          .execute();
      back += use.value2();
    }
    return back;
  }

  private int close(Condition which, String actor) {
    var open =
        db.select(EARMARK.ID, EARMARK.ITEM_ID, EARMARK.NODE_ID)
            .from(EARMARK)
            .where(which)
            .and(EARMARK.CLOSED_AT.isNull())
            .orderBy(EARMARK.ITEM_ID, EARMARK.NODE_ID)
            .fetch();
    int closed = 0;
    for (var e : open) {
      // the level first, as whoever takes from it does
      db.select(STOCK_LEVEL.EARMARKED)
          .from(STOCK_LEVEL)
          .where(STOCK_LEVEL.ITEM_ID.eq(e.value2()))
          .and(STOCK_LEVEL.NODE_ID.eq(e.value3()))
          .forUpdate()
          .fetch();
      Long left =
          db.select(EARMARK.UNITS)
              .from(EARMARK)
              .where(EARMARK.ID.eq(e.value1()))
              .and(EARMARK.CLOSED_AT.isNull())
              .forUpdate()
              .fetchOne(EARMARK.UNITS);
      if (left != null) {
        free(e.value1(), e.value2(), e.value3(), left, actor);
        closed++;
      }
    }
    return closed;
  }

  /** Nobody else closed it meanwhile. */
  private void free(long id, long itemId, long nodeId, long left, String actor) {
    db.update(EARMARK).set(EARMARK.CLOSED_AT, clock.instant()).where(EARMARK.ID.eq(id)).execute();
    db.update(STOCK_LEVEL)
        .set(STOCK_LEVEL.EARMARKED, STOCK_LEVEL.EARMARKED.minus(left))
        .where(STOCK_LEVEL.ITEM_ID.eq(itemId))
        .and(STOCK_LEVEL.NODE_ID.eq(nodeId))
        .execute();
    noted(actor, "%d units of %s are free again".formatted(left, sku(itemId)));
    if (left > 0) {
      publisher.publishEvent(new StockGrew(itemId, actor));
    }
  }

  private String check(Wish wish) {
    if (wish.quantity() < 1) {
      throw Problem.invalid("quantity", "at least one unit");
    }
    if (wish.note().length() > 400) {
      throw Problem.invalid("note", "at most 400 characters");
    }
    if (wish.until() != null
        && wish.until().isBefore(LocalDate.ofInstant(clock.instant(), settings.timeZone()))) {
      throw Problem.invalid("until", "that day is over");
    }
    String who = wish.who().strip();
    if (who.isEmpty() || who.length() > LONGEST_WHO) {
      throw Problem.invalid("who", "say for whom");
    }
    return switch (wish.kind()) {
      case CHANNEL -> {
        if (!db.fetchExists(CHANNEL, CHANNEL.CODE.eq(who))) {
          throw Problem.invalid("who", "there is no channel " + who);
        }
        yield who;
      }
      case CUSTOMER -> {
        if (!who.matches("[^@\\s]+@[^@\\s]+")) {
          throw Problem.invalid("who", "a customer is told by the mail address");
        }
        yield who.toLowerCase(Locale.ROOT);
      }
      case CAMPAIGN -> who;
      case WAITING, ORDER -> throw Problem.invalid("kind", "that is kept by itself");
    };
  }

  private String sku(long itemId) {
    return db.select(ITEM.SKU)
        .from(ITEM)
        .where(ITEM.ID.eq(itemId))
        .fetchOptional(ITEM.SKU)
        .orElseThrow(() -> Problem.notFound("item " + itemId));
  }

  private void noted(String actor, String what) {
    events.record(EventKind.STOCK_CHANGED, null, null, actor, what, "");
  }
}
