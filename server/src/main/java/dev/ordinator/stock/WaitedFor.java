package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.BACKORDER;
import static dev.ordinator.schema.Tables.EARMARK;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.greatest;
import static org.jooq.impl.DSL.select;
import static org.jooq.impl.DSL.sum;
import static org.jooq.impl.DSL.val;

import java.math.BigDecimal;
import org.jooq.Field;

/** What orders wait for, in statements over open backorders by their item. */
public final class WaitedFor {
  /** Units that they wait for, less those that are kept for them already; not below zero. */
  public static final Field<BigDecimal> UNITS =
      greatest(
          sum(BACKORDER.UNITS)
              .minus(
                  field(
                      select(coalesce(sum(EARMARK.UNITS), val(BigDecimal.ZERO)))
                          .from(EARMARK)
                          .where(EARMARK.ITEM_ID.eq(BACKORDER.ITEM_ID))
                          .and(EARMARK.CLOSED_AT.isNull())
                          .and(EARMARK.KIND.eq(Earmarks.Kind.WAITING.name())))),
          val(BigDecimal.ZERO));

  private WaitedFor() {}
}
