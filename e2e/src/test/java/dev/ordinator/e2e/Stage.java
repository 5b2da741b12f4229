package dev.ordinator.e2e;

import dev.ordinator.testing.TestWorld;
import dev.ordinator.testing.Visitor;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.function.Predicate;
import java.util.stream.Stream;
import org.junit.jupiter.api.extension.BeforeAllCallback;
import org.junit.jupiter.api.extension.ExtensionContext;
import org.junit.jupiter.api.extension.ExtensionContext.Namespace;
import tools.jackson.databind.JsonNode;

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
    Predicate<JsonNode> isIt = row -> row.path("externalId").asString().equals(externalId);
    TestWorld.await(externalId + " is released")
        .until(() ->
            orders(mara)
                .filter(isIt)
                .anyMatch(row -> row.path("stage").asString().equals("RELEASED")));
    return orders(mara).filter(isIt).findFirst().orElseThrow().path("id").asLong();
  }

  private static Stream<JsonNode> orders(Visitor mara) {
    return mara.read("/api/orders?pile=ALL&limit=500").path("rows").valueStream();
  }
}
