package dev.ordinator.orders;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.ORDER_EXCLUDED_NODE;
import static dev.ordinator.schema.Tables.ORDER_PREFERRED_NODE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static org.jooq.impl.DSL.coalesce;

import java.util.Optional;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Table;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** What rules said of how orders are to be sent. */
@Component
public class RoutingWishes {
  private final DSLContext db;

  RoutingWishes(DSLContext db) {
    this.db = db;
  }

  /**
   * @param ladder the name of a ladder; null: the edition's first
   * @param maySplit false: all of it in one consignment; null: as the ladder allows
   * @param inPart whether what is there is sent while the rest waits; null: as the ladder says
   * @param excluded codes of nodes, as are {@code preferred}
   */
  public record Wishes(
      @Nullable String ladder,
      @Nullable Boolean maySplit,
      @Nullable Boolean inPart,
      Set<String> excluded,
      Set<String> preferred) {}

  public Wishes of(long orderId) {
    var order =
        db.select(
                SALES_ORDER.LADDER,
                SALES_ORDER.MAY_SPLIT,
                coalesce(SALES_ORDER.IN_PART, CHANNEL.IN_PART))
            .from(SALES_ORDER)
            .join(CHANNEL)
            .on(CHANNEL.ID.eq(SALES_ORDER.CHANNEL_ID))
            .where(SALES_ORDER.ID.eq(orderId))
            .fetchSingle();
    return new Wishes(
        order.value1(),
        order.value2(),
        order.value3(),
        db.select(ORDER_EXCLUDED_NODE.NODE)
            .from(ORDER_EXCLUDED_NODE)
            .where(ORDER_EXCLUDED_NODE.ORDER_ID.eq(orderId))
            .fetchSet(ORDER_EXCLUDED_NODE.NODE),
        db.select(ORDER_PREFERRED_NODE.NODE)
            .from(ORDER_PREFERRED_NODE)
            .where(ORDER_PREFERRED_NODE.ORDER_ID.eq(orderId))
            .fetchSet(ORDER_PREFERRED_NODE.NODE));
  }

  /** What becomes of an order for which there is not enough; empty: nothing was said. */
  public record Short(
      Optional<Boolean> mayWait, Optional<Boolean> inPart, Optional<Boolean> mayReplace) {}

  /** Rules say something more: what they don't mention stays as it was. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void add(
      long orderId,
      Optional<String> ladder,
      Optional<Boolean> maySplit,
      Short whenShort,
      Set<String> excluded,
      Set<String> preferred) {
    ladder.ifPresent(l -> set(orderId, SALES_ORDER.LADDER, l));
    maySplit.ifPresent(may -> set(orderId, SALES_ORDER.MAY_SPLIT, may));
    whenShort.mayWait().ifPresent(may -> set(orderId, SALES_ORDER.MAY_WAIT, may));
    whenShort.inPart().ifPresent(may -> set(orderId, SALES_ORDER.IN_PART, may));
    whenShort.mayReplace().ifPresent(may -> set(orderId, SALES_ORDER.MAY_REPLACE, may));
    excluded.forEach(node ->
        addNode(
            ORDER_EXCLUDED_NODE,
            ORDER_EXCLUDED_NODE.ORDER_ID,
            ORDER_EXCLUDED_NODE.NODE,
            orderId,
            node));
    preferred.forEach(node ->
        addNode(
            ORDER_PREFERRED_NODE,
            ORDER_PREFERRED_NODE.ORDER_ID,
            ORDER_PREFERRED_NODE.NODE,
            orderId,
            node));
  }

  private <T> void set(long orderId, Field<T> field, T value) {
    db.update(SALES_ORDER).set(field, value).where(SALES_ORDER.ID.eq(orderId)).execute();
  }

  private void addNode(
      Table<?> table, Field<Long> order, Field<String> node, long orderId, String code) {
    db.insertInto(table, order, node).values(orderId, code).onDuplicateKeyIgnore().execute();
  }
}
