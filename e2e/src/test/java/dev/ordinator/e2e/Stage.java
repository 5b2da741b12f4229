package dev.ordinator.e2e;

import dev.ordinator.testing.TestWorld;
import java.io.IOException;
import java.io.UncheckedIOException;
import org.junit.jupiter.api.extension.BeforeAllCallback;
import org.junit.jupiter.api.extension.ExtensionContext;
import org.junit.jupiter.api.extension.ExtensionContext.Namespace;

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
}
