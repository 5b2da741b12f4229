package dev.ordinator.kits;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.KIT;
import static dev.ordinator.schema.Tables.ORDER_CHOICE;
import static dev.ordinator.schema.Tables.ORDER_LINE;
import static dev.ordinator.schema.Tables.ORDER_PART;
import static org.jooq.impl.DSL.count;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.select;

import dev.ordinator.core.catalog.Kit;
import dev.ordinator.core.catalog.Kit.Explode;
import dev.ordinator.core.catalog.KitBook.Chosen;
import dev.ordinator.core.catalog.KitPrice;
import dev.ordinator.orders.NewOrder.Wish;
import dev.ordinator.orders.Orders;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.stock.Kits;
import dev.ordinator.stock.Kits.Shelf;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** The kits of orders: what is chosen in them, and what they are made of once they are apart. */
@Service
public class OrderKits {
  private final DSLContext db;
  private final Kits kits;
  private final Orders orders;
  private final Events events;
  private final JsonMapper json;

  OrderKits(DSLContext db, Kits kits, Orders orders, Events events, JsonMapper json) {
    this.db = db;
    this.kits = kits;
    this.orders = orders;
    this.events = events;
    this.json = json;
  }

  /**
   * A line that asks for a kit.
   *
   * @param units kits that are still wanted
   * @param wanted the same as the channel counts them
   * @param amount what the open units cost, before the order's discount
   */
  private record Line(
      long id, String title, String sku, long units, long wanted, long amount, List<Wish> wishes) {}

  /** A choice that the order leaves open. */
  public record Open(long lineId, String title, Kit.Choice choice) {}

  /**
   * Units of a component that a line's kits come to.
   *
   * @param looseInOne units in one of what was ordered, as the channel counts it, if it may come
   *     from another node than the others
   */
  public record Part(long itemId, long quantity, @Nullable Long looseInOne) {}

  /**
   * Makes the choices that the order's texts answer, and takes those kits apart that are taken
   * apart at intake.
   *
   * @return what nobody has chosen yet
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public List<Open> settle(long orderId) {
    List<Line> lines = lines(orderId);
    if (lines.isEmpty()) {
      return List.of();
    }
    Shelf shelf = kits.shelf();
    List<Open> open = new ArrayList<>();
    for (Line line : lines) {
      List<Kit.Choice> left = choose(shelf, line);
      left.forEach(choice -> open.add(new Open(line.id(), line.title(), choice)));
      Kit kit = shelf.book().kit(line.sku());
      if (left.isEmpty() && kit != null && kit.explode().isAtIntake()) {
        explode(shelf, line);
      }
    }
    return open;
  }

  /** Takes the other kits apart, now that the order is routed. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void explodeRouted(long orderId, Shelf shelf) {
    for (Line line : lines(orderId)) {
      Kit kit = shelf.book().kit(line.sku());
      if (kit != null && !kit.explode().isAtIntake()) {
        explode(shelf, line);
      }
    }
  }

  /** What was chosen in orders, by line. */
  public Map<Long, Chosen> chosen(Collection<Long> orderIds) {
    Map<Long, Map<String, String>> byLine =
        db.select(ORDER_CHOICE.ORDER_LINE_ID, ORDER_CHOICE.CHOICE, ITEM.SKU)
            .from(ORDER_CHOICE)
            .join(ORDER_LINE)
            .on(ORDER_LINE.ID.eq(ORDER_CHOICE.ORDER_LINE_ID))
            .join(ITEM)
            .on(ITEM.ID.eq(ORDER_CHOICE.ITEM_ID))
            .where(ORDER_LINE.ORDER_ID.in(orderIds))
            .collect(
                Collectors.groupingBy(
                    r -> r.value1(), Collectors.toMap(r -> r.value2(), r -> r.value3())));
    return byLine.entrySet().stream()
        .collect(Collectors.toMap(Map.Entry::getKey, e -> new Chosen(e.getValue())));
  }

  /** The components of orders' lines that are taken apart, by line. */
  public Map<Long, List<Part>> components(Collection<Long> orderIds) {
    return db.select(
            ORDER_PART.ORDER_LINE_ID,
            ORDER_PART.ITEM_ID,
            ORDER_PART.QUANTITY,
            ORDER_PART.LOOSE_IN_ONE)
        .from(ORDER_PART)
        .join(ORDER_LINE)
        .on(ORDER_LINE.ID.eq(ORDER_PART.ORDER_LINE_ID))
        .where(ORDER_LINE.ORDER_ID.in(orderIds))
        .orderBy(ORDER_PART.ORDER_LINE_ID, ORDER_PART.ITEM_ID)
        .collect(
            Collectors.groupingBy(
                r -> r.value1(),
                Collectors.mapping(
                    r -> new Part(r.value2(), r.value3(), r.value4()), Collectors.toList())));
  }

  /** What an order's kits leave open, for a person to choose. */
  List<Open> open(long orderId) {
    Shelf shelf = kits.shelf();
    Map<Long, Chosen> chosen = chosen(List.of(orderId));
    List<Open> open = new ArrayList<>();
    for (Line line : lines(orderId)) {
      shelf
          .book()
          .open(line.sku(), chosen.getOrDefault(line.id(), Chosen.NOTHING))
          .forEach(choice -> open.add(new Open(line.id(), line.title(), choice)));
    }
    return open;
  }

  /** A person chooses; the desk looks at the order again. */
  @Transactional
  public void choose(long orderId, long lineId, String choice, String sku, String actor) {
    orders.lock(orderId);
    Open question =
        open(orderId).stream()
            .filter(o -> o.lineId() == lineId && o.choice().name().equals(choice))
            .findFirst()
            .orElseThrow(() -> Problem.conflict("“" + choice + "” is chosen already"));
    if (question.choice().options().stream().noneMatch(o -> o.sku().equals(sku))) {
      throw Problem.invalid("sku", "‘" + sku + "’ is not among the choices");
    }
    keep(kits.shelf(), lineId, choice, sku);
    events.record(EventKind.CORRECTED, orderId, null, actor, choice + ": " + sku, "chosen");
    orders.wake(List.of(orderId));
  }

  private List<Kit.Choice> choose(Shelf shelf, Line line) {
    Map<String, String> chosen = new HashMap<>();
    db.select(ORDER_CHOICE.CHOICE, ITEM.SKU)
        .from(ORDER_CHOICE)
        .join(ITEM)
        .on(ITEM.ID.eq(ORDER_CHOICE.ITEM_ID))
        .where(ORDER_CHOICE.ORDER_LINE_ID.eq(line.id()))
        .forEach(r -> chosen.put(r.value1(), r.value2()));
    // what is chosen may bring in a kit with a choice of its own
    while (true) {
      List<Kit.Choice> open = shelf.book().open(line.sku(), new Chosen(chosen));
      boolean answered = false;
      for (Kit.Choice choice : open) {
        Optional<String> answer = answer(line.wishes(), choice);
        if (answer.isPresent()) {
          keep(shelf, line.id(), choice.name(), answer.get());
          chosen.put(choice.name(), answer.get());
          answered = true;
        }
      }
      if (!answered) {
        return open;
      }
    }
  }

  /** The answer in the order's own texts: a label or an SKU, under the choice's name. */
  private static Optional<String> answer(List<Wish> wishes, Kit.Choice choice) {
    return wishes.stream()
        .filter(w -> w.name().strip().equalsIgnoreCase(choice.name()))
        .flatMap(w ->
            choice.options().stream()
                .filter(o ->
                    o.label().equalsIgnoreCase(w.text().strip())
                        || o.sku().equalsIgnoreCase(w.text().strip())))
        .map(Kit.Option::sku)
        .findFirst();
  }

  private void keep(Shelf shelf, long lineId, String choice, String sku) {
    db.insertInto(ORDER_CHOICE)
        .set(ORDER_CHOICE.ORDER_LINE_ID, lineId)
        .set(ORDER_CHOICE.CHOICE, choice)
        .set(ORDER_CHOICE.ITEM_ID, shelf.id(sku))
        .execute();
  }

  private void explode(Shelf shelf, Line line) {
    Chosen chosen =
        new Chosen(
            db.select(ORDER_CHOICE.CHOICE, ITEM.SKU)
                .from(ORDER_CHOICE)
                .join(ITEM)
                .on(ITEM.ID.eq(ORDER_CHOICE.ITEM_ID))
                .where(ORDER_CHOICE.ORDER_LINE_ID.eq(line.id()))
                .fetchMap(ORDER_CHOICE.CHOICE, ITEM.SKU));
    Map<String, Long> units = new LinkedHashMap<>();
    shelf
        .book()
        .components(line.sku(), chosen)
        .forEach((sku, each) -> units.put(sku, each * line.units()));
    KitPrice price =
        KitPrice.of(
            shelf.ways().getOrDefault(line.sku(), KitPrice.Way.BY_LIST_PRICE),
            line.amount(),
            units,
            db.select(ITEM.SKU, ITEM.LIST_PRICE)
                .from(ITEM)
                .where(ITEM.SKU.in(units.keySet()))
                .fetchMap(ITEM.SKU, ITEM.LIST_PRICE));
    Kit kit = shelf.book().kit(line.sku());
    boolean loose = kit != null && kit.explode() == Explode.IN_PARTS;
    db.deleteFrom(ORDER_PART).where(ORDER_PART.ORDER_LINE_ID.eq(line.id())).execute();
    units.forEach((sku, quantity) ->
        db.insertInto(ORDER_PART)
            .set(ORDER_PART.ORDER_LINE_ID, line.id())
            .set(ORDER_PART.ITEM_ID, shelf.id(sku))
            .set(ORDER_PART.QUANTITY, quantity)
            .set(ORDER_PART.AMOUNT, price.parts().getOrDefault(sku, 0L))
            .set(ORDER_PART.LOOSE_IN_ONE, loose ? quantity / line.wanted() : null)
            .execute());
  }

  /** The lines that ask for kits and are wanted; those that no longer do lose their components. */
  private List<Line> lines(long orderId) {
    var parts =
        field(select(count()).from(ORDER_PART).where(ORDER_PART.ORDER_LINE_ID.eq(ORDER_LINE.ID)));
    List<Line> lines = new ArrayList<>();
    db.select(
            ORDER_LINE.ID,
            ORDER_LINE.TITLE,
            ITEM.SKU,
            ORDER_LINE.QUANTITY.minus(ORDER_LINE.CANCELLED),
            ORDER_LINE.UNITS_EACH,
            ORDER_LINE.UNIT_PRICE,
            ORDER_LINE.DISCOUNT,
            ORDER_LINE.PERSONALISATION,
            KIT.ITEM_ID)
        .from(ORDER_LINE)
        .leftJoin(KIT)
        .on(KIT.ITEM_ID.eq(ORDER_LINE.ITEM_ID))
        .leftJoin(ITEM)
        .on(ITEM.ID.eq(KIT.ITEM_ID))
        .where(ORDER_LINE.ORDER_ID.eq(orderId))
        .and(KIT.ITEM_ID.isNotNull().or(parts.gt(0)))
        .orderBy(ORDER_LINE.LINE_NO)
        .forEach(r -> {
          long open = r.value4();
          if (r.value9() == null || open == 0) {
            db.deleteFrom(ORDER_PART).where(ORDER_PART.ORDER_LINE_ID.eq(r.value1())).execute();
          } else {
            lines.add(
                new Line(
                    r.value1(),
                    r.value2(),
                    r.value3(),
                    open * r.value5(),
                    open,
                    Math.max(0, open * r.value6() - r.value7()),
                    wishes(r.value8())));
          }
        });
    return lines;
  }

  private List<Wish> wishes(@Nullable String kept) {
    return kept == null ? List.of() : List.of(json.readValue(kept, Wish[].class));
  }
}
