package dev.ordinator.doctor;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.OUTBOX;
import static dev.ordinator.schema.Tables.SALES_ORDER;

import dev.ordinator.OrdinatorApplication;
import dev.ordinator.doctor.Invariants.Invariant;
import dev.ordinator.stock.LedgerCheck;
import java.io.PrintStream;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jooq.DSLContext;
import org.springframework.boot.WebApplicationType;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.stereotype.Component;

/**
 * Looks the data over and changes nothing: {@code ./ordinator doctor}. It may run beside the
 * application.
 */
@Component
public class Doctor {
  private static final Duration STUCK = Duration.ofHours(1);

  /** Wrong rows that are named; all are counted. */
  private static final int SHOWN = 5;

  private final DSLContext db;
  private final LedgerCheck ledger;
  private final Clock clock;

  Doctor(DSLContext db, LedgerCheck ledger, Clock clock) {
    this.db = db;
    this.ledger = ledger;
    this.clock = clock;
  }

  /**
   * @param what was looked at
   * @param trouble what is wrong with it; empty: nothing
   */
  public record Finding(String what, String trouble) {
    boolean isWell() {
      return trouble.isEmpty();
    }
  }

  /** Exits with 1 if anything is wrong. */
  public static void main(String[] args) {
    List<Finding> findings;
    try (ConfigurableApplicationContext context =
        new SpringApplicationBuilder(OrdinatorApplication.class)
            .web(WebApplicationType.SERVLET)
            .run(arguments(args))) {
      findings = context.getBean(Doctor.class).look();
    }
    PrintStream out = System.out;
    findings.forEach(f ->
        out.println(
            (f.isWell() ? "✓ " : "✕ ") + f.what() + (f.isWell() ? "" : ": " + f.trouble())));
    System.exit(findings.stream().allMatch(Finding::isWell) ? 0 : 1);
  }

  /** Later arguments win: a port of its own, and no work. */
  private static String[] arguments(String[] given) {
    return Stream.concat(
            Arrays.stream(given), Stream.of("--server.port=0", "--ordinator.working=false"))
        .toArray(String[]::new);
  }

  /** Everything that is looked at, well or not. */
  public List<Finding> look() {
    List<Finding> findings = new ArrayList<>();
    var wrong = ledger.discrepancies();
    findings.add(
        new Finding(
            "every level is what its ledger and its allocations add up to",
            wrong.isEmpty()
                ? ""
                : "%d %s item %d at node %d: %d on hand by the level, %d by the ledger"
                    .formatted(
                        wrong.size(),
                        wrong.size() == 1 ? "is not:" : "are not, such as",
                        wrong.getFirst().itemId(),
                        wrong.getFirst().nodeId(),
                        wrong.getFirst().onHand(),
                        wrong.getFirst().ledger())));
    findings.add(
        counted(
            "every message for channels and buyers was delivered or settled",
            db.fetchCount(OUTBOX, OUTBOX.STATE.eq("DEAD")),
            "was given up; it is a snag",
            "were given up; they are snags"));
    findings.add(
        counted(
            "no order's next step is overdue",
            db.fetchCount(
                SALES_ORDER,
                SALES_ORDER
                    .NEXT_STEP
                    .isNotNull()
                    .and(SALES_ORDER.NEXT_STEP_AT.lt(clock.instant().minus(STUCK)))),
            "order has waited for more than an hour; does the application run?",
            "orders have waited for more than an hour; does the application run?"));
    findings.add(
        counted(
            "every connection's last pull went well",
            db.fetchCount(CHANNEL, CHANNEL.LAST_ERROR.isNotNull().and(CHANNEL.PAUSED.isFalse())),
            "channel answers otherwise than it should; see Channels",
            "channels answer otherwise than they should; see Channels"));
    Invariants.ALL.forEach(invariant -> findings.add(checked(invariant)));
    return findings;
  }

  private Finding checked(Invariant invariant) {
    List<String> wrong = db.fetch(invariant.sql()).into(String.class);
    return new Finding(
        invariant.what(),
        wrong.isEmpty()
            ? ""
            : wrong.size()
                + (wrong.size() == 1 ? " breaks it: " : " break it, such as ")
                + wrong.stream().limit(SHOWN).collect(Collectors.joining("; ")));
  }

  private static Finding counted(String what, int wrong, String ofOne, String ofMore) {
    return new Finding(what, wrong == 0 ? "" : wrong + " " + (wrong == 1 ? ofOne : ofMore));
  }
}
