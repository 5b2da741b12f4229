package dev.ordinator.network;

import static dev.ordinator.schema.Tables.NODE;
import static org.jooq.impl.DSL.coalesce;

import dev.ordinator.core.network.WorkCalendar;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.schema.tables.records.NodeRecord;
import java.time.DateTimeException;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.Set;
import java.util.TreeSet;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** How nodes work, as people say it. What is planned already stays as it was planned. */
@Service
public class NodeTerms {
  private static final int LONGEST_PROCESSING = 60;
  private static final long DEAREST = 1_000_000;

  private final DSLContext db;
  private final Events events;
  private final ApplicationEventPublisher publisher;

  NodeTerms(DSLContext db, Events events, ApplicationEventPublisher publisher) {
    this.db = db;
    this.events = events;
    this.publisher = publisher;
  }

  /**
   * @param timeZone such as Europe/Amsterdam
   * @param workdays such as MON-FRI,SUN
   * @param cutOff local time until which a release still leaves that day
   * @param capacityPerDay consignments; null: no limit
   * @param perConsignment what handling costs, in minor units of the base currency; {@code perLine}
   *     and {@code perUnit} likewise
   * @param hazards classes of goods that it may handle
   * @param returnsTo code of the node to which what it sent comes back; its own: to itself
   */
  public record Terms(
      String name,
      String timeZone,
      String workdays,
      LocalTime cutOff,
      int processingDays,
      @Nullable Integer capacityPerDay,
      long perConsignment,
      long perLine,
      long perUnit,
      Set<String> hazards,
      String returnsTo) {}

  public Terms of(long nodeId) {
    var back = NODE.as("back");
    return db.select(NODE, back.CODE)
        .from(NODE)
        .join(back)
        .on(back.ID.eq(coalesce(NODE.RETURNS_TO, NODE.ID)))
        .where(NODE.ID.eq(nodeId))
        .fetchOptional(r -> terms(r.value1(), r.value2()))
        .orElseThrow(() -> Problem.notFound("node " + nodeId));
  }

  private static Terms terms(NodeRecord n, String returnsTo) {
    return new Terms(
        n.getName(),
        n.getTimeZone(),
        n.getWorkdays(),
        n.getCutOff(),
        n.getProcessingDays(),
        n.getCapacityPerDay(),
        n.getHandlingPerConsignment(),
        n.getHandlingPerLine(),
        n.getHandlingPerUnit(),
        n.getHazards().isEmpty() ? Set.of() : Set.of(n.getHazards().split(",")),
        returnsTo);
  }

  /**
   * @throws Problem if they make no sense
   */
  public static void check(Terms terms) {
    must(!terms.name().isBlank() && terms.name().length() <= 80, "name", "1 to 80 characters");
    must(
        terms.processingDays() >= 0 && terms.processingDays() <= LONGEST_PROCESSING,
        "processingDays",
        "0 to %d workdays".formatted(LONGEST_PROCESSING));
    Integer capacity = terms.capacityPerDay();
    must(
        capacity == null || (capacity >= 0 && capacity <= CapacityDays.MOST),
        "capacityPerDay",
        "0 to %,d consignments, or none: no limit".formatted(CapacityDays.MOST));
    isPrice(terms.perConsignment(), "perConsignment");
    isPrice(terms.perLine(), "perLine");
    isPrice(terms.perUnit(), "perUnit");
    must(
        terms.hazards().stream().allMatch(h -> h.matches("[A-Za-z0-9. -]{1,20}")),
        "hazards",
        "classes of 1 to 20 letters and digits, such as 3 or UN3480");
    try {
      WorkCalendar.parse(terms.workdays(), Set.of());
    } catch (IllegalArgumentException e) {
      throw Problem.invalid("workdays", "such as MON-FRI,SUN: " + e.getMessage());
    }
    try {
      ZoneId.of(terms.timeZone());
    } catch (DateTimeException e) {
      throw Problem.invalid("timeZone", "a zone such as Europe/Amsterdam");
    }
  }

  /**
   * @throws Problem if they make no sense, or there is no such node
   */
  @Transactional
  public void set(long nodeId, Terms terms, String actor) {
    check(terms);
    long back =
        db.select(NODE.ID)
            .from(NODE)
            .where(NODE.CODE.eq(terms.returnsTo()))
            .fetchOptional(NODE.ID)
            .orElseThrow(() -> Problem.invalid("returnsTo", "the code of a node"));
    int changed =
        db.update(NODE)
            .set(NODE.NAME, terms.name().strip())
            .set(NODE.TIME_ZONE, terms.timeZone())
            .set(NODE.WORKDAYS, terms.workdays())
            .set(NODE.CUT_OFF, terms.cutOff())
            .set(NODE.PROCESSING_DAYS, terms.processingDays())
            .set(NODE.CAPACITY_PER_DAY, terms.capacityPerDay())
            .set(NODE.HANDLING_PER_CONSIGNMENT, terms.perConsignment())
            .set(NODE.HANDLING_PER_LINE, terms.perLine())
            .set(NODE.HANDLING_PER_UNIT, terms.perUnit())
            .set(NODE.HAZARDS, String.join(",", new TreeSet<>(terms.hazards())))
            .set(NODE.RETURNS_TO, back == nodeId ? null : back)
            .where(NODE.ID.eq(nodeId))
            .execute();
    if (changed == 0) {
      throw Problem.notFound("node " + nodeId);
    }
    publisher.publishEvent(new CapacityDays.Changed(nodeId));
    events.record(
        EventKind.NETWORK_CHANGED, null, null, actor, terms.name() + " works otherwise", "");
  }

  private static void isPrice(long minor, String field) {
    must(minor >= 0 && minor <= DEAREST, field, "not negative, and at most 10,000");
  }

  private static void must(boolean sound, String field, String otherwise) {
    if (!sound) {
      throw Problem.invalid(field, otherwise);
    }
  }
}
