package dev.ordinator.e2e;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.ColorScheme;
import java.nio.file.Path;
import java.util.List;

/**
 * Takes the pictures of docs/screenshots from a running demo. Arguments: its address, the folder.
 */
public final class Shots {
  private record Shot(String file, String path, ColorScheme scheme, List<String> keys) {
    Shot(String file, String path, String... keys) {
      this(file, path, ColorScheme.LIGHT, List.of(keys));
    }
  }

  private static final List<Shot> SHOTS =
      List.of(
          new Shot("today", "/today"),
          new Shot("orders", "/orders?tab=why", "j", "j", "j"),
          new Shot(
              "orders-dark", "/orders?pile=ALL&tab=timeline", ColorScheme.DARK, List.of("j", "j")),
          new Shot("dispatch", "/dispatch"),
          new Shot("packing-bench", "/dispatch", "Enter"),
          new Shot("stock", "/stock", "j", "j"),
          new Shot("channels", "/channels"));

  private Shots() {}

  public static void main(String[] args) {
    try (Chromium browser = new Chromium()) {
      for (Shot shot : SHOTS) {
        try (Desk mara = Desk.of(browser, args[0], "mara", 1280, 800, shot.scheme())) {
          mara.go(shot.path());
          mara.settle();
          mara.press(shot.keys().toArray(String[]::new));
          mara.settle();
          mara.page()
              .screenshot(
                  new Page.ScreenshotOptions().setPath(Path.of(args[1], shot.file() + ".png")));
        }
      }
    }
  }
}
