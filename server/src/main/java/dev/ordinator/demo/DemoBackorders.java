package dev.ordinator.demo;

import static dev.ordinator.schema.Tables.EXPECTED_SUPPLY;
import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.NODE;

import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.stock.Expected;
import dev.ordinator.stock.SellingAhead;
import java.time.Clock;
import java.time.LocalDate;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** What the merchant waits for: supplies, one that slips, and goods of a season to come. */
@Component
class DemoBackorders {
  private static final String MANAGER = "mara";
  private static final int A_SEASON_AHEAD = 30;

  private final DSLContext db;
  private final Expected expected;
  private final SellingAhead ahead;
  private final OrdinatorSettings settings;
  private final Clock clock;

  DemoBackorders(
      DSLContext db,
      Expected expected,
      SellingAhead ahead,
      OrdinatorSettings settings,
      Clock clock) {
    this.db = db;
    this.expected = expected;
    this.ahead = ahead;
    this.settings = settings;
    this.clock = clock;
  }

  /** Foundation is to come soon; of what sells best a little is always coming. */
  void expect() {
    LocalDate today = today();
    long stillwater =
        db.select(NODE.ID).from(NODE).where(NODE.CODE.eq("STW")).fetchSingle().value1();
    int nth = 0;
    for (var item : db.select(ITEM.ID, ITEM.SKU).from(ITEM).orderBy(ITEM.ID).fetch()) {
      boolean foundation = item.value2().startsWith("FO-");
      if (foundation || nth++ % 9 == 0) {
        expected.note(
            item.value1(),
            new Expected.Wish(
                stillwater,
                foundation ? "Quill & Comb" : "Oakum Joinery",
                foundation ? "PO-4098" : "PO-%d".formatted(4_100 + nth / 27),
                foundation ? 240L : 40L,
                today.plusDays(foundation ? 9 : 10 + nth / 27 * 5),
                foundation ? 80 : 100,
                foundation ? 3 : 0),
            MANAGER);
      }
    }
  }

  /** Queen cages are sold now and sent in spring. */
  void sellAhead() {
    long cages =
        db.select(ITEM.ID)
            .from(ITEM)
            .where(ITEM.SKU.eq(DemoWorld.SPRING_SKU))
            .fetchSingle()
            .value1();
    LocalDate spring = LocalDate.of(today().getYear(), 3, 1);
    boolean isAhead = spring.isAfter(today().plusDays(A_SEASON_AHEAD));
    ahead.set(
        cages,
        new SellingAhead.Ahead(true, isAhead ? spring : spring.plusYears(1), 200L, 0),
        MANAGER);
  }

  /** Foundation comes later than was said. */
  void slip() {
    db.select(EXPECTED_SUPPLY.ID)
        .from(EXPECTED_SUPPLY)
        .join(ITEM)
        .on(ITEM.ID.eq(EXPECTED_SUPPLY.ITEM_ID))
        .where(ITEM.SKU.startsWith("FO-"))
        .and(EXPECTED_SUPPLY.OPEN.isTrue())
        .fetch(EXPECTED_SUPPLY.ID)
        .forEach(id -> expected.slip(id, today().plusDays(16), MANAGER));
  }

  private LocalDate today() {
    return LocalDate.ofInstant(clock.instant(), settings.timeZone());
  }
}
