package dev.ordinator.platform;

import java.net.URI;
import java.time.Duration;
import java.time.ZoneId;
import org.springframework.boot.context.properties.ConfigurationProperties;

/**
 * Settings under {@code ordinator.}; defaults are in application.yaml.
 *
 * @param key from which the key for stored secrets is derived
 * @param address where buyers reach us, for links in letters; without a slash at the end
 * @param companyPrefix GS1 company prefix, 7 to 10 digits
 * @param baseCurrency ISO 4217; costs are compared in it
 * @param ratesUrl where exchange rates are published as CSV; empty: nowhere
 * @param privateAddresses whether channels and webhooks may be in our own network
 * @param machineRequestsPerMinute how often one machine's token may ask
 * @param timeZone the merchant's own; nodes decide by theirs
 * @param workPause how long a work loop that found nothing sleeps, unless it is woken
 * @param pullLease after this time a pull that was begun and never ended is begun again
 * @param feedInterval between two looks at what channels are to be told of stock
 * @param outboxLease after this time a delivery that was begun and never ended is begun again
 * @param outboxPause after the first failed delivery; doubled after each further one
 * @param working whether this instance works on its own: false for seeding
 * @param trackingInterval between two questions to the carrier about one parcel
 */
@ConfigurationProperties("ordinator")
public record OrdinatorSettings(
    String key,
    URI carrierUrl,
    String carrierKey,
    String mailFrom,
    String address,
    String companyPrefix,
    String baseCurrency,
    String ratesUrl,
    boolean privateAddresses,
    int machineRequestsPerMinute,
    ZoneId timeZone,
    Duration workPause,
    Duration pullLease,
    Duration feedInterval,
    Duration outboxLease,
    Duration outboxPause,
    Duration trackingInterval,
    Duration jobHeartbeat,
    boolean working) {}
