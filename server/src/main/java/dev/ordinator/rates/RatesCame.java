package dev.ordinator.rates;

/** Exchange rates were added, in the transaction that is under way. */
public record RatesCame(String actor) {}
