package dev.ordinator.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import com.deque.html.axecore.playwright.AxeBuilder;
import com.microsoft.playwright.BrowserContext;
import com.microsoft.playwright.Locator;
import com.microsoft.playwright.Page;
import com.microsoft.playwright.options.AriaRole;
import com.microsoft.playwright.options.ColorScheme;
import dev.ordinator.demo.DemoWorld;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicInteger;
import org.assertj.core.api.Assertions;

/** Somebody at the application, with what a person does there. */
final class Desk implements AutoCloseable {
  /** What axe calls them; lesser findings are advice. */
  private static final Set<String> GRAVE = Set.of("serious", "critical");

  private static final List<String> CONTRAST = List.of("color-contrast");

  /** Where contrast was looked at. */
  private static final Set<String> CONTRAST_SEEN = ConcurrentHashMap.newKeySet();

  /** Other processes take pictures, too. */
  private static final long SELF = ProcessHandle.current().pid();

  private static final AtomicInteger DESKS = new AtomicInteger();

  private final BrowserContext profile;
  private final Page page;
  private final String address;
  private final List<String> errors = new ArrayList<>();

  private Desk(BrowserContext profile, String address) {
    this.profile = profile;
    this.address = address;
    this.page = profile.newPage();
    page.onPageError(errors::add);
    page.navigate(address + "/");
  }

  static Desk visitor(Chromium browser, String address) {
    return new Desk(browser.profile(1280, 800, ColorScheme.LIGHT), address);
  }

  static Desk of(Chromium browser, String address, String username) {
    return visitor(browser, address).logIn(username);
  }

  static Desk of(
      Chromium browser,
      String address,
      String username,
      int width,
      int height,
      ColorScheme scheme) {
    return new Desk(browser.profile(width, height, scheme), address).logIn(username);
  }

  Desk logIn(String username) {
    String password =
        DemoWorld.LOGINS.stream()
            .filter(l -> l.username().equals(username))
            .findFirst()
            .orElseThrow()
            .password();
    page.getByLabel("Log-in name").fill(username);
    page.getByLabel("Password").fill(password);
    page.keyboard().press("Enter");
    assertThat(views()).isVisible();
    assertThat(page.locator("main h1")).isVisible(); // the first view, before another is opened
    return this;
  }

  Page page() {
    return page;
  }

  /** Opens a view by its address, such as {@code /orders?pile=STUCK}. */
  Desk go(String path) {
    page.navigate(address + "/#" + path);
    return this;
  }

  /** Opens a list, and waits for its first row. */
  Desk list(String path) {
    go(path);
    assertThat(rows().first()).isVisible();
    return this;
  }

  /** Rows of lists; those of a board begin with a heading. */
  Locator rows() {
    return page.locator("main tbody tr:not([aria-hidden]):not(:has(th))");
  }

  /** What the find-anything field found. */
  Locator found() {
    return page.locator("#found [role=option]");
  }

  Desk press(String... keys) {
    for (String key : keys) {
      page.keyboard().press(key);
    }
    return this;
  }

  void click(String button) {
    button(button).click();
  }

  Locator button(String name) {
    return page.getByRole(AriaRole.BUTTON, role(name).setExact(true)).first();
  }

  Locator link(String name) {
    return page.getByRole(AriaRole.LINK, role(name)).first();
  }

  Locator field(String label) {
    return page.getByLabel(label).first();
  }

  void sees(String text) {
    assertThat(page.getByText(text).first()).isVisible();
  }

  void seesHeading(String text) {
    assertThat(page.getByRole(AriaRole.HEADING, role(text)).first()).isVisible();
  }

  /** A part of the order that is open in the inspector. */
  Locator tab(String name) {
    return page.locator("aside nav button").filter(new Locator.FilterOptions().setHasText(name));
  }

  Locator views() {
    return page.getByRole(AriaRole.NAVIGATION, role("Views"));
  }

  /** The row of a table that holds a text. */
  Locator row(String text) {
    return page.getByRole(AriaRole.ROW)
        .filter(new Locator.FilterOptions().setHasText(text))
        .first();
  }

  /**
   * No barrier of weight in what is shown now. Contrast takes longest and hangs on a view's
   * colours, not on its content: it is looked at once for each view and dialog, in the light and in
   * the dark.
   */
  void isAccessible() {
    if (CONTRAST_SEEN.add(place())) {
      hasNoBarrier(new AxeBuilder(page), ColorScheme.LIGHT);
      page.emulateMedia(new Page.EmulateMediaOptions().setColorScheme(ColorScheme.DARK));
      hasNoBarrier(new AxeBuilder(page).withRules(CONTRAST), ColorScheme.DARK);
      page.emulateMedia(new Page.EmulateMediaOptions().setColorScheme(ColorScheme.LIGHT));
    } else {
      hasNoBarrier(new AxeBuilder(page).disableRules(CONTRAST), ColorScheme.LIGHT);
    }
  }

  /** The view without what it shows of, and the dialog that is open, if one is. */
  private String place() {
    String view = page.url().replaceFirst("^[^#]*", "").replaceAll("\\d+", "1");
    Locator dialog = page.getByRole(AriaRole.DIALOG);
    String title =
        dialog.count() == 0 ? "" : dialog.first().innerText().lines().findFirst().orElse("");
    return view + " " + title.replaceAll("\\d+", "1");
  }

  private void hasNoBarrier(AxeBuilder axe, ColorScheme scheme) {
    var grave =
        axe.analyze().getViolations().stream()
            .filter(v -> GRAVE.contains(v.getImpact()))
            .map(v -> v.getId() + " " + v.getHelp() + ": " + v.getNodes().getFirst().getHtml())
            .toList();
    Assertions.assertThat(grave).as("%s, %s", page.url(), scheme).isEmpty();
  }

  private static Page.GetByRoleOptions role(String name) {
    return new Page.GetByRoleOptions().setName(name);
  }

  @Override
  public void close() {
    // what was on the screen at the end, for whoever looks into a failure
    page.screenshot(
        new Page.ScreenshotOptions()
            .setPath(Path.of("target", "desks", SELF + "-" + DESKS.incrementAndGet() + ".png")));
    profile.close();
    Assertions.assertThat(errors).as("errors of the page").isEmpty();
  }
}
