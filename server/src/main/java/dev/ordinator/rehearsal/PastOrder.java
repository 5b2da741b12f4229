package dev.ordinator.rehearsal;

import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.core.rules.OrderFacts;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.routing.Wanted;
import java.time.Instant;
import java.time.LocalDate;
import java.util.Set;

/**
 * An order at the moment at which it was routed for the first time.
 *
 * @param today the day of that moment, in the merchant's time zone
 * @param level what its channel's wording asks for, before rules have their say
 * @param serving codes of the nodes that serve its channel; empty: all do
 * @param worth its goods' and shipping's net price less the channel's fees and what the goods cost
 *     us, in minor units of the base currency: its margin before carriage and handling
 */
record PastOrder(
    OrderHead head,
    long decisionId,
    Instant at,
    LocalDate today,
    Outcome was,
    OrderFacts facts,
    ServiceLevel level,
    Set<String> serving,
    Wanted wanted,
    long worth) {}
