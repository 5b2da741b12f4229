package dev.ordinator.stock;

/**
 * What is expected of an item changed, or some of it was lost; published in the transaction that
 * made it so.
 */
public record SupplyMoved(long itemId) {}
