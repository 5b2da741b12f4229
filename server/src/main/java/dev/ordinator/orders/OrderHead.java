package dev.ordinator.orders;

import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.core.orders.Address;
import dev.ordinator.core.orders.PaymentState;
import dev.ordinator.core.orders.Stage;
import java.time.Instant;
import java.time.LocalDate;
import org.jspecify.annotations.Nullable;

/**
 * What the desk needs to know of an order.
 *
 * @param level null until the order has been checked
 * @param total minor units of {@code currency}
 * @param listenOnly whether its channel must not be told anything
 */
public record OrderHead(
    long id,
    long channelId,
    String channelCode,
    boolean listenOnly,
    String externalId,
    long externalRevision,
    String digest,
    String number,
    Stage stage,
    Instant placedAt,
    String buyerName,
    String email,
    Address shipTo,
    String serviceWording,
    @Nullable ServiceLevel level,
    @Nullable LocalDate arriveBy,
    int priority,
    PaymentState payment,
    String currency,
    long total,
    long units,
    @Nullable Instant approvedAt,
    boolean held,
    boolean snagged,
    int version) {}
