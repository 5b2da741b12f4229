package dev.ordinator.listings;

import static dev.ordinator.schema.Tables.CHANNEL;

import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Connector.ListingSource;
import dev.ordinator.channels.Connectors;
import dev.ordinator.platform.Transactions;
import java.time.Clock;
import java.time.Duration;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** Fetches what channels offer. */
@Component
public class ListingFetch {
  private static final Duration AGAIN_AFTER = Duration.ofDays(1);

  private final DSLContext db;
  private final Clock clock;
  private final Connectors connectors;
  private final Listings listings;
  private final Transactions transactions;

  ListingFetch(
      DSLContext db,
      Clock clock,
      Connectors connectors,
      Listings listings,
      Transactions transactions) {
    this.db = db;
    this.clock = clock;
    this.connectors = connectors;
    this.listings = listings;
    this.transactions = transactions;
  }

  /** Whether it is a day or more since they were read. */
  public boolean isDue(Channel channel) {
    return db.fetchExists(
        CHANNEL,
        CHANNEL
            .ID
            .eq(channel.id())
            .and(
                CHANNEL
                    .LISTINGS_READ_AT
                    .isNull()
                    .or(CHANNEL.LISTINGS_READ_AT.lt(clock.instant().minus(AGAIN_AFTER)))));
  }

  /**
   * Takes all listings in, new ones and what has changed of known ones.
   *
   * @return how many the channel has
   * @throws dev.ordinator.channels.Connector.ChannelError if it does not answer as it should
   */
  public int fetch(Channel channel) {
    var source = connectors.able(channel, ListingSource.class);
    if (source.isEmpty()) {
      return 0;
    }
    var offered = source.get().listings(channel);
    offered.forEach(data -> transactions.run(() -> listings.refresh(channel, data)));
    db.update(CHANNEL)
        .set(CHANNEL.LISTINGS_READ_AT, clock.instant())
        .where(CHANNEL.ID.eq(channel.id()))
        .execute();
    return offered.size();
  }
}
