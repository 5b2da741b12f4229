package dev.ordinator.feed;

import static dev.ordinator.schema.Tables.BACKORDER;
import static dev.ordinator.schema.Tables.EARMARK;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.LISTING;
import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.greatest;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.sum;
import static org.jooq.impl.DSL.val;
import static org.jooq.impl.DSL.when;

import dev.ordinator.channels.Channel;
import dev.ordinator.core.feed.FeedGuard;
import dev.ordinator.core.feed.FeedRule;
import dev.ordinator.core.feed.FeedRule.Basis;
import dev.ordinator.core.feed.FeedRule.SoldOut;
import dev.ordinator.core.network.NodeKind;
import dev.ordinator.core.stock.Atp;
import dev.ordinator.core.stock.StockLevel;
import dev.ordinator.stock.Expected;
import dev.ordinator.stock.Items;
import dev.ordinator.stock.Items.KitStocks;
import dev.ordinator.stock.KitsAhead;
import dev.ordinator.stock.Levels;
import dev.ordinator.stock.ShelfLife;
import dev.ordinator.stock.WaitedFor;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** What each matched listing of a channel may offer, by what is in stock now. */
@Component
class FeedLines {
  private static final int DAYS = FeedRule.FURTHEST_DAYS + 1;

  private final DSLContext db;
  private final Items items;
  private final Expected expected;
  private final KitsAhead kitsAhead;
  private final ShelfLife shelfLife;

  FeedLines(
      DSLContext db, Items items, Expected expected, KitsAhead kitsAhead, ShelfLife shelfLife) {
    this.db = db;
    this.items = items;
    this.expected = expected;
    this.kitsAhead = kitsAhead;
    this.shelfLife = shelfLife;
  }

  /**
   * @param available units over the nodes that serve the channel
   * @param promisable what can be promised of the item, day by day
   * @param pushed what the channel was told last; null: never told
   * @param quantity what it would be told now
   * @param refused what a person would not have told; null: nothing
   */
  record FeedLine(
      long listingId,
      String externalId,
      String title,
      String itemSku,
      long unitsEach,
      FeedRule rule,
      long available,
      long onHand,
      long waitedFor,
      Atp promisable,
      @Nullable Long pushed,
      long quantity,
      @Nullable Long refused) {

    /** What it would be told by a rule. */
    long quantityBy(FeedRule other) {
      return other.quantity(
          available, onHand, promisable.at(other.withinDays()), waitedFor, unitsEach);
    }

    boolean isChanged() {
      return (pushed == null || pushed != quantity) && (refused == null || refused != quantity);
    }

    /** It was sold out, and can be had again. */
    boolean isBack() {
      return pushed != null && pushed == 0 && quantity > 0;
    }

    FeedGuard.Line guarded() {
      return new FeedGuard.Line(
          externalId, pushed, isChanged() || pushed == null ? quantity : pushed);
    }
  }

  /** Every matched listing, in one statement. */
  List<FeedLine> of(Channel channel) {
    return select(channel, noCondition());
  }

  List<FeedLine> select(Channel channel, Condition which) {
    var level = STOCK_LEVEL;
    // what is set aside for the channel can be had there, and nowhere else
    var own =
        field(
            DSL.select(coalesce(sum(EARMARK.UNITS), val(BigDecimal.ZERO)))
                .from(EARMARK)
                .where(EARMARK.ITEM_ID.eq(level.ITEM_ID))
                .and(EARMARK.NODE_ID.eq(level.NODE_ID))
                .and(EARMARK.CLOSED_AT.isNull())
                .and(EARMARK.KIND.eq("CHANNEL"))
                .and(EARMARK.WHO.eq(channel.code())));
    var free =
        greatest(
            when(level.EARMARKED.eq(0L), Levels.FREE.cast(BigDecimal.class))
                .otherwise(Levels.FREE.cast(BigDecimal.class).plus(own)),
            val(BigDecimal.ZERO));
    Condition serves =
        channel.terms().nodes().isEmpty() ? noCondition() : NODE.CODE.in(channel.terms().nodes());
    var stock =
        db.select(level.ITEM_ID, sum(free).as("available"), sum(level.ON_HAND).as("on_hand"))
            .from(level)
            .join(NODE)
            .on(NODE.ID.eq(level.NODE_ID))
            .where(NODE.KIND.ne(NodeKind.CHANNEL_DEPOT.name()))
            .and(serves)
            .groupBy(level.ITEM_ID)
            .asTable("stock");
    var waiting =
        db.select(BACKORDER.ITEM_ID, WaitedFor.UNITS.as("units"))
            .from(BACKORDER)
            .where(BACKORDER.CLOSED_AT.isNull())
            .groupBy(BACKORDER.ITEM_ID)
            .asTable("waiting");
    var available = coalesce(stock.field("available", BigDecimal.class), val(BigDecimal.ZERO));
    var onHand = coalesce(stock.field("on_hand", BigDecimal.class), val(BigDecimal.ZERO));
    var waitedFor = coalesce(waiting.field("units", BigDecimal.class), val(BigDecimal.ZERO));
    Map<Long, List<Atp.Supply>> supplies =
        new HashMap<>(expected.supplies(channel.terms().nodes()));
    supplies.putAll(kitsAhead.supplies(channel.terms().nodes(), DAYS));
    KitStocks kits = items.kitStocks(channel.terms().nodes());
    Map<Long, List<Atp.RunningOut>> runningOut = shelfLife.runningOut(channel.terms().nodes());
    return db.select(
            LISTING.ID,
            LISTING.ITEM_ID,
            LISTING.EXTERNAL_ID,
            LISTING.TITLE,
            ITEM.SKU,
            ITEM.COUNTED,
            ITEM.OUT_ON,
            ITEM.AHEAD_MOST,
            LISTING.UNITS_EACH,
            LISTING.FEED_BASIS,
            LISTING.FEED_DAYS,
            LISTING.FEED_BUFFER,
            LISTING.FEED_SHARE,
            LISTING.FEED_CAP,
            LISTING.SOLD_OUT,
            LISTING.OVERSELL_TO,
            LISTING.OFFERED,
            LISTING.PUSHED,
            LISTING.REFUSED_QUANTITY,
            available.as("available"),
            onHand.as("on_hand"),
            waitedFor.as("waited_for"))
        .from(LISTING)
        .join(ITEM)
        .on(ITEM.ID.eq(LISTING.ITEM_ID))
        .leftJoin(stock)
        .on(LISTING.ITEM_ID.eq(stock.field(level.ITEM_ID)))
        .leftJoin(waiting)
        .on(LISTING.ITEM_ID.eq(waiting.field(BACKORDER.ITEM_ID)))
        .where(LISTING.CHANNEL_ID.eq(channel.id()))
        .and(which)
        .orderBy(LISTING.ID)
        .fetch(r -> {
          long item = r.get(LISTING.ITEM_ID);
          return line(
              r,
              kits,
              runningOut.getOrDefault(item, List.of()),
              supplies.getOrDefault(item, List.of()));
        });
  }

  private boolean isSoldAhead(Record r) {
    LocalDate out = r.get(ITEM.OUT_ON);
    return out != null && out.isAfter(expected.today());
  }

  /** Units that may still be sold before the item is sent, whatever there is of it. */
  private static long leftAhead(Record r) {
    Long most = r.get(ITEM.AHEAD_MOST);
    return most == null ? StockLevel.PLENTY : Math.max(0, most - r.get("waited_for", Long.class));
  }

  private static long units(Record r, String field) {
    return r.get(ITEM.COUNTED) ? r.get(field, Long.class) : StockLevel.PLENTY;
  }

  private FeedLine line(
      Record r, KitStocks kits, List<Atp.RunningOut> runningOut, List<Atp.Supply> supplies) {
    FeedRule rule =
        new FeedRule(
            Basis.valueOf(r.get(LISTING.FEED_BASIS)),
            r.get(LISTING.FEED_DAYS),
            r.get(LISTING.FEED_BUFFER),
            r.get(LISTING.FEED_SHARE),
            r.get(LISTING.FEED_CAP),
            SoldOut.valueOf(r.get(LISTING.SOLD_OUT)),
            r.get(LISTING.OVERSELL_TO),
            r.get(LISTING.OFFERED));
    long item = r.get(LISTING.ITEM_ID);
    boolean ahead = isSoldAhead(r);
    long available =
        ahead ? leftAhead(r) : kits.available().getOrDefault(item, units(r, "available"));
    long onHand = ahead ? available : kits.onHand().getOrDefault(item, units(r, "on_hand"));
    long waitedFor = ahead ? 0 : r.get("waited_for", Long.class);
    Atp promisable =
        Atp.of(
            available,
            ahead ? List.of() : runningOut,
            ahead ? List.of() : supplies,
            List.of(new Atp.Commitment(0, waitedFor)),
            DAYS);
    return new FeedLine(
        r.get(LISTING.ID),
        r.get(LISTING.EXTERNAL_ID),
        r.get(LISTING.TITLE),
        r.get(ITEM.SKU),
        r.get(LISTING.UNITS_EACH),
        rule,
        available,
        onHand,
        waitedFor,
        promisable,
        r.get(LISTING.PUSHED),
        rule.quantity(
            available,
            onHand,
            promisable.at(rule.withinDays()),
            waitedFor,
            r.get(LISTING.UNITS_EACH)),
        r.get(LISTING.REFUSED_QUANTITY));
  }
}
