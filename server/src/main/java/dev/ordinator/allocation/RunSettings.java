package dev.ordinator.allocation;

import dev.ordinator.core.allocation.AllocationRun;
import dev.ordinator.core.allocation.AllocationRun.Way;
import dev.ordinator.core.allocation.Service.By;
import dev.ordinator.platform.Problem;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What a run looks at, and how it gives out.
 *
 * @param by the order of service
 * @param share whether a scarce item is shared within a class; item by item only
 * @param parts whether orders may get a part of what they ask for
 * @param earmarks whether what is set aside for channels, customers and campaigns is given to them
 * @param byLot whether lots and serial numbers are named, of items that have them
 * @param lotsExcluded codes of lots that are not given; by lot only
 * @param leadTime whether the latest start counts the days that making an item takes
 * @param thenRoute whether orders that got all they may get are routed at once
 * @param recordShort whether orders that get nothing are looked at at once: they take their place
 *     among those who wait, or are dealt with as their channel says; if not, they are left as they
 *     are
 */
record RunSettings(
    Scope scope,
    Way way,
    List<By> by,
    boolean share,
    Parts parts,
    boolean earmarks,
    boolean byLot,
    Set<String> lotsExcluded,
    boolean leadTime,
    boolean thenRoute,
    boolean recordShort) {

  enum Parts {
    /** As the order, its channel or its ladder says. */
    AS_SAID,
    /** Every order gets all or nothing. */
    WHOLE,
    /** Every order may get a part. */
    PART
  }

  /**
   * Which lines. Empty: any.
   *
   * @param nodes codes of the nodes to give from
   * @param leaveWithin days within which they must be handed over to arrive when they are asked
   *     for, or promised; null: any
   * @param channels codes
   * @param customers beginnings of mail addresses
   * @param skuFrom the first SKU, by the alphabet, and {@code skuTo} the last
   * @param categories of items
   * @param tags of orders: any of them
   * @param priorityTo the lowest class that is looked at; null: any
   * @param expression a CEL expression over the order; empty: none
   */
  record Scope(
      Set<String> nodes,
      @Nullable Integer leaveWithin,
      Set<String> channels,
      Set<String> customers,
      String skuFrom,
      String skuTo,
      Set<String> categories,
      Set<String> tags,
      @Nullable Integer priorityTo,
      String expression) {}

  /**
   * @throws Problem if they make no sense
   */
  RunSettings checked() {
    if (by.isEmpty() || new HashSet<>(by).size() != by.size()) {
      throw Problem.invalid("by", "say by what, each once");
    }
    if (share && way == Way.BY_ORDER) {
      throw Problem.invalid("share", "only an item is shared: go item by item");
    }
    if (!byLot && !lotsExcluded.isEmpty()) {
      throw Problem.invalid("lotsExcluded", "lots are left out only where they are named");
    }
    Integer within = scope.leaveWithin();
    if (within != null && (within < 0 || within > 366)) {
      throw Problem.invalid("scope.leaveWithin", "0 to 366 days");
    }
    if (scope.expression().length() > 2_000) {
      throw Problem.invalid("scope.expression", "at most 2,000 characters");
    }
    return this;
  }

  AllocationRun.Settings forCore() {
    return new AllocationRun.Settings(way, by, share);
  }
}
