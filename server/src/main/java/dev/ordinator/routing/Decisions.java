package dev.ordinator.routing;

import static dev.ordinator.schema.Tables.DECISION;
import static dev.ordinator.schema.Tables.EDITION;

import dev.ordinator.network.Nodes;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Problem;
import dev.ordinator.routing.GroundsJson.Stored;
import dev.ordinator.routing.GroundsJson.StoredCandidate;
import dev.ordinator.routing.GroundsJson.StoredPart;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Routing decisions with their grounds, as they are shown. */
@Component
public class Decisions {
  private static final int SHOWN = 20;

  private final DSLContext db;
  private final GroundsJson groundsJson;
  private final Nodes nodes;
  private final OrdinatorSettings settings;

  Decisions(DSLContext db, GroundsJson groundsJson, Nodes nodes, OrdinatorSettings settings) {
    this.db = db;
    this.groundsJson = groundsJson;
    this.nodes = nodes;
    this.settings = settings;
  }

  /**
   * Who decided, by what.
   *
   * @param edition its number
   * @param overrideReason why a person sent it so; null: the rulebook did
   */
  public record By(Instant at, String actor, int edition, @Nullable String overrideReason) {}

  /**
   * What was decided.
   *
   * @param rung 0-based; null: no rung could
   * @param cost of the plan, in minor units of the base currency
   * @param grounds as {@link GroundsJson} writes them
   */
  public record Kept(
      @Nullable Integer rung, int rungs, String rungName, long cost, String grounds) {}

  /**
   * @param cost of the plan, in minor units of {@code currency}
   * @param splitPenalty what of it is for sending more than one consignment
   * @param chosen what was planned; empty: nothing could be
   * @param second the next cheapest plan, over other nodes; empty: there is none
   * @param overrideReason why a person sent it so; null: the rulebook did
   * @param proven false: the search was given up for its size, and this is the best it had found
   */
  public record Decision(
      Instant at,
      String actor,
      int edition,
      @Nullable Integer rung,
      int rungs,
      String rungName,
      String currency,
      long cost,
      long splitPenalty,
      List<StoredPart> chosen,
      List<StoredPart> second,
      long secondCost,
      boolean proven,
      @Nullable String overrideReason,
      Map<String, String> nodeNames,
      List<StoredCandidate> considered) {}

  /** Those of an order, the newest first. */
  List<Decision> ofOrder(long orderId) {
    return read(DECISION.ORDER_ID.eq(orderId));
  }

  /**
   * @throws Problem if there is none such
   */
  public Decision byId(long id) {
    return read(DECISION.ID.eq(id)).stream()
        .findFirst()
        .orElseThrow(() -> Problem.notFound("decision " + id));
  }

  private List<Decision> read(Condition which) {
    Map<String, String> names = nodes.names();
    return db.select(
            DECISION.AT,
            DECISION.ACTOR,
            EDITION.NUMBER,
            DECISION.OVERRIDE_REASON,
            DECISION.RUNG,
            DECISION.RUNGS,
            DECISION.RUNG_NAME,
            DECISION.COST,
            DECISION.GROUNDS)
        .from(DECISION)
        .join(EDITION)
        .on(EDITION.ID.eq(DECISION.EDITION_ID))
        .where(which)
        .orderBy(DECISION.ID.desc())
        .limit(SHOWN)
        .fetch(r ->
            shown(
                new By(r.value1(), r.value2(), r.value3(), r.value4()),
                new Kept(r.value5(), r.value6(), r.value7(), r.value8(), r.value9()),
                names));
  }

  /** A decision that was kept elsewhere, as it is shown. */
  public Decision shown(By by, Kept kept) {
    return shown(by, kept, nodes.names());
  }

  private Decision shown(By by, Kept kept, Map<String, String> names) {
    Stored grounds = groundsJson.read(kept.grounds());
    long parts = grounds.chosen().stream().mapToLong(part -> part.cost().total()).sum();
    return new Decision(
        by.at(),
        by.actor(),
        by.edition(),
        kept.rung(),
        kept.rungs(),
        kept.rungName(),
        settings.baseCurrency(),
        kept.cost(),
        kept.cost() - parts,
        grounds.chosen(),
        grounds.second(),
        grounds.secondCost(),
        grounds.proven(),
        by.overrideReason(),
        names,
        grounds.considered());
  }
}
