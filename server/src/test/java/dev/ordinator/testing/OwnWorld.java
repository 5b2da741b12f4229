package dev.ordinator.testing;

import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.testing.TestWorld.await;

import dev.ordinator.core.orders.Stage;
import org.awaitility.core.ConditionTimeoutException;
import org.junit.jupiter.api.extension.BeforeAllCallback;
import org.junit.jupiter.api.extension.ExtensionContext;
import tools.jackson.databind.JsonNode;

/** The world for one test class, as if new, with the manager at her screen. */
public final class OwnWorld implements BeforeAllCallback {
  private TestWorld world;
  private Visitor mara;

  @Override
  public void beforeAll(ExtensionContext context) throws Exception {
    world = TestWorld.fresh();
    mara = world.visitor("mara");
  }

  public TestWorld world() {
    return world;
  }

  public Visitor mara() {
    return mara;
  }

  /** An order's row in the worklist, by the shop's own id; a missing node if it is not in yet. */
  public JsonNode order(String externalId) {
    return mara.read("/api/orders?pile=ALL&limit=500")
        .path("rows")
        .valueStream()
        .filter(row -> row.path("externalId").asString().equals(externalId))
        .findFirst()
        .orElseGet(() -> Visitor.nothing());
  }

  /** An item's row in the stock grid. */
  public JsonNode item(String sku) {
    return mara.read("/api/stock?search=" + sku)
        .path("items")
        .path("rows")
        .valueStream()
        .filter(row -> row.path("sku").asString().equals(sku))
        .findFirst()
        .orElseThrow();
  }

  public long itemId(String sku) {
    return item(sku).path("id").asLong();
  }

  public long nodeId(String code) {
    return world.db().select(NODE.ID).from(NODE).where(NODE.CODE.eq(code)).fetchSingle().value1();
  }

  /**
   * What a node has of an item, as the item's sheet shows it; a missing node if it never had any.
   */
  public JsonNode cell(String sku, String node) {
    long id = nodeId(node);
    return mara.read("/api/stock/items/" + itemId(sku))
        .path("item")
        .path("cells")
        .valueStream()
        .filter(c -> c.path("nodeId").asLong() == id)
        .findFirst()
        .orElseGet(() -> Visitor.nothing());
  }

  /** Units over all nodes. */
  public long onHand(String sku) {
    return item(sku).path("cells").valueStream().mapToLong(c -> c.path("onHand").asLong()).sum();
  }

  /** Waits until an order has come to a stage, or past it: the desk is fast. Gives its row. */
  public JsonNode awaitStage(String externalId, String stage) {
    Stage awaited = Stage.valueOf(stage);
    try {
      await(externalId + " is " + stage).until(() -> hasCome(externalId, awaited));
    } catch (ConditionTimeoutException e) {
      throw new AssertionError(externalId + " is not " + stage + ": " + sheet(externalId), e);
    }
    return order(externalId);
  }

  /** All that is known of an order. */
  private JsonNode sheet(String externalId) {
    return mara.read("/api/orders/" + order(externalId).path("id").asLong());
  }

  /** By a small query: it is asked often. */
  private boolean hasCome(String externalId, Stage awaited) {
    Stage at =
        world
            .db()
            .select(SALES_ORDER.STAGE)
            .from(SALES_ORDER)
            .where(SALES_ORDER.EXTERNAL_ID.eq(externalId))
            .fetchAny(r -> Stage.valueOf(r.value1()));
    return at == awaited
        || (at != null
            && at != Stage.CANCELLED
            && awaited != Stage.CANCELLED
            && at.compareTo(awaited) > 0);
  }

  /** Waits until an order bears a mark; gives its row. */
  public JsonNode awaitMark(String externalId, String mark) {
    await(externalId + " is marked " + mark)
        .until(() -> order(externalId).path("marks").toString().contains(mark));
    return order(externalId);
  }
}
