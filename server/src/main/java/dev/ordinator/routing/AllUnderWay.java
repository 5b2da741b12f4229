package dev.ordinator.routing;

/** A person sent all of an order; published in the transaction that made it so. */
public record AllUnderWay(long orderId) {}
