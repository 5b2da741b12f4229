package dev.ordinator.testing;

import static dev.ordinator.testing.TestWorld.await;

import org.junit.jupiter.api.extension.AfterAllCallback;
import org.junit.jupiter.api.extension.BeforeAllCallback;
import org.junit.jupiter.api.extension.ExtensionContext;
import tools.jackson.databind.JsonNode;

/** A started world for one test class, with the manager at her screen. */
public final class OwnWorld implements BeforeAllCallback, AfterAllCallback {
  private TestWorld world;
  private Visitor mara;

  @Override
  public void beforeAll(ExtensionContext context) throws Exception {
    world = TestWorld.started();
    mara = world.visitor("mara");
  }

  @Override
  public void afterAll(ExtensionContext context) {
    world.close();
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
        .orElseGet(() -> mara.get("/none").body());
  }

  /** Waits until an order has come to a stage; gives its row. */
  public JsonNode awaitStage(String externalId, String stage) {
    await(externalId + " is " + stage)
        .until(() -> order(externalId).path("stage").asString("").equals(stage));
    return order(externalId);
  }

  /** Waits until an order bears a mark; gives its row. */
  public JsonNode awaitMark(String externalId, String mark) {
    await(externalId + " is marked " + mark)
        .until(() -> order(externalId).path("marks").toString().contains(mark));
    return order(externalId);
  }
}
