package dev.ordinator.allocation;

import dev.ordinator.core.network.Destination;
import dev.ordinator.core.network.ServiceLevel;
import java.time.Instant;
import java.time.LocalDate;
import org.jspecify.annotations.Nullable;

/**
 * A line that waits to be allocated, with what a run must know of its order.
 *
 * @param email of its buyer, in small letters
 * @param waiting whether the order waits for stock
 * @param baseTotal of the order, in minor units of the base currency
 * @param due the day by which it is to arrive: as it was asked, or else as it was promised
 * @param ladder as rules said of it, as {@code maySplit}; null: nothing
 * @param inPart whether what is there is sent meanwhile, as rules or its channel say; null: nothing
 * @param unitsEach units of the item in one that was ordered
 * @param leadDays workdays that making the item takes
 * @param kit whether its item is a kit
 * @param open units that no node has yet
 */
record FoundLine(
    long order,
    long channel,
    String email,
    int priority,
    boolean waiting,
    Instant placedAt,
    long baseTotal,
    @Nullable LocalDate due,
    @Nullable String ladder,
    @Nullable Boolean maySplit,
    @Nullable Boolean inPart,
    Destination to,
    ServiceLevel level,
    long line,
    long item,
    long unitsEach,
    int leadDays,
    boolean kit,
    long open) {}
