package dev.ordinator.connecting;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.NODE;

import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Channel.Credentials;
import dev.ordinator.channels.Channel.MatchBy;
import dev.ordinator.channels.ChannelKind;
import dev.ordinator.channels.Channels;
import dev.ordinator.channels.Connector.ChannelError;
import dev.ordinator.channels.Connector.ListingSource;
import dev.ordinator.channels.Connector.OrderSource;
import dev.ordinator.channels.Connectors;
import dev.ordinator.channels.Terms;
import dev.ordinator.channels.Terms.UnknownListings;
import dev.ordinator.core.orders.ApprovalPolicy;
import dev.ordinator.core.orders.PaymentState;
import dev.ordinator.dispatch.OutboxPosts;
import dev.ordinator.listings.ListingFetch;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.OutgoingAddresses;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import java.net.URI;
import java.time.Clock;
import java.time.LocalDate;
import java.util.Currency;
import java.util.HashSet;
import java.util.Objects;
import java.util.Set;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The steps of connecting a channel. Each is kept as it is done. */
@Service
class Connecting {
  private final DSLContext db;
  private final Channels channels;
  private final Connectors connectors;
  private final ListingFetch listings;
  private final OutboxPosts posts;
  private final OutgoingAddresses addresses;
  private final Events events;
  private final Clock clock;

  Connecting(
      DSLContext db,
      Channels channels,
      Connectors connectors,
      ListingFetch listings,
      OutboxPosts posts,
      OutgoingAddresses addresses,
      Events events,
      Clock clock) {
    this.db = db;
    this.channels = channels;
    this.connectors = connectors;
    this.listings = listings;
    this.posts = posts;
    this.addresses = addresses;
    this.events = events;
    this.clock = clock;
  }

  record NewChannel(ChannelKind kind, String code, String name, String prefix, String currency) {}

  /**
   * @param secret empty: as it was
   * @param webhookSecret likewise
   */
  record Access(String baseUrl, String clientId, String secret, String webhookSecret) {}

  /** What was found at the other side. */
  record Found(int orders, int listings, String first) {}

  record Wanted(
      Set<PaymentState> payments,
      Set<String> states,
      Set<String> sites,
      @Nullable LocalDate since) {}

  /**
   * @param discountsWithin whether prices are less the discounts already
   * @param feeHundredths hundredths of a per cent
   * @param fixedFee minor units of the channel's currency
   * @param tellsUnits whether its pages are told how many there are, rather than whether any
   * @param tellsNodes whether they are told where
   */
  record Defaults(
      String prefix,
      ApprovalPolicy approval,
      MatchBy matchBy,
      int intervalSeconds,
      Set<String> nodes,
      boolean pricesWithTax,
      boolean discountsWithin,
      int feeHundredths,
      long fixedFee,
      boolean tellsUnits,
      boolean tellsNodes,
      UnknownListings unknownListings,
      String team,
      String phone,
      String depot) {}

  @Transactional
  public long begin(NewChannel wish, String actor) {
    require(wish.code().matches("[A-Z0-9]{2,12}"), "code", "2 to 12 capital letters or digits");
    require(!wish.name().isBlank() && wish.name().length() <= 80, "name", "1 to 80 characters");
    requirePrefix(wish.prefix());
    require(channels.byCode(wish.code()).isEmpty(), "code", "another channel is called that");
    try {
      Currency.getInstance(wish.currency());
    } catch (IllegalArgumentException e) {
      throw Problem.invalid("currency", "‘" + wish.currency() + "’ is no currency (ISO 4217)");
    }
    boolean spokenTo = connectors.of(wish.kind()).filter(OrderSource.class::isInstance).isPresent();
    Terms terms =
        connectors
            .of(wish.kind())
            .map(c ->
                Terms.PLAIN.forOrders(Set.of(), Set.copyOf(c.profile().wanted()), Set.of(), null))
            .orElse(Terms.PLAIN);
    long id =
        channels.add(
            wish.kind(), wish.code(), wish.name().strip(), wish.prefix(), wish.currency(), terms);
    stand(id, spokenTo ? SetupStep.CREDENTIALS : SetupStep.DEFAULTS);
    noted(wish.name() + ": connecting began", actor);
    return id;
  }

  /**
   * Keeps what proves who we are, if the channel lets us in with it; if not, nothing is changed.
   *
   * @throws Problem if it does not, or if a secret that is kept would be shown to another host
   */
  Found access(long id, Access access, String actor) {
    Channel before = channels.byId(id);
    URI address = addresses.typed(access.baseUrl(), "baseUrl");
    Credentials kept = before.credentials();
    if (access.secret().isEmpty()
        && !kept.secret().isEmpty()
        && !isSameHost(address, before.baseUrl())) {
      throw Problem.invalid("secret", "the address leads to another host: type its secret");
    }
    Credentials shown =
        new Credentials(
            access.clientId().strip(),
            access.secret().isEmpty() ? kept.secret() : access.secret(),
            access.webhookSecret().isEmpty() ? kept.webhookSecret() : access.webhookSecret());
    Found found;
    try {
      found = found(before.at(address, shown));
    } catch (ChannelError e) {
      throw Problem.invalid(e.isNotLetIn() ? "secret" : "baseUrl", Texts.of(e));
    }
    channels.keepCredentials(id, address, shown);
    if (isConnected(id)) {
      noted(before.name() + ": its address or what we show it was changed", actor);
    } else {
      stand(id, SetupStep.ORDERS);
    }
    return found;
  }

  private Found found(Channel channel) {
    var page =
        connectors
            .able(channel, OrderSource.class)
            .map(source -> source.orders(channel, channel.cursor()))
            .orElseThrow(() -> Problem.conflict(channel.name() + " is not spoken to"));
    int offered =
        connectors
            .able(channel, ListingSource.class)
            .map(source -> source.listings(channel).size())
            .orElse(0);
    return new Found(
        page.messages().size(),
        offered,
        page.messages().isEmpty()
            ? ""
            : connectors.of(channel).externalId(page.messages().getFirst()));
  }

  private static boolean isSameHost(URI one, URI other) {
    return Objects.equals(one.getScheme(), other.getScheme())
        && Objects.equals(one.getHost(), other.getHost())
        && one.getPort() == other.getPort();
  }

  /**
   * Reads its listings again, as is done by itself once a day.
   *
   * @return how many it has
   */
  int readListings(long id) {
    Channel channel = channels.byId(id);
    try {
      return listings.fetch(channel);
    } catch (ChannelError e) {
      throw Problem.elsewhere(Texts.of(e));
    }
  }

  /** Its messages of what left while it only listened are sent after all. */
  @Transactional
  public int tellAfterwards(long id, String actor) {
    Channel channel = channels.byId(id);
    int told = posts.sendSkipped(id);
    if (told > 0) {
      noted(channel.name() + " is told of what left while it only listened", actor);
    }
    return told;
  }

  /** Also of a connection that stands: it holds for orders that come from now on. */
  @Transactional
  public void wanted(long id, Wanted wanted, String actor) {
    Channel channel = channels.byId(id);
    channels.keepTerms(
        id,
        channel
            .terms()
            .forOrders(wanted.payments(), wanted.states(), wanted.sites(), wanted.since()));
    if (isConnected(id)) {
      noted(channel.name() + ": other orders are taken from now on", actor);
    } else {
      stand(id, SetupStep.DEFAULTS);
    }
  }

  /**
   * Keeps the defaults. While a channel is being connected its listings are fetched, to be matched
   * by them; of a connection that stands they hold for what comes from now on.
   *
   * @return listings fetched
   */
  int defaults(long id, Defaults d, String actor) {
    requirePrefix(d.prefix());
    require(
        d.intervalSeconds() >= 1 && d.intervalSeconds() <= 86_400,
        "intervalSeconds",
        "an interval is 1 second to 1 day");
    require(
        d.feeHundredths() >= 0 && d.feeHundredths() <= 10_000 && d.fixedFee() >= 0,
        "feeHundredths",
        "fees are 0 to 100 %, and not negative");
    requireNodes(d.nodes(), d.depot());
    Terms t = channels.byId(id).terms();
    db.update(CHANNEL)
        .set(CHANNEL.PREFIX, d.prefix())
        .set(CHANNEL.APPROVAL, d.approval().name())
        .set(CHANNEL.MATCH_BY, d.matchBy().name())
        .set(CHANNEL.INTERVAL_SECONDS, d.intervalSeconds())
        .where(CHANNEL.ID.eq(id))
        .execute();
    channels.keepTerms(
        id,
        new Terms(
            t.payments(),
            t.states(),
            t.sites(),
            t.since(),
            d.nodes(),
            d.pricesWithTax(),
            d.discountsWithin(),
            d.feeHundredths(),
            d.fixedFee(),
            d.tellsUnits(),
            d.tellsNodes(),
            d.unknownListings(),
            d.team().strip(),
            d.phone().strip(),
            d.depot()));
    Channel channel = channels.byId(id);
    if (isConnected(id)) {
      noted(channel.name() + ": its orders are taken on other terms from now on", actor);
      return 0;
    }
    int fetched;
    try {
      fetched = listings.fetch(channel);
    } catch (ChannelError e) {
      throw Problem.elsewhere(Texts.of(e));
    }
    stand(id, channel.baseUrl().toString().isEmpty() ? null : SetupStep.LISTINGS);
    return fetched;
  }

  /** The listings have been looked at; what is not matched yet can be matched later as well. */
  void listingsSeen(long id) {
    required(id);
    stand(id, SetupStep.PREVIEW);
  }

  /** Back to a step that was done before. */
  void goTo(long id, SetupStep step) {
    required(id);
    stand(id, step);
  }

  /** It is connected: its orders are fetched from now on, and nothing is written there. */
  @Transactional
  public void finish(long id, String actor) {
    Channel channel = required(id);
    stand(id, null);
    db.update(CHANNEL)
        .set(CHANNEL.NEXT_PULL_AT, clock.instant())
        .where(CHANNEL.ID.eq(id))
        .execute();
    noted(channel.name() + " is connected, and listens only", actor);
  }

  private void stand(long id, @Nullable SetupStep step) {
    db.update(CHANNEL)
        .set(CHANNEL.SETUP, step == null ? null : step.name())
        .set(CHANNEL.VERSION, CHANNEL.VERSION.plus(1))
        .where(CHANNEL.ID.eq(id))
        .execute();
  }

  /**
   * @throws Problem if it is connected already
   */
  Channel required(long id) {
    Channel channel = channels.byId(id);
    if (isConnected(id)) {
      throw Problem.conflict(channel.name() + " is connected already");
    }
    return channel;
  }

  private boolean isConnected(long id) {
    return db.fetchExists(CHANNEL, CHANNEL.ID.eq(id).and(CHANNEL.SETUP.isNull()));
  }

  private void requireNodes(Set<String> nodes, String depot) {
    Set<String> unknown = new HashSet<>(nodes);
    if (!depot.isEmpty()) {
      unknown.add(depot);
    }
    unknown.removeAll(db.select(NODE.CODE).from(NODE).fetchSet(NODE.CODE));
    require(unknown.isEmpty(), "nodes", "there is no node " + String.join(", ", unknown));
  }

  private static void requirePrefix(String prefix) {
    require(
        prefix.matches("[A-Z0-9]{1,8}-?"),
        "prefix",
        "1 to 8 capital letters or digits, and a dash");
  }

  private static void require(boolean holds, String field, String otherwise) {
    if (!holds) {
      throw Problem.invalid(field, otherwise);
    }
  }

  private void noted(String what, String actor) {
    events.record(EventKind.CHANNEL_CHANGED, null, null, actor, what, "");
  }
}
