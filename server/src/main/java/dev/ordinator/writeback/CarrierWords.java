package dev.ordinator.writeback;

import static dev.ordinator.schema.Tables.CARRIER;
import static dev.ordinator.schema.Tables.CARRIER_WORD;

import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Channels;
import dev.ordinator.channels.Connector.CarrierSource;
import dev.ordinator.channels.Connector.ChannelError;
import dev.ordinator.channels.Connectors;
import dev.ordinator.dispatch.Outbox;
import dev.ordinator.dispatch.OutboxPosts;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The names by which channels know our carriers. */
@Service
class CarrierWords {
  private static final String OWN = "CHANNEL";

  private final DSLContext db;
  private final Channels channels;
  private final Connectors connectors;
  private final Snags snags;
  private final OutboxPosts outbox;

  CarrierWords(
      DSLContext db, Channels channels, Connectors connectors, Snags snags, OutboxPosts outbox) {
    this.db = db;
    this.channels = channels;
    this.connectors = connectors;
    this.snags = snags;
    this.outbox = outbox;
  }

  /**
   * @param name as the channel knows it; null: not said yet
   */
  record CarrierWord(String carrier, String carrierName, @Nullable String name) {}

  /** The names that a channel takes; empty if it takes any. */
  record Taken(List<CarrierWord> carriers, List<String> names) {}

  /**
   * A carrier's name at a channel: as it was said, or our own where the channel takes any name.
   *
   * @throws Outbox.WaitsForPerson if the channel takes certain names only and none was said
   */
  String nameAt(Channel channel, String carrier, String carrierName) {
    Optional<String> said =
        db.select(CARRIER_WORD.NAME)
            .from(CARRIER_WORD)
            .join(CARRIER)
            .on(CARRIER.ID.eq(CARRIER_WORD.CARRIER_ID))
            .where(CARRIER_WORD.CHANNEL_ID.eq(channel.id()))
            .and(CARRIER.CODE.eq(carrier))
            .fetchOptional(CARRIER_WORD.NAME);
    if (said.isEmpty() && connectors.able(channel, CarrierSource.class).isPresent()) {
      throw new Outbox.WaitsForPerson(
          Snags.About.of(
                  SnagCause.UNKNOWN_CARRIER,
                  subject(channel.id(), carrier),
                  carrierName + " at " + channel.name(),
                  channel.name()
                      + " takes certain names only: which of them is "
                      + carrierName
                      + "?")
              .channel(channel.id()));
    }
    return said.orElse(carrierName);
  }

  /**
   * @throws Problem if the channel can't be asked now
   */
  Taken at(long channelId) {
    Channel channel = channels.byId(channelId);
    List<CarrierWord> words =
        db.select(CARRIER.CODE, CARRIER.NAME, CARRIER_WORD.NAME)
            .from(CARRIER)
            .leftJoin(CARRIER_WORD)
            .on(CARRIER_WORD.CARRIER_ID.eq(CARRIER.ID))
            .and(CARRIER_WORD.CHANNEL_ID.eq(channelId))
            .where(CARRIER.CODE.ne(OWN))
            .orderBy(CARRIER.NAME)
            .fetch(r -> new CarrierWord(r.value1(), r.value2(), r.value3()));
    try {
      return new Taken(
          words,
          connectors
              .able(channel, CarrierSource.class)
              .map(source -> source.carriers(channel))
              .orElse(List.of()));
    } catch (ChannelError e) {
      throw Problem.elsewhere(Texts.of(e));
    }
  }

  /** Says a carrier's name at a channel, from now on, and tells what waited for it. */
  @Transactional
  public void learn(long channelId, String carrier, String name, String actor) {
    String text = name.strip();
    if (text.isEmpty() || text.length() > 80) {
      throw Problem.invalid("name", "a carrier's name has 1 to 80 characters");
    }
    channels.byId(channelId);
    long id =
        db.select(CARRIER.ID)
            .from(CARRIER)
            .where(CARRIER.CODE.eq(carrier))
            .fetchOptional(CARRIER.ID)
            .orElseThrow(() -> Problem.notFound("carrier " + carrier));
    db.insertInto(CARRIER_WORD)
        .set(CARRIER_WORD.CHANNEL_ID, channelId)
        .set(CARRIER_WORD.CARRIER_ID, id)
        .set(CARRIER_WORD.NAME, text)
        .onDuplicateKeyUpdate()
        .set(CARRIER_WORD.NAME, text)
        .execute();
    outbox.reviveWaiting(channelId);
    snags.close(SnagCause.UNKNOWN_CARRIER, subject(channelId, carrier), actor);
  }

  private static String subject(long channelId, String carrier) {
    return channelId + "/" + carrier;
  }
}
