package dev.ordinator.planning;

import dev.ordinator.core.network.NodeKind;
import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.core.routing.Ladder.Cover;
import dev.ordinator.core.routing.Ladder.Late;
import java.time.Instant;
import java.time.LocalDate;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Everything that routing looks at, as a JSON document. Money in minor units of {@code currency},
 * weights in grams, volumes in millilitres. A member that is missing has the default that is said
 * here; without one it must be there.
 *
 * @param now the moment of routing
 * @param policy default: all its defaults
 */
record PlanningCase(
    String currency,
    Instant now,
    @Nullable CasePolicy policy,
    @Nullable List<CaseZone> zones,
    @Nullable List<CaseItem> items,
    @Nullable List<CaseNode> nodes,
    @Nullable List<CaseLane> lanes,
    @Nullable List<CaseStock> stock,
    @Nullable List<CaseRung> ladder,
    @Nullable List<CaseOrder> orders) {

  /** Defaults: 300, 250, 5000, 2000 and 5000. */
  record CasePolicy(
      @Nullable Long splitPenalty,
      @Nullable Long latePenaltyPerDay,
      @Nullable Long unfilledPenaltyPerUnit,
      @Nullable Long rungStep,
      @Nullable Long volumeDivisor) {}

  record CaseZone(String code, @Nullable List<CaseMatch> match) {}

  /**
   * @param postcodes prefixes; default: the whole country
   */
  record CaseMatch(String country, @Nullable List<String> postcodes) {}

  /**
   * @param weight of a unit; default 0, {@code volume} likewise
   * @param hazard default: none
   * @param bannedCountries default: none
   */
  record CaseItem(
      String sku,
      @Nullable Long weight,
      @Nullable Long volume,
      @Nullable String hazard,
      @Nullable Set<String> bannedCountries) {}

  /**
   * @param kind default WAREHOUSE
   * @param workdays default MON-FRI
   * @param cutOff local time, inclusive; default 15:00
   * @param processingDays default 0
   * @param capacityLeft consignments; default: no limit
   * @param handling default: all 0
   */
  record CaseNode(
      String code,
      @Nullable NodeKind kind,
      String country,
      String timeZone,
      @Nullable String workdays,
      @Nullable Set<LocalDate> holidays,
      @Nullable String cutOff,
      @Nullable Integer processingDays,
      @Nullable Integer capacityLeft,
      @Nullable CaseHandling handling,
      @Nullable Set<String> hazards) {}

  record CaseHandling(
      @Nullable Long perConsignment, @Nullable Long perLine, @Nullable Long perUnit) {}

  /**
   * @param level default STANDARD
   * @param workdays default MON-SAT
   */
  record CaseLane(
      String node,
      String zone,
      String carrier,
      String service,
      @Nullable ServiceLevel level,
      @Nullable String workdays,
      Integer transitDays,
      List<CaseStep> rates,
      @Nullable Set<String> hazards) {}

  record CaseStep(Long upTo, Long price) {}

  /**
   * @param purchasePrice default 0, {@code clearanceCredit} likewise
   */
  record CaseStock(
      String node,
      String sku,
      Long available,
      @Nullable Long purchasePrice,
      @Nullable Long clearanceCredit) {}

  /**
   * @param maxConsignments default 1
   * @param cover default WHOLE
   * @param late default FORBID
   */
  record CaseRung(
      String name,
      @Nullable CaseFilter nodes,
      @Nullable Integer maxConsignments,
      @Nullable Cover cover,
      @Nullable Late late) {}

  /** What is missing admits every node. */
  record CaseFilter(
      @Nullable Set<NodeKind> kinds, @Nullable Set<String> codes, @Nullable Boolean sameCountry) {}

  /**
   * @param priority class; default 1
   * @param level default STANDARD
   * @param arriveBy default: never late
   * @param maxConsignments default: what the rung allows
   */
  record CaseOrder(
      String id,
      CaseTo to,
      @Nullable Integer priority,
      @Nullable ServiceLevel level,
      @Nullable LocalDate arriveBy,
      @Nullable Integer maxConsignments,
      List<CaseLine> lines) {}

  record CaseTo(String country, @Nullable String postcode) {}

  /**
   * @param quantity units, 1 to 1,000,000,000
   * @param divisible whether its units may come from several nodes; default true
   */
  record CaseLine(String id, String sku, Long quantity, @Nullable Boolean divisible) {}
}
