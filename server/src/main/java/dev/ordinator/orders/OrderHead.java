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
 * @param baseTotal minor units of the base currency; 0 while the day's rate is not known
 * @param fulfilledByChannel recorded only: the channel's own depot sends it
 * @param pickUpNode where the buyer collects it; null: it is sent
 * @param waiting for stock, in a queue
 * @param writesBack whether its channel may be told what becomes of it
 */
public record OrderHead(
    long id,
    long channelId,
    String channelCode,
    boolean writesBack,
    String externalId,
    long externalRevision,
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
    long baseTotal,
    boolean fulfilledByChannel,
    @Nullable String pickUpNode,
    long units,
    @Nullable Instant approvedAt,
    boolean held,
    boolean snagged,
    boolean waiting,
    int version) {}
