package dev.ordinator.demo;

import static dev.ordinator.schema.Tables.CARRIER;
import static dev.ordinator.schema.Tables.CARRIER_WORD;
import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.SERVICE_WORD;

import dev.ordinator.channels.Channel.Credentials;
import dev.ordinator.channels.ChannelKind;
import dev.ordinator.channels.Channels;
import dev.ordinator.channels.Terms;
import dev.ordinator.channels.Terms.UnknownListings;
import java.net.URI;
import java.time.Clock;
import java.time.Duration;
import java.util.Set;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** The channels of the demo world, connected and told what happens. */
@Component
class DemoChannels {
  private static final Duration SOON = Duration.ofSeconds(1);

  private final DSLContext db;
  private final Channels channels;
  private final Clock clock;

  DemoChannels(DSLContext db, Channels channels, Clock clock) {
    this.db = db;
    this.channels = channels;
    this.clock = clock;
  }

  void install(DemoWorld.Outside outside) {
    long shop =
        channels.add(
            ChannelKind.WEB_SHOP,
            "WEB",
            "Brackenholt web shop",
            "BW-",
            "EUR",
            terms(Set.of(), true, 0, "Shop", ""));
    connect(
        shop,
        outside.shop(),
        new Credentials("", "demo-shop-key", "demo-webhook-secret"),
        "WHEN_PAID",
        "SKU",
        outside.intervalSeconds());
    word(shop, "EXACT", "Home delivery", "STANDARD");
    word(shop, "BEGINS_WITH", "Standard", "STANDARD");
    word(shop, "BEGINS_WITH", "Express", "EXPRESS");

    long market =
        channels.add(
            ChannelKind.MARKETPLACE,
            "MARKET",
            "Kestrel Market",
            "KM-",
            "EUR",
            terms(Set.of("offer_accepted", "ready", "sent"), true, 1_200, "Marketplaces", "KES"));
    connect(
        market,
        outside.market(),
        new Credentials("brackenholt", "demo-market-secret", ""),
        "WHEN_PAID",
        "GTIN",
        outside.intervalSeconds() * 3);
    word(market, "EXACT", "Kestrel Standard", "STANDARD");
    word(market, "EXACT", "Kestrel Fast", "EXPRESS");
    carrier(market, "HERON", "Heron");
    carrier(market, "DUNLIN", "Dunlin International");

    long guild =
        channels.add(
            ChannelKind.WHOLESALE,
            "GUILD",
            "Apiary Guild",
            "AG-",
            "EUR",
            terms(Set.of(), false, 300, "Wholesale", ""));
    connect(
        guild,
        outside.guild(),
        new Credentials("brackenholt", "demo-guild-key", "demo-guild-signing"),
        "WHEN_AUTHORISED",
        "SKU",
        outside.intervalSeconds() * 3);
    word(guild, "CONTAINS", "to the door", "STANDARD");

    long clubs =
        channels.add(
            ChannelKind.SPREADSHEET,
            "CLUBS",
            "Bee clubs",
            "BC-",
            "EUR",
            terms(Set.of(), true, 0, "Wholesale", ""));
    channels.add(
        ChannelKind.BY_HAND,
        "PHONE",
        "By telephone",
        "PH-",
        "EUR",
        terms(Set.of(), true, 0, "Shop", ""));
    db.update(CHANNEL).set(CHANNEL.APPROVAL, "BY_HAND").where(CHANNEL.ID.eq(clubs)).execute();
  }

  private static Terms terms(
      Set<String> states, boolean withTax, int fee, String team, String depot) {
    return new Terms(
        Set.of(),
        states,
        Set.of(),
        null,
        Set.of(),
        withTax,
        false,
        fee,
        0,
        true,
        false,
        UnknownListings.HOLD,
        team,
        "",
        depot);
  }

  private void connect(
      long channel,
      String url,
      Credentials credentials,
      String approval,
      String matchBy,
      int intervalSeconds) {
    channels.keepCredentials(channel, URI.create(url), credentials);
    db.update(CHANNEL)
        .set(CHANNEL.APPROVAL, approval)
        .set(CHANNEL.MATCH_BY, matchBy)
        .set(CHANNEL.WRITES_BACK, true)
        .set(CHANNEL.MAIL_SENT, true)
        .set(CHANNEL.MAIL_WAITING, true)
        .set(CHANNEL.INTERVAL_SECONDS, intervalSeconds)
        .set(CHANNEL.NEXT_PULL_AT, clock.instant().plus(SOON))
        .where(CHANNEL.ID.eq(channel))
        .execute();
  }

  private void word(long channel, String how, String wording, String level) {
    db.insertInto(SERVICE_WORD)
        .set(SERVICE_WORD.CHANNEL_ID, channel)
        .set(SERVICE_WORD.HOW, how)
        .set(SERVICE_WORD.WORDING, wording)
        .set(SERVICE_WORD.LEVEL, level)
        .execute();
  }

  private void carrier(long channel, String code, String name) {
    db.insertInto(CARRIER_WORD)
        .set(CARRIER_WORD.CHANNEL_ID, channel)
        .set(
            CARRIER_WORD.CARRIER_ID,
            db.select(CARRIER.ID).from(CARRIER).where(CARRIER.CODE.eq(code)).fetchSingle().value1())
        .set(CARRIER_WORD.NAME, name)
        .execute();
  }
}
