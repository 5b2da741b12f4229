package dev.ordinator.core.network;

import java.time.DayOfWeek;
import java.time.LocalDate;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;

/**
 * The days on which a node or a lane works: weekdays less holidays.
 *
 * @param workdays at least one
 */
public record WorkCalendar(Set<DayOfWeek> workdays, Set<LocalDate> holidays) {

  public WorkCalendar {
    if (workdays.isEmpty()) {
      throw new IllegalArgumentException("a calendar needs at least one workday");
    }
    workdays = Set.copyOf(workdays);
    holidays = Set.copyOf(holidays);
  }

  /**
   * Reads days such as {@code MON-FRI}, {@code MON-WED,SAT} or {@code SAT-MON} (which wraps).
   *
   * @throws IllegalArgumentException if a part is no weekday
   */
  public static WorkCalendar parse(String days, Set<LocalDate> holidays) {
    EnumSet<DayOfWeek> set = EnumSet.noneOf(DayOfWeek.class);
    for (String part : days.split(",", -1)) {
      int dash = part.indexOf('-');
      DayOfWeek first = day(dash < 0 ? part : part.substring(0, dash));
      DayOfWeek last = day(dash < 0 ? part : part.substring(dash + 1));
      for (DayOfWeek day = first; ; day = day.plus(1)) {
        set.add(day);
        if (day == last) {
          break;
        }
      }
    }
    return new WorkCalendar(set, holidays);
  }

  /** The weekdays as {@link #parse} reads them. */
  public String days() {
    return workdays.stream()
        .sorted()
        .map(day -> day.name().substring(0, 3))
        .collect(Collectors.joining(","));
  }

  /** The same with some holidays more. */
  WorkCalendar withDaysOff(Set<LocalDate> days) {
    Set<LocalDate> off = new HashSet<>(holidays);
    off.addAll(days);
    return new WorkCalendar(workdays, off);
  }

  public boolean works(LocalDate day) {
    return workdays.contains(day.getDayOfWeek()) && !holidays.contains(day);
  }

  /** The day itself if it is a workday, else the first one after it. */
  public LocalDate sameOrNext(LocalDate day) {
    LocalDate d = day;
    while (!works(d)) {
      d = d.plusDays(1);
    }
    return d;
  }

  /** The day itself if it is a workday, else the last one before it. */
  public LocalDate sameOrPrevious(LocalDate day) {
    LocalDate d = day;
    while (!works(d)) {
      d = d.minusDays(1);
    }
    return d;
  }

  /** The {@code count}-th workday after {@code day}; the day itself for 0, workday or not. */
  public LocalDate plusWorkdays(LocalDate day, int count) {
    LocalDate d = day;
    for (int i = 0; i < count; i++) {
      d = sameOrNext(d.plusDays(1));
    }
    return d;
  }

  /** The {@code count}-th workday before {@code day}; the day itself for 0, workday or not. */
  public LocalDate minusWorkdays(LocalDate day, int count) {
    LocalDate d = day;
    for (int i = 0; i < count; i++) {
      d = sameOrPrevious(d.minusDays(1));
    }
    return d;
  }

  private static DayOfWeek day(String name) {
    String wanted = name.strip().toUpperCase(Locale.ROOT);
    for (DayOfWeek day : DayOfWeek.values()) {
      if (wanted.length() == 3 && day.name().startsWith(wanted)) {
        return day;
      }
    }
    throw new IllegalArgumentException("‘" + name + "’ is not a weekday such as MON");
  }
}
