package dev.ordinator.backorders;

import dev.ordinator.backorders.QueueStore.Row;
import dev.ordinator.backorders.Queues.Seen;
import dev.ordinator.core.allocation.Places;
import dev.ordinator.core.allocation.SupplyQueue.Supplied;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.routing.Demands;
import dev.ordinator.rulebook.Editions;
import dev.ordinator.rulebook.Rulebook;
import dev.ordinator.stock.Expected;
import dev.ordinator.stock.Items;
import dev.ordinator.stock.Items.Goods;
import dev.ordinator.stock.Items.StockedItem;
import java.time.Instant;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The queue of one item, with what it waits for; and who is moved in it. */
@Service
class ItemQueue {
  private final QueueStore store;
  private final Queues queues;
  private final Items items;
  private final Expected expected;
  private final Editions editions;
  private final Events events;

  ItemQueue(
      QueueStore store,
      Queues queues,
      Items items,
      Expected expected,
      Editions editions,
      Events events) {
    this.store = store;
    this.queues = queues;
    this.items = items;
    this.expected = expected;
    this.editions = editions;
    this.events = events;
  }

  /**
   * A supply that is expected.
   *
   * @param counted units of it that are counted on, from {@code countedFrom} on
   */
  record Comes(
      long id,
      String node,
      String supplier,
      String number,
      long quantity,
      LocalDate due,
      long counted,
      LocalDate countedFrom) {}

  /**
   * Somebody in the queue.
   *
   * @param lacking false: the item is there, and goes with the rest of the order
   * @param inPart whether what is there of the order is sent meanwhile
   * @param readyOn when it is there, as things stand; null: no day in sight
   * @param waitsFor the supply that brings it; null: none, or it is there
   * @param others names of the other items that the order lacks
   * @param stuck there is enough, but no rung finds a way
   */
  record Waiter(
      long id,
      long orderId,
      String orderNumber,
      String buyer,
      String channel,
      int priority,
      boolean held,
      long units,
      boolean lacking,
      boolean inPart,
      Instant since,
      @Nullable LocalDate arriveBy,
      @Nullable LocalDate promisedOn,
      @Nullable LocalDate expectedOn,
      @Nullable LocalDate readyOn,
      @Nullable Long waitsFor,
      List<String> others,
      boolean stuck) {}

  /**
   * @param free units that nobody holds, of which {@code kept} are kept for those who wait
   * @param queue who is served first in front
   */
  record Sheet(
      long itemId,
      String sku,
      String name,
      LocalDate today,
      long free,
      long kept,
      List<Comes> supplies,
      List<Waiter> queue) {}

  Sheet of(long itemId) {
    StockedItem item = item(itemId);
    List<Row> queue = queue(itemId);
    Seen seen = queues.look(List.of(itemId), stuck(queue), Map.of());
    List<Comes> supplies = supplies(itemId, seen.today());
    Map<Long, List<String>> others = others(itemId, queue);
    Rulebook book = editions.live().body();
    return new Sheet(
        itemId,
        item.item().sku(),
        item.name(),
        seen.today(),
        seen.supplied().getOrDefault(itemId, Supplied.NOTHING).free(),
        seen.kept(itemId),
        supplies,
        queue.stream().map(row -> waiter(row, seen, supplies, others, book)).toList());
  }

  private static Waiter waiter(
      Row row, Seen seen, List<Comes> supplies, Map<Long, List<String>> others, Rulebook book) {
    LocalDate ready = seen.readyOn(row);
    return new Waiter(
        row.id(),
        row.orderId(),
        row.orderNumber(),
        row.buyer(),
        row.channel(),
        row.priority(),
        row.held(),
        row.units(),
        row.lacking(),
        Demands.goesInPart(book, row.ladder(), row.maySplit(), row.inPart()),
        row.since(),
        row.arriveBy(),
        row.promisedOn(),
        row.expectedOn(),
        ready,
        supplies.stream()
            .filter(s -> s.countedFrom().equals(ready))
            .map(Comes::id)
            .findFirst()
            .orElse(null),
        others.getOrDefault(row.orderId(), List.of()),
        row.stuck());
  }

  private List<Comes> supplies(long itemId, LocalDate today) {
    return expected.of(itemId).stream()
        .map(s ->
            new Comes(
                s.id(),
                s.node(),
                s.supplier(),
                s.number(),
                s.quantity(),
                s.due(),
                s.quantity() * s.confidence() / 100,
                (s.due().isBefore(today) ? today : s.due()).plusDays(s.slipDays())))
        .toList();
  }

  private Map<Long, List<String>> others(long itemId, List<Row> queue) {
    List<Row> rows =
        store.ofOrders(queue.stream().map(Row::orderId).distinct().toList()).values().stream()
            .flatMap(List::stream)
            .filter(row -> row.itemId() != itemId && row.lacking())
            .toList();
    Goods goods = items.byId(rows.stream().map(Row::itemId).distinct().toList());
    Map<Long, List<String>> others = new HashMap<>();
    rows.forEach(row ->
        others
            .computeIfAbsent(row.orderId(), o -> new ArrayList<>())
            .add(goods.of(row.itemId()).name()));
    return others;
  }

  /**
   * Who is put elsewhere.
   *
   * @param id the row that is moved
   * @param before the row in front of which it is put; null: to the end
   */
  record Move(long id, @Nullable Long before) {}

  /** For whom something changes; days as in {@link Waiter}. */
  record Effect(
      long id,
      String orderNumber,
      String buyer,
      int placeBefore,
      int placeAfter,
      @Nullable LocalDate readyBefore,
      @Nullable LocalDate readyAfter,
      @Nullable LocalDate promisedOn) {}

  /** What a move would do: the one that is moved first, then those whose day it changes. */
  List<Effect> preview(long itemId, Move move) {
    List<Row> now = queue(itemId);
    return effects(itemId, now, moved(now, move), move.id());
  }

  /**
   * Moves somebody; gives what it did.
   *
   * @throws Problem if the row, or the one in front of which it is put, has left the queue
   */
  @Transactional
  public List<Effect> move(long itemId, Move move, String actor) {
    store.lock(itemId);
    List<Row> now = queue(itemId);
    List<Row> then = moved(now, move);
    List<Effect> effects = effects(itemId, now, then, move.id());
    int at = places(then).getOrDefault(move.id(), 0);
    if (!place(then, at)) {
      store.renumber(itemId);
      place(moved(queue(itemId), move), at);
    }
    store.mark(itemId, true);
    effects.stream()
        .filter(e -> e.id() == move.id() && e.placeBefore() != e.placeAfter())
        .findFirst()
        .ifPresent(e ->
            events.record(
                EventKind.WAITING,
                then.get(at).orderId(),
                null,
                actor,
                "Moved to place %d of those who wait for %s"
                    .formatted(e.placeAfter(), item(itemId).name()),
                "was at place %d".formatted(e.placeBefore())));
    return effects;
  }

  /** Gives the one at an index a place between its neighbours; false if there is no room. */
  private boolean place(List<Row> queue, int at) {
    long id = queue.get(at).id();
    Row front = at == 0 ? null : queue.get(at - 1);
    Row back = at == queue.size() - 1 ? null : queue.get(at + 1);
    if (front == null && back == null) {
      return true;
    }
    if (front == null) {
      store.place(id, Places.before(Objects.requireNonNull(back).place()));
    } else if (back == null) {
      store.place(id, Places.behind(front.place()));
    } else if (front.place() < back.place()
        && Places.between(front.place(), back.place()).isPresent()) {
      store.place(id, Places.between(front.place(), back.place()).getAsLong());
    } else {
      return false;
    }
    return true;
  }

  private static List<Row> moved(List<Row> queue, Move move) {
    List<Row> then = new ArrayList<>(queue);
    Row moved = row(queue, move.id());
    then.remove(moved);
    Long before = move.before();
    then.add(before == null ? then.size() : then.indexOf(row(then, before)), moved);
    return then;
  }

  private static Row row(List<Row> queue, long id) {
    return queue.stream()
        .filter(row -> row.id() == id)
        .findFirst()
        .orElseThrow(() -> Problem.conflict("it has left the queue meanwhile; look again"));
  }

  private List<Effect> effects(long itemId, List<Row> now, List<Row> then, long moved) {
    Set<Long> stuck = stuck(now);
    Seen before = queues.look(List.of(itemId), stuck, Map.of());
    Seen after = queues.lookWith(itemId, then, stuck);
    Map<Long, Integer> was = places(now);
    Map<Long, Integer> is = places(then);
    Map<Boolean, List<Effect>> effects = new LinkedHashMap<>();
    for (Row row : then) {
      Effect effect =
          new Effect(
              row.id(),
              row.orderNumber(),
              row.buyer(),
              was.getOrDefault(row.id(), 0) + 1,
              is.getOrDefault(row.id(), 0) + 1,
              before.readyOn(row),
              after.readyOn(row),
              row.promisedOn());
      boolean self = row.id() == moved;
      if (self || !Objects.equals(effect.readyBefore(), effect.readyAfter())) {
        effects.computeIfAbsent(self, s -> new ArrayList<>()).add(effect);
      }
    }
    List<Effect> all = new ArrayList<>(effects.getOrDefault(true, List.of()));
    all.addAll(effects.getOrDefault(false, List.of()));
    return all;
  }

  private static Map<Long, Integer> places(List<Row> queue) {
    Map<Long, Integer> places = new HashMap<>();
    queue.forEach(row -> places.put(row.id(), places.size()));
    return places;
  }

  private static Set<Long> stuck(List<Row> queue) {
    Set<Long> stuck = new HashSet<>();
    queue.stream().filter(Row::stuck).forEach(row -> stuck.add(row.orderId()));
    return stuck;
  }

  private List<Row> queue(long itemId) {
    return store.queues(List.of(itemId)).getOrDefault(itemId, List.of());
  }

  private StockedItem item(long itemId) {
    StockedItem item = items.byId(List.of(itemId)).byId().get(itemId);
    if (item == null) {
      throw Problem.notFound("item " + itemId);
    }
    return item;
  }
}
