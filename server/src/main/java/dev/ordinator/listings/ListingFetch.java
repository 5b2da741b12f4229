package dev.ordinator.listings;

import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Connector.ListingSource;
import dev.ordinator.channels.Connectors;
import dev.ordinator.platform.Transactions;
import org.springframework.stereotype.Component;

/** Fetches what channels offer. */
@Component
public class ListingFetch {
  private final Connectors connectors;
  private final Listings listings;
  private final Transactions transactions;

  ListingFetch(Connectors connectors, Listings listings, Transactions transactions) {
    this.connectors = connectors;
    this.listings = listings;
    this.transactions = transactions;
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
    return offered.size();
  }
}
