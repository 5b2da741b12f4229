package dev.ordinator.channels;

import static dev.ordinator.schema.Tables.REFUSED_MESSAGE;

import dev.ordinator.channels.MessagePart.Unreadable;
import dev.ordinator.core.orders.Stage;
import dev.ordinator.orders.NewOrder;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import dev.ordinator.platform.Transactions;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.time.Clock;
import java.util.HexFormat;
import java.util.Locale;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.springframework.dao.DuplicateKeyException;
import org.springframework.stereotype.Service;

/**
 * Takes order messages in: each on its own, the same one only once, whichever way and however often
 * it comes. What can't be read is kept and shown, and stops nothing else.
 */
@Service
public class Intake {
  private final DSLContext db;
  private final Transactions transactions;
  private final OrderReader reader;
  private final ChannelStore channels;
  private final Listings listings;
  private final Orders orders;
  private final Snags snags;
  private final Events events;
  private final Clock clock;

  Intake(
      DSLContext db,
      Transactions transactions,
      OrderReader reader,
      ChannelStore channels,
      Listings listings,
      Orders orders,
      Snags snags,
      Events events,
      Clock clock) {
    this.db = db;
    this.transactions = transactions;
    this.reader = reader;
    this.channels = channels;
    this.listings = listings;
    this.orders = orders;
    this.snags = snags;
    this.events = events;
    this.clock = clock;
  }

  enum Source {
    PULL,
    WEBHOOK
  }

  /** What became of a message. */
  enum Taken {
    NEW,
    CHANGED,
    /** Known already, or older than what is known. */
    NOTHING_NEW,
    REFUSED
  }

  Taken take(Channel channel, String message, Source source) {
    try {
      return takeReadable(channel, reader.read(message, channel.currency()), words(source));
    } catch (Unreadable e) {
      transactions.run(() -> refuse(channel, message, source, e));
      return Taken.REFUSED;
    }
  }

  /**
   * Tries a refused message again, as a person corrected it.
   *
   * @throws Problem with the place that is still wrong; the corrected text is kept all the same
   */
  void correct(long refusedId, String corrected, String actor) {
    Record refused = refused(refusedId);
    Channel channel = channels.byId(refused.get(REFUSED_MESSAGE.CHANNEL_ID));
    IncomingOrder order;
    try {
      order = reader.read(corrected, channel.currency());
    } catch (Unreadable e) {
      keepBody(refusedId, corrected, e);
      throw Problem.invalid(e.place(), Texts.of(e));
    }
    takeReadable(channel, order, "corrected by " + actor);
    settle(refusedId, "CORRECTED", actor);
  }

  void discard(long refusedId, String actor) {
    refused(refusedId);
    settle(refusedId, "DISCARDED", actor);
  }

  /** Our id of a channel's order, if it was taken in. */
  Optional<Long> idOf(Channel channel, String externalId) {
    return transactions.get(() -> orders.lock(channel.id(), externalId).map(OrderHead::id));
  }

  private Taken takeReadable(Channel channel, IncomingOrder order, String how) {
    try {
      return transactions.get(() -> takeOnce(channel, order, how));
    } catch (DuplicateKeyException otherWasFirst) {
      return transactions.get(() -> takeOnce(channel, order, how));
    }
  }

  private Taken takeOnce(Channel channel, IncomingOrder order, String how) {
    String digest = digest(order.content());
    Optional<OrderHead> known = orders.lock(channel.id(), order.externalId());
    if (known.isEmpty()) {
      orders.take(channel.id(), newOrder(channel, order, digest), channel.name(), how);
      return Taken.NEW;
    }
    OrderHead ours = known.get();
    if (order.revision() <= ours.externalRevision()) {
      return Taken.NOTHING_NEW;
    }
    orders.setRevision(ours.id(), order.revision(), digest);
    if (order.payment() != ours.payment()) {
      orders.setPayment(ours, order.payment(), channel.name());
    }
    if (!digest.equals(ours.digest())) {
      events.record(
          EventKind.CHANGED_BY_CHANNEL,
          ours.id(),
          channel.name(),
          "The channel changed the order after it was taken in");
      snags.open(
          Snags.About.of(
                  SnagCause.CHANGED_BY_CHANNEL,
                  ours.id(),
                  ours.number() + " was changed in " + channel.name(),
                  "what we took in stands; compare it with the channel’s order "
                      + ours.externalId())
              .order(ours.id()),
          ours.id(),
          channel.name());
      if (ours.stage().compareTo(Stage.RELEASED) < 0) {
        orders.setNext(ours.id(), null); // nothing leaves before a person has looked
      }
    }
    return Taken.CHANGED;
  }

  private NewOrder newOrder(Channel channel, IncomingOrder order, String digest) {
    return new NewOrder(
        order.externalId(),
        order.revision(),
        digest,
        order.placedAt(),
        order.buyer(),
        order.shipTo(),
        order.service(),
        order.arriveBy(),
        order.payment(),
        order.paymentMethod(),
        order.shippingCharge(),
        order.discount(),
        order.total(),
        order.instructions(),
        order.giftMessage(),
        order.lines().stream()
            .map(l ->
                new NewOrder.Line(
                    l.externalId(),
                    listings.know(channel, l.listing()),
                    l.listing().title(),
                    l.quantity(),
                    l.unitPrice(),
                    l.discount()))
            .toList());
  }

  private void refuse(Channel channel, String message, Source source, Unreadable why) {
    String id = reader.externalId(message);
    int isNew =
        db.insertInto(REFUSED_MESSAGE)
            .set(REFUSED_MESSAGE.CHANNEL_ID, channel.id())
            .set(REFUSED_MESSAGE.EXTERNAL_ID, id)
            .set(REFUSED_MESSAGE.SOURCE, source.name())
            .set(REFUSED_MESSAGE.STATE, "REFUSED")
            .set(REFUSED_MESSAGE.PLACE, Texts.cut(why.place(), 200))
            .set(REFUSED_MESSAGE.PROBLEM, Texts.cut(Texts.of(why), 400))
            .set(REFUSED_MESSAGE.BODY, message)
            .set(REFUSED_MESSAGE.DIGEST, digest(message))
            .set(REFUSED_MESSAGE.RECEIVED_AT, clock.instant())
            .onDuplicateKeyIgnore()
            .execute();
    if (isNew == 0) {
      return; // the same message again
    }
    long refused =
        db.select(REFUSED_MESSAGE.ID)
            .from(REFUSED_MESSAGE)
            .where(REFUSED_MESSAGE.CHANNEL_ID.eq(channel.id()))
            .and(REFUSED_MESSAGE.DIGEST.eq(digest(message)))
            .fetchSingle()
            .value1();
    snags.open(
        Snags.About.of(
                SnagCause.UNREADABLE_ORDER,
                refused,
                channel.name() + (id.isEmpty() ? ": a message" : ": order " + Texts.cut(id, 60)),
                Texts.cut((why.place().isEmpty() ? "" : why.place() + " ") + Texts.of(why), 300))
            .refused(channel.id(), refused),
        null,
        channel.name());
    events.record(
        EventKind.CHANNEL_CHANGED, null, null, channel.name(), "A message was refused", "");
  }

  private Record refused(long id) {
    return db.select(REFUSED_MESSAGE.CHANNEL_ID)
        .from(REFUSED_MESSAGE)
        .where(REFUSED_MESSAGE.ID.eq(id))
        .and(REFUSED_MESSAGE.STATE.eq("REFUSED"))
        .fetchOptional()
        .orElseThrow(() -> Problem.notFound("refused message " + id));
  }

  private void keepBody(long id, String body, Unreadable why) {
    db.update(REFUSED_MESSAGE)
        .set(REFUSED_MESSAGE.BODY, body)
        .set(REFUSED_MESSAGE.PLACE, Texts.cut(why.place(), 200))
        .set(REFUSED_MESSAGE.PROBLEM, Texts.cut(Texts.of(why), 400))
        .where(REFUSED_MESSAGE.ID.eq(id))
        .execute();
  }

  private void settle(long id, String state, String actor) {
    transactions.run(() -> {
      db.update(REFUSED_MESSAGE)
          .set(REFUSED_MESSAGE.STATE, state)
          .where(REFUSED_MESSAGE.ID.eq(id))
          .execute();
      snags.close(SnagCause.UNREADABLE_ORDER, id, actor);
      events.record(
          EventKind.CHANNEL_CHANGED,
          null,
          null,
          actor,
          "Refused message " + id + " " + state.toLowerCase(Locale.ROOT),
          "");
    });
  }

  private static String words(Source source) {
    return switch (source) {
      case PULL -> "fetched from the channel";
      case WEBHOOK -> "sent by the channel";
    };
  }

  /** SHA-256 of a record's text; records print all they hold, in order. */
  private static String digest(Object content) {
    try {
      return HexFormat.of()
          .formatHex(
              MessageDigest.getInstance("SHA-256")
                  .digest(content.toString().getBytes(StandardCharsets.UTF_8)));
    } catch (NoSuchAlgorithmException e) {
      throw new AssertionError("every JDK has SHA-256", e);
    }
  }
}
