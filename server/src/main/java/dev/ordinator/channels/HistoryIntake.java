package dev.ordinator.channels;

import dev.ordinator.platform.Transactions;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import org.springframework.context.annotation.Profile;
import org.springframework.stereotype.Component;

/** Takes a channel's past in, message by message at the time of each; only for seeding the demo. */
@Component
@Profile("seed")
public class HistoryIntake {
  private final ChannelStore channels;
  private final Connector connector;
  private final Listings listings;
  private final OrderReader reader;
  private final Intake intake;
  private final Transactions transactions;

  HistoryIntake(
      ChannelStore channels,
      Connector connector,
      Listings listings,
      OrderReader reader,
      Intake intake,
      Transactions transactions) {
    this.channels = channels;
    this.connector = connector;
    this.listings = listings;
    this.reader = reader;
    this.intake = intake;
    this.transactions = transactions;
  }

  /**
   * @param at when the order was placed
   */
  public record PastMessage(String channel, Instant at, String text) {}

  /** Everything that the channel has, by time; the next pull starts behind it. */
  public List<PastMessage> fetchAll(String code) {
    Channel channel = channels.byCode(code).orElseThrow();
    connector.listings(channel).forEach(l -> transactions.run(() -> listings.know(channel, l)));
    List<PastMessage> past = new ArrayList<>();
    String cursor = "";
    boolean more = true;
    while (more) {
      Connector.OrderPage page = connector.orders(channel, cursor);
      page.messages().forEach(m -> past.add(new PastMessage(code, reader.placedAt(m), m)));
      cursor = page.next();
      more = page.more();
    }
    channels.keepCursor(channel.id(), cursor);
    past.sort(Comparator.comparing(PastMessage::at));
    return past;
  }

  /**
   * @return the order's id, unless the message was refused
   */
  public Optional<Long> take(PastMessage message) {
    Channel channel = channels.byCode(message.channel()).orElseThrow();
    intake.take(channel, message.text(), Intake.Source.PULL);
    return intake.idOf(channel, reader.externalId(message.text()));
  }
}
