package dev.ordinator.e2e;

import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.ColorScheme;
import java.nio.file.Path;
import java.util.List;

/**
 * Takes the pictures of docs/screenshots from a running demo. Arguments: its address, the folder.
 */
public final class Shots {
  /**
   * @param keys pressed once the first row is there
   * @param buttons clicked after that
   * @param ready what is seen when all is there
   */
  private record Shot(
      String file,
      String path,
      ColorScheme scheme,
      List<String> keys,
      List<String> buttons,
      String ready) {
    Shot(String file, String path, ColorScheme scheme, List<String> keys, String ready) {
      this(file, path, scheme, keys, List.of(), ready);
    }
  }

  private static final List<Shot> SHOTS =
      List.of(
          new Shot("today", "/today", ColorScheme.LIGHT, List.of(), "In the last 24 hours"),
          new Shot("orders", "/orders?tab=why", ColorScheme.LIGHT, List.of("j", "j"), "Candidate"),
          new Shot(
              "orders-dark",
              "/orders?pile=DONE&tab=timeline",
              ColorScheme.DARK,
              List.of("j", "j", "j"),
              "Order received"),
          new Shot("dispatch", "/dispatch", ColorScheme.LIGHT, List.of(), "Due board"),
          new Shot(
              "packing-bench", "/dispatch", ColorScheme.LIGHT, List.of("Enter"), "In the parcel"),
          new Shot("stock", "/stock", ColorScheme.LIGHT, List.of("j", "j", "j"), "Can be promised"),
          new Shot(
              "kit", "/stock?search=FIRST-YEAR", ColorScheme.LIGHT, List.of("j"), "runs out first"),
          new Shot(
              "lots",
              "/stock?search=SYRUP-2",
              ColorScheme.LIGHT,
              List.of("j"),
              List.of("SYRUP2604"),
              "orders got it"),
          new Shot("count", "/stock/counts/2", ColorScheme.LIGHT, List.of(), "counted by"),
          new Shot("returns", "/returns?pile=OWED", ColorScheme.LIGHT, List.of("j"), "goes back"),
          new Shot(
              "backorders", "/backorders", ColorScheme.LIGHT, List.of("j"), "Promised to arrive"),
          new Shot(
              "allocation-run",
              "/backorders/runs",
              ColorScheme.LIGHT,
              List.of(),
              List.of("New run…", "See who gets what"),
              "would go to"),
          new Shot("rulebook", "/rulebook?rule=glass", ColorScheme.LIGHT, List.of(), "of 30 days"),
          new Shot(
              "rehearsal",
              "/rulebook?tab=rehearsal",
              ColorScheme.LIGHT,
              List.of(),
              "orders would go otherwise"),
          new Shot("network", "/network", ColorScheme.LIGHT, List.of(), "Mon to Fri"),
          new Shot("suppliers", "/suppliers", ColorScheme.LIGHT, List.of(), "none yet"),
          new Shot("channels", "/channels", ColorScheme.LIGHT, List.of(), "Our item"),
          new Shot(
              "stock-feed",
              "/channels?c=MARKET&tab=feed",
              ColorScheme.LIGHT,
              List.of(),
              "it is the first push"),
          new Shot(
              "offer-items",
              "/channels?c=MARKET&tab=offers&search=hive",
              ColorScheme.LIGHT,
              List.of(),
              "HB-DEEP-CED"));

  private Shots() {}

  public static void main(String[] args) {
    try (Chromium browser = new Chromium()) {
      for (Shot shot : SHOTS) {
        try (Desk mara = Desk.of(browser, args[0], "mara", 1280, 800, shot.scheme())) {
          // keys need a row to begin with; buttons don't, and what they make may be the first row
          if (shot.buttons().isEmpty() || !shot.keys().isEmpty()) {
            mara.list(shot.path());
          } else {
            mara.go(shot.path());
          }
          mara.press(shot.keys().toArray(String[]::new));
          shot.buttons().forEach(mara::click);
          mara.sees(shot.ready());
          mara.page()
              .screenshot(
                  new Page.ScreenshotOptions().setPath(Path.of(args[1], shot.file() + ".png")));
        }
      }
    }
  }
}
