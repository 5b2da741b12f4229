package dev.ordinator.intake;

import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Channels;
import dev.ordinator.channels.Connector;
import dev.ordinator.channels.Connector.OrderPage;
import dev.ordinator.channels.Connector.OrderSource;
import dev.ordinator.channels.Connectors;
import dev.ordinator.channels.MessagePart.Unreadable;
import dev.ordinator.listings.ListingFetch;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Component;

/** Takes a channel's past in, message by message at the time of each; only for seeding the demo. */
@Component
@Profile("seed")
public class HistoryIntake {
  private final Channels channels;
  private final Connectors connectors;
  private final ListingFetch listings;
  private final Intake intake;

  HistoryIntake(Channels channels, Connectors connectors, ListingFetch listings, Intake intake) {
    this.channels = channels;
    this.connectors = connectors;
    this.listings = listings;
    this.intake = intake;
  }

  /**
   * @param at when the order was placed
   */
  public record PastMessage(String channel, Instant at, String text) {}

  /** Everything that the channel has; the next pull starts behind it. */
  public List<PastMessage> fetchAll(String code) {
    Channel channel = channels.byCode(code).orElseThrow();
    Connector connector = connectors.of(channel);
    OrderSource source = connectors.able(channel, OrderSource.class).orElseThrow();
    listings.fetch(channel);
    List<PastMessage> past = new ArrayList<>();
    String cursor = "";
    boolean more = true;
    Instant last = Instant.EPOCH;
    while (more) {
      OrderPage page = source.orders(channel, cursor);
      for (String message : page.messages()) {
        last = placedAt(connector, channel, message).orElse(last);
        past.add(new PastMessage(code, last, message));
      }
      cursor = page.next();
      more = page.more();
    }
    channels.keepCursor(channel.id(), cursor, Duration.ZERO);
    return past;
  }

  /**
   * @return the order's id, if it is a new one
   */
  public Optional<Long> take(PastMessage message) {
    Channel channel = channels.byCode(message.channel()).orElseThrow();
    if (intake.take(channel, message.text(), Intake.Source.PULL) != Intake.Taken.NEW) {
      return Optional.empty();
    }
    return intake.idOf(channel, connectors.of(channel).externalId(message.text()));
  }

  /** What can't be read came when what was before it came. */
  private static Optional<Instant> placedAt(Connector connector, Channel channel, String message) {
    try {
      return Optional.of(connector.read(channel, message).header().placedAt());
    } catch (Unreadable e) {
      return Optional.empty();
    }
  }
}
