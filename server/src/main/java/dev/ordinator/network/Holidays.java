package dev.ordinator.network;

import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.NODE_HOLIDAY;

import de.focus_shift.jollyday.core.HolidayManager;
import de.focus_shift.jollyday.core.ManagerParameters;
import dev.ordinator.platform.Problem;
import java.time.Clock;
import java.time.LocalDate;
import java.time.Year;
import java.time.ZoneId;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;
import org.jooq.DSLContext;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Days on which nodes don't work year by year, and the public ones of their countries. */
@Service
class Holidays {
  private static final int MOST = 200;
  private static final int YEARS_AHEAD = 10;

  private final DSLContext db;
  private final Clock clock;

  Holidays(DSLContext db, Clock clock) {
    this.db = db;
    this.clock = clock;
  }

  /** A public holiday of a whole country. */
  record Public(LocalDate day, String name) {}

  /**
   * Public holidays of a country in a year, as Jollyday knows them; those of parts of it are not
   * among them.
   *
   * @param country ISO 3166-1, two letters
   * @throws Problem if they are not known
   */
  List<Public> of(String country, int year) {
    if (Math.abs(year - LocalDate.now(clock).getYear()) > YEARS_AHEAD) {
      throw Problem.invalid("year", "at most ten years from now");
    }
    try {
      return HolidayManager.getInstance(ManagerParameters.create(country.toLowerCase(Locale.ROOT)))
          .getHolidays(Year.of(year))
          .stream()
          .map(h -> new Public(h.getDate(), h.getDescription(Locale.ENGLISH)))
          .distinct()
          .sorted(Comparator.comparing(Public::day))
          .toList();
    } catch (IllegalStateException | IllegalArgumentException unknown) {
      throw Problem.invalid("country", "the public holidays of " + country + " are not known");
    }
  }

  /**
   * Makes these the node's holidays from today on; what is over stays.
   *
   * @throws Problem if there is no such node, or a day is over
   */
  @Transactional
  void set(String code, Set<LocalDate> days) {
    var node =
        db.select(NODE.ID, NODE.TIME_ZONE)
            .from(NODE)
            .where(NODE.CODE.eq(code))
            .fetchOptional()
            .orElseThrow(() -> Problem.notFound("node " + code));
    LocalDate today = clock.instant().atZone(ZoneId.of(node.value2())).toLocalDate();
    if (days.size() > MOST) {
      throw Problem.invalid("days", "at most 200 days");
    }
    days.stream()
        .filter(day -> day.isBefore(today))
        .findFirst()
        .ifPresent(day -> {
          throw Problem.invalid("days", day + " is over");
        });
    db.deleteFrom(NODE_HOLIDAY)
        .where(NODE_HOLIDAY.NODE_ID.eq(node.value1()))
        .and(NODE_HOLIDAY.DAY.ge(today))
        .execute();
    new TreeSet<>(days)
        .forEach(day ->
            db.insertInto(NODE_HOLIDAY)
                .set(NODE_HOLIDAY.NODE_ID, node.value1())
                .set(NODE_HOLIDAY.DAY, day)
                .execute());
  }

  /** A node's holidays from a day on; when it is closed besides is not among them. */
  List<LocalDate> coming(String code, LocalDate from) {
    return db.select(NODE_HOLIDAY.DAY)
        .from(NODE_HOLIDAY)
        .join(NODE)
        .on(NODE.ID.eq(NODE_HOLIDAY.NODE_ID))
        .where(NODE.CODE.eq(code))
        .and(NODE_HOLIDAY.DAY.ge(from))
        .orderBy(NODE_HOLIDAY.DAY)
        .fetch(NODE_HOLIDAY.DAY);
  }
}
