package dev.ordinator.stock;

import static dev.ordinator.schema.Tables.STOCK_LEVEL;

import dev.ordinator.core.stock.StockLevel;
import java.util.List;
import org.jooq.Field;
import org.jooq.Record;

/** A level's row in core's terms. */
public final class Levels {
  /** {@link StockLevel#available}, but below zero if safety stock is not reached. */
  public static final Field<Long> FREE =
      STOCK_LEVEL
          .ON_HAND
          .minus(STOCK_LEVEL.ALLOCATED)
          .minus(STOCK_LEVEL.SAFETY)
          .minus(STOCK_LEVEL.EARMARKED)
          .minus(STOCK_LEVEL.SHORT_DATED);

  static final List<Field<Long>> FIELDS =
      List.of(
          STOCK_LEVEL.ON_HAND,
          STOCK_LEVEL.ALLOCATED,
          STOCK_LEVEL.SAFETY,
          STOCK_LEVEL.EARMARKED,
          STOCK_LEVEL.SHORT_DATED);

  private Levels() {}

  /** From a row with the {@link #FIELDS}. */
  static StockLevel of(Record r) {
    return new StockLevel(
        r.get(STOCK_LEVEL.ON_HAND),
        r.get(STOCK_LEVEL.ALLOCATED),
        r.get(STOCK_LEVEL.SAFETY),
        r.get(STOCK_LEVEL.EARMARKED),
        r.get(STOCK_LEVEL.SHORT_DATED));
  }
}
