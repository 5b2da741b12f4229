package dev.ordinator.stock;

/** There is more of an item than before; published in the transaction that made it so. */
public record StockGrew(long itemId, String actor) {}
