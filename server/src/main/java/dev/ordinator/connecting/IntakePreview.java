package dev.ordinator.connecting;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.LISTING;

import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Channel.MatchBy;
import dev.ordinator.channels.Connector;
import dev.ordinator.channels.Connector.ChannelError;
import dev.ordinator.channels.Connector.OrderPage;
import dev.ordinator.channels.Connector.OrderSource;
import dev.ordinator.channels.Connectors;
import dev.ordinator.channels.IncomingOrder;
import dev.ordinator.channels.MessagePart.Unreadable;
import dev.ordinator.channels.ServiceWordings;
import dev.ordinator.core.orders.Address;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/** The orders that a connection would take in, and what would stop each; nothing is kept. */
@Component
class IntakePreview {
  private static final int MOST = 200;

  private final DSLContext db;
  private final Connectors connectors;
  private final ServiceWordings wordings;

  IntakePreview(DSLContext db, Connectors connectors, ServiceWordings wordings) {
    this.db = db;
    this.connectors = connectors;
    this.wordings = wordings;
  }

  /** What would become of an order. */
  enum Fate {
    TAKEN,
    /** Taken, and stopped by a snag. */
    STUCK,
    LEFT_ALONE,
    REFUSED
  }

  record Previewed(
      String externalId, Instant placedAt, String buyer, String total, Fate fate, String why) {}

  /**
   * @param more whether the channel has more than were looked at
   */
  record Preview(List<Previewed> orders, boolean more) {}

  Preview of(Channel channel) {
    OrderSource source =
        connectors
            .able(channel, OrderSource.class)
            .orElseThrow(() -> Problem.conflict(channel.name() + " is not fetched from"));
    Connector connector = connectors.of(channel);
    Set<String> matched =
        db.select(LISTING.EXTERNAL_ID)
            .from(LISTING)
            .where(LISTING.CHANNEL_ID.eq(channel.id()))
            .and(LISTING.ITEM_ID.isNotNull())
            .fetchSet(LISTING.EXTERNAL_ID);
    Set<String> skus =
        channel.matchBy() == MatchBy.SKU
            ? db.select(ITEM.SKU).from(ITEM).fetchSet(ITEM.SKU)
            : Set.of();
    List<Previewed> found = new ArrayList<>();
    String cursor = "";
    OrderPage page;
    try {
      do {
        page = source.orders(channel, cursor);
        page.messages().forEach(m -> found.add(one(channel, connector, m, matched, skus)));
        cursor = page.next();
      } while (page.more() && found.size() < MOST);
    } catch (ChannelError e) {
      throw Problem.elsewhere(Texts.of(e));
    }
    return new Preview(List.copyOf(found.subList(0, Math.min(MOST, found.size()))), page.more());
  }

  private Previewed one(
      Channel channel, Connector connector, String message, Set<String> matched, Set<String> skus) {
    IncomingOrder order;
    try {
      order = connector.read(channel, message);
    } catch (Unreadable e) {
      return new Previewed(
          connector.externalId(message),
          Instant.EPOCH,
          "",
          "",
          Fate.REFUSED,
          (e.place() + " " + Texts.of(e)).strip());
    }
    var header = order.header();
    String total = header.total() == null ? "" : header.total().toString();
    List<String> stops = stops(channel, order, matched, skus);
    boolean wanted = !order.cancelled() && channel.terms().wants(order);
    return new Previewed(
        header.externalId(),
        header.placedAt(),
        header.buyer().name(),
        total,
        wanted ? stops.isEmpty() ? Fate.TAKEN : Fate.STUCK : Fate.LEFT_ALONE,
        wanted
            ? String.join("; ", stops)
            : order.cancelled() ? "cancelled" : "not wanted: " + header.state());
  }

  private List<String> stops(
      Channel channel, IncomingOrder order, Set<String> matched, Set<String> skus) {
    List<String> stops = new ArrayList<>();
    order.lines().stream()
        .filter(
            l -> !matched.contains(l.listing().externalId()) && !skus.contains(l.listing().sku()))
        .forEach(l -> stops.add("not matched: " + l.listing().title()));
    if (!order.header().fulfilledByChannel()) {
      if (wordings.of(channel.id()).level(order.header().service()).isEmpty()) {
        stops.add("service unknown: " + order.header().service());
      }
      order.header().shipTo().problems().stream().map(Address.Problem::message).forEach(stops::add);
    }
    return stops;
  }
}
