package dev.ordinator.e2e;

import com.microsoft.playwright.Browser;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.BrowserType;
import com.microsoft.playwright.Playwright;
import com.microsoft.playwright.assertions.PlaywrightAssertions;
import com.microsoft.playwright.options.ColorScheme;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;

/** The machine's Chromium, without a window. */
final class Chromium implements AutoCloseable {
  /** Milliseconds; nothing takes as long, but for a machine that has other work too. */
  private static final int PATIENCE = 60_000;

  private static final List<Path> PLACES =
      List.of(Path.of("/usr/bin/chromium"), Path.of("/usr/bin/chromium-browser"));

  private final Playwright playwright = Playwright.create();
  private final Browser browser =
      playwright
          .chromium()
          .launch(
              new BrowserType.LaunchOptions()
                  .setExecutablePath(
                      PLACES.stream()
                          .filter(Files::isExecutable)
                          .findFirst()
                          .orElseThrow(() ->
                              new IllegalStateException(
                                  "Chromium is missing: apt-get install -y chromium")))
                  .setArgs(
                      List.of(
                          "--no-sandbox",
                          "--disable-dev-shm-usage",
                          "--disable-background-networking",
                          "--force-color-profile=srgb")));

  /** A fresh profile, as of somebody else. */
  BrowserContext profile(int width, int height, ColorScheme scheme) {
    BrowserContext context =
        browser.newContext(
            new Browser.NewContextOptions()
                .setViewportSize(width, height)
                .setColorScheme(scheme)
                .setLocale("en-GB")
                .setTimezoneId("Europe/Amsterdam"));
    context.setDefaultTimeout(PATIENCE);
    PlaywrightAssertions.setDefaultAssertionTimeout(PATIENCE);
    return context;
  }

  @Override
  public void close() {
    playwright.close();
  }
}
