package dev.ordinator.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.testing.TestWorld;
import dev.ordinator.testing.Visitor;
import java.io.IOException;
import java.io.UncheckedIOException;
import org.junit.jupiter.api.extension.BeforeAllCallback;
import org.junit.jupiter.api.extension.ExtensionContext;
import org.junit.jupiter.api.extension.ExtensionContext.Namespace;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.MissingNode;

/** The demo world and a browser, once for all interface tests; closed when the last has ended. */
public final class Stage implements BeforeAllCallback {
  private static final class Set implements AutoCloseable {
    final TestWorld world;
    final Chromium browser = new Chromium();

    Set() {
      try {
        world = TestWorld.started();
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
    }

    @Override
    public void close() {
      browser.close();
      world.close();
    }
  }

  private static Set set;

  @Override
  public void beforeAll(ExtensionContext context) {
    set =
        context
            .getRoot()
            .getStore(Namespace.create(Stage.class))
            .getOrComputeIfAbsent("set", key -> new Set(), Set.class);
  }

  static TestWorld world() {
    return set.world;
  }

  static Chromium browser() {
    return set.browser;
  }

  static Desk desk(String username) {
    return Desk.of(set.browser, set.world.address(), username);
  }

  /** Waits until the shop's order is with its nodes; gives our id of it. */
  static long released(String externalId) {
    Visitor mara = set.world.visitor("mara");
    TestWorld.await(externalId + " is released")
        .untilAsserted(() ->
            assertThat(order(mara, externalId).path("stage").asString())
                .as("%s", order(mara, externalId))
                .isEqualTo("RELEASED"));
    return order(mara, externalId).path("id").asLong();
  }

  private static JsonNode order(Visitor mara, String externalId) {
    return mara.read("/api/orders?pile=ALL&limit=500")
        .path("rows")
        .valueStream()
        .filter(row -> row.path("externalId").asString().equals(externalId))
        .findFirst()
        .orElse(MissingNode.getInstance());
  }
}
