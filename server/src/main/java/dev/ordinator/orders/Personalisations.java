package dev.ordinator.orders;

import static dev.ordinator.schema.Tables.ORDER_LINE;

import dev.ordinator.orders.NewOrder.Wish;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import tools.jackson.databind.json.JsonMapper;

/** What is to be made of an order's lines: texts, files and answers of its buyer. */
@Component
public class Personalisations {
  private final DSLContext db;
  private final JsonMapper json;

  Personalisations(DSLContext db, JsonMapper json) {
    this.db = db;
    this.json = json;
  }

  /** By line; lines of which nothing is to be made are left out. */
  public Map<Long, List<Wish>> ofOrder(long orderId) {
    return db.select(ORDER_LINE.ID, ORDER_LINE.PERSONALISATION)
        .from(ORDER_LINE)
        .where(ORDER_LINE.ORDER_ID.eq(orderId))
        .and(ORDER_LINE.PERSONALISATION.isNotNull())
        .fetchMap(r -> r.value1(), r -> List.of(json.readValue(r.value2(), Wish[].class)));
  }
}
