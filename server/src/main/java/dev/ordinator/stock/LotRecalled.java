package dev.ordinator.stock;

import java.util.List;

/**
 * A lot may not be sold any more; published in the transaction that says so.
 *
 * @param orderIds orders that hold some of it and have not left
 */
public record LotRecalled(String lot, List<Long> orderIds, String actor) {}
