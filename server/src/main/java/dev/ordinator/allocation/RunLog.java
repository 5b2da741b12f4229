package dev.ordinator.allocation;

import static dev.ordinator.schema.Tables.ALLOCATION_RUN_LINE;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.LOT;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.schema.Tables.STOCK_PLACE;

import dev.ordinator.allocation.RunStore.Entry;
import dev.ordinator.allocation.RunStore.From;
import dev.ordinator.allocation.RunStore.Why;
import dev.ordinator.network.Nodes;
import dev.ordinator.network.Nodes.NodeCard;
import dev.ordinator.platform.Slice;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** The logs of runs, in words. */
@Component
class RunLog {
  private static final int PAGE = 200;
  private static final int AT_ONCE = 5_000;
  private static final int MOST_COMPARED = 1_000;

  private final DSLContext db;
  private final RunStore store;
  private final Nodes nodes;

  RunLog(DSLContext db, RunStore store, Nodes nodes) {
    this.db = db;
    this.store = store;
    this.nodes = nodes;
  }

  /**
   * @param from where its units come from: “Stillwater 4”, with the lot or number that is named
   */
  record LogLine(
      int no,
      long orderId,
      String orderNumber,
      String buyer,
      int priority,
      String sku,
      String item,
      boolean whole,
      long asked,
      long given,
      String from,
      Why why) {}

  /** What a line got in two runs. */
  record Compared(
      long orderId,
      String orderNumber,
      String buyer,
      String sku,
      long asked,
      long first,
      long second) {}

  Slice<LogLine> page(long run, int after) {
    return Slice.of(
        words(store.entries(run, after, PAGE + 1)), PAGE, line -> String.valueOf(line.no() + 1));
  }

  /** Every line, some thousands read at once. */
  void each(long run, Consumer<LogLine> what) {
    List<Entry> entries = store.entries(run, 0, AT_ONCE);
    while (!entries.isEmpty()) {
      words(entries).forEach(what);
      entries = store.entries(run, entries.getLast().no() + 1, AT_ONCE);
    }
  }

  /** Orders to which a run gave something. */
  List<Long> givenTo(long run) {
    return db.selectDistinct(ALLOCATION_RUN_LINE.ORDER_ID)
        .from(ALLOCATION_RUN_LINE)
        .where(ALLOCATION_RUN_LINE.RUN_ID.eq(store.run(run).id()))
        .and(ALLOCATION_RUN_LINE.GIVEN.gt(0L))
        .fetch(ALLOCATION_RUN_LINE.ORDER_ID);
  }

  /** Lines that got something else in another run. */
  List<Compared> compare(long id, long with) {
    var other = ALLOCATION_RUN_LINE.as("other");
    List<Compared> compared = new ArrayList<>();
    db.select(
            SALES_ORDER.ID,
            SALES_ORDER.NUMBER,
            SALES_ORDER.BUYER_NAME,
            ITEM.SKU,
            ALLOCATION_RUN_LINE.ASKED,
            ALLOCATION_RUN_LINE.GIVEN,
            other.GIVEN)
        .from(ALLOCATION_RUN_LINE)
        .join(SALES_ORDER)
        .on(SALES_ORDER.ID.eq(ALLOCATION_RUN_LINE.ORDER_ID))
        .join(ITEM)
        .on(ITEM.ID.eq(ALLOCATION_RUN_LINE.ITEM_ID))
        .leftJoin(other)
        .on(other.RUN_ID.eq(with))
        .and(other.ORDER_LINE_ID.eq(ALLOCATION_RUN_LINE.ORDER_LINE_ID))
        .where(ALLOCATION_RUN_LINE.RUN_ID.eq(store.run(id).id()))
        .and(other.GIVEN.isNull().or(other.GIVEN.ne(ALLOCATION_RUN_LINE.GIVEN)))
        .orderBy(ALLOCATION_RUN_LINE.NO)
        .limit(MOST_COMPARED)
        .forEach(r ->
            compared.add(
                new Compared(
                    r.value1(),
                    r.value2(),
                    r.value3(),
                    r.value4(),
                    r.value5(),
                    r.value6(),
                    r.value7() == null ? 0 : r.value7())));
    return compared;
  }

  private record Of(String number, String buyer, int priority) {}

  private record Goods(String sku, String name) {}

  private List<LogLine> words(List<Entry> entries) {
    Map<Long, Of> orders = new HashMap<>();
    db.select(SALES_ORDER.ID, SALES_ORDER.NUMBER, SALES_ORDER.BUYER_NAME, SALES_ORDER.PRIORITY)
        .from(SALES_ORDER)
        .where(SALES_ORDER.ID.in(entries.stream().map(Entry::orderId).distinct().toList()))
        .forEach(r -> orders.put(r.value1(), new Of(r.value2(), r.value3(), r.value4())));
    Map<Long, Goods> goods = new HashMap<>();
    db.select(ITEM.ID, ITEM.SKU, ITEM.NAME)
        .from(ITEM)
        .where(
            ITEM.ID.in(
                entries.stream()
                    .flatMap(e ->
                        Stream.concat(Stream.of(e.itemId()), e.parts().stream().map(From::item)))
                    .distinct()
                    .toList()))
        .forEach(r -> goods.put(r.value1(), new Goods(r.value2(), r.value3())));
    Map<Long, String> names =
        nodes.all().stream().collect(Collectors.toMap(NodeCard::id, NodeCard::name));
    Map<Long, String> lots = lots(entries);
    return entries.stream()
        .map(e -> {
          Of of = orders.getOrDefault(e.orderId(), new Of("", "", 0));
          Goods item = goods.getOrDefault(e.itemId(), new Goods("", ""));
          return new LogLine(
              e.no(),
              e.orderId(),
              of.number(),
              of.buyer(),
              of.priority(),
              item.sku(),
              item.name(),
              e.whole(),
              e.asked(),
              e.given(),
              e.given() == 0 ? "" : from(e, names, goods, lots),
              e.why());
        })
        .toList();
  }

  private static String from(
      Entry entry, Map<Long, String> nodes, Map<Long, Goods> goods, Map<Long, String> lots) {
    return entry.parts().stream()
        .map(p -> {
          String lot = lots.get(p.lotAt());
          return (p.item() == entry.itemId()
                  ? ""
                  : goods.getOrDefault(p.item(), new Goods("", "")).sku() + " ")
              + nodes.getOrDefault(p.node(), "")
              + " "
              + p.units()
              + (lot == null ? "" : " of " + lot);
        })
        .collect(Collectors.joining(", "));
  }

  /** Codes of the lots that lie at places. */
  private Map<Long, String> lots(List<Entry> entries) {
    List<Long> places =
        entries.stream()
            .flatMap(e -> e.parts().stream())
            .map(From::lotAt)
            .filter(at -> at != 0)
            .distinct()
            .toList();
    return places.isEmpty()
        ? Map.of()
        : db.select(STOCK_PLACE.ID, LOT.CODE)
            .from(STOCK_PLACE)
            .join(LOT)
            .on(LOT.ID.eq(STOCK_PLACE.LOT_ID))
            .where(STOCK_PLACE.ID.in(places))
            .fetchMap(STOCK_PLACE.ID, LOT.CODE);
  }
}
