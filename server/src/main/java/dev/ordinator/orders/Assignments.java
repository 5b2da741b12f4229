package dev.ordinator.orders;

import static dev.ordinator.schema.Tables.APP_USER;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static org.jooq.impl.DSL.count;

import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import java.util.Collection;
import java.util.List;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record2;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Who looks after orders, and the lists on which they stand for people to work off. */
@Service
public class Assignments {
  private static final int LONGEST_LIST = 40;

  private final DSLContext db;
  private final Events events;

  Assignments(DSLContext db, Events events) {
    this.db = db;
    this.events = events;
  }

  /** Somebody who may look after orders. */
  public record Colleague(String username, String name) {}

  /**
   * @param open orders on it that are open
   */
  public record OrderList(String name, int open) {}

  /** Everybody who may change orders, by the alphabet. */
  public List<Colleague> colleagues() {
    return db.select(APP_USER.USERNAME, APP_USER.DISPLAY_NAME)
        .from(APP_USER)
        .where(APP_USER.ROLE.eq("MANAGER"))
        .orderBy(APP_USER.DISPLAY_NAME)
        .fetch(r -> new Colleague(r.value1(), r.value2()));
  }

  /** Lists with open orders on them. */
  public List<OrderList> lists() {
    return db.select(SALES_ORDER.LIST_NAME, count())
        .from(SALES_ORDER)
        .where(SALES_ORDER.LIST_NAME.isNotNull())
        .and(SALES_ORDER.OPEN)
        .groupBy(SALES_ORDER.LIST_NAME)
        .orderBy(SALES_ORDER.LIST_NAME)
        .fetch(r -> new OrderList(r.value1(), r.value2()));
  }

  /**
   * A colleague looks after orders from now on.
   *
   * @param username null: nobody in particular does
   * @throws Problem if nobody logs in by that name
   */
  @Transactional
  public void assign(Collection<Long> orderIds, @Nullable String username, String actor) {
    Record2<Long, String> colleague = username == null ? null : colleague(username);
    change(
        orderIds,
        SALES_ORDER.ASSIGNED_TO,
        colleague == null ? null : colleague.value1(),
        colleague == null ? "Nobody’s in particular" : "For " + colleague.value2(),
        actor);
  }

  /**
   * Orders stand on a list from now on.
   *
   * @param list null: on none
   * @throws Problem if its name is too long
   */
  @Transactional
  public void putOn(Collection<Long> orderIds, @Nullable String list, String actor) {
    String name = list == null || list.isBlank() ? null : list.strip();
    if (name != null && name.length() > LONGEST_LIST) {
      throw Problem.invalid("list", "at most %d characters".formatted(LONGEST_LIST));
    }
    change(
        orderIds,
        SALES_ORDER.LIST_NAME,
        name,
        name == null ? "On no list" : "On the list “" + name + "”",
        actor);
  }

  /** Only what is otherwise is changed, and told. */
  private <T> void change(
      Collection<Long> orderIds, Field<T> field, @Nullable T value, String words, String actor) {
    for (long order : orderIds) {
      int changed =
          db.update(SALES_ORDER)
              .set(field, value)
              .where(SALES_ORDER.ID.eq(order))
              .and(field.isDistinctFrom(value))
              .execute();
      if (changed > 0) {
        events.record(EventKind.ASSIGNED, order, actor, words);
      }
    }
  }

  private Record2<Long, String> colleague(String username) {
    return db.select(APP_USER.ID, APP_USER.DISPLAY_NAME)
        .from(APP_USER)
        .where(APP_USER.USERNAME.eq(username))
        .fetchOptional()
        .orElseThrow(() -> Problem.invalid("to", "nobody logs in as ‘" + username + "’"));
  }
}
