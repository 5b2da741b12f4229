package dev.ordinator.orders;

import org.jspecify.annotations.Nullable;

/**
 * @param itemId null while its listing is unmatched
 */
public record OrderLine(
    long id,
    int lineNo,
    String externalId,
    long listingId,
    @Nullable Long itemId,
    String title,
    long quantity) {}
