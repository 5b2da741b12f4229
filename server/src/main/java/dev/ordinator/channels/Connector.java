package dev.ordinator.channels;

import dev.ordinator.core.money.Money;
import dev.ordinator.platform.Texts;
import java.time.Duration;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/**
 * The door to a kind of channel. A connector reads that kind's order messages, and has those of the
 * abilities below that the channel offers: it implements their interfaces, and what it does not
 * implement is not asked of it. It reads untrusted messages, and writes only when told to.
 */
public interface Connector {
  ChannelKind kind();

  Profile profile();

  /**
   * @throws MessagePart.Unreadable with the place and what is wrong there
   */
  IncomingOrder read(Channel channel, String message);

  /** The id in a message that can't be read otherwise; empty if not even that can be. */
  String externalId(String message);

  /** Orders can be fetched. */
  interface OrderSource {
    /**
     * @throws ChannelError if the channel does not answer as it should
     */
    OrderPage orders(Channel channel, String cursor);
  }

  /** Listings can be fetched. */
  interface ListingSource {
    /**
     * @throws ChannelError if the channel does not answer as it should
     */
    List<ListingData> listings(Channel channel);
  }

  /** It takes the names of certain carriers only, and says which. */
  interface CarrierSource {
    /**
     * @throws ChannelError if the channel does not answer as it should
     */
    List<String> carriers(Channel channel);
  }

  /** Items can be offered on it. */
  interface ListingSink {
    /**
     * Offers an item under our SKU; offered again, it takes the place of what it was.
     *
     * @return the channel's own id of the listing
     * @throws ChannelError if the channel does not accept it
     */
    String pushListing(Channel channel, ListingDraft draft);
  }

  /** It can be told what is in stock. */
  interface QuantitySink {
    /** How many listings one request may hold. */
    int largestBatch();

    /**
     * @throws ChannelError if the channel does not accept it
     */
    void pushQuantities(Channel channel, List<ListedQuantity> quantities);
  }

  /** It can be told of shipments. */
  interface ShipmentSink {
    /**
     * @throws ChannelError if the channel does not accept it
     */
    void pushShipment(Channel channel, ShipmentNotice notice);
  }

  /** It can be told that units will not come. */
  interface CancellationSink {
    /**
     * @throws ChannelError if the channel does not accept it
     */
    void pushCancellation(Channel channel, CancellationNotice notice);
  }

  /** It can be told that a change or a cancellation that it asked for is not followed. */
  interface ObjectionSink {
    /**
     * @throws ChannelError if the channel does not accept it
     */
    void pushObjection(Channel channel, ObjectionNotice notice);
  }

  /** It holds the buyers' payments, and can be told to pay back. */
  interface RefundSink {
    /**
     * @throws ChannelError if the channel does not accept it
     */
    void pushRefund(Channel channel, RefundNotice notice);
  }

  /** It sends messages by itself. */
  interface WebhookSource {
    /**
     * @return what no other sending has, not even of the same message: a replay is refused by it,
     *     and a sender's own second try is not; empty if it is forged or not fresh
     */
    Optional<String> verify(Channel channel, WebhookMessage message);
  }

  /**
   * What connecting asks for.
   *
   * @param sites country sites it has
   * @param states order states in its own words, each with what it means
   * @param wanted those states that are taken unless a person says otherwise; empty: all
   */
  record Profile(
      List<String> sites,
      Map<String, String> states,
      List<String> wanted,
      boolean needsClientId,
      boolean signsWebhooks,
      boolean pricesWithTax) {}

  /**
   * Messages about orders, as they came, each on its own.
   *
   * @param next where to go on; equal to the cursor given when there is nothing more
   */
  record OrderPage(List<String> messages, String next, boolean more) {}

  /**
   * A product as the channel offers it.
   *
   * @param family the listing of which it is a variant; empty if of none
   * @param pictures their addresses
   * @param published false: buyers don't see it
   */
  record ListingData(
      String externalId,
      String sku,
      String gtin,
      String title,
      String family,
      @Nullable Money price,
      List<String> pictures,
      boolean published) {

    /** As orders tell of a product: without pictures, and seen by its buyer. */
    public ListingData(
        String externalId,
        String sku,
        String gtin,
        String title,
        String family,
        @Nullable Money price) {
      this(externalId, sku, gtin, title, family, price, List.of(), true);
    }
  }

  /**
   * An item as it is to be offered.
   *
   * @param family under which its variants are shown together; empty: it stands alone
   * @param published false: as a draft, which buyers don't see
   */
  record ListingDraft(
      String sku,
      String gtin,
      String title,
      String text,
      List<String> pictures,
      String family,
      Money price,
      boolean published) {}

  /** Units of a listing that may be sold. */
  record ListedQuantity(String externalId, long quantity) {}

  /**
   * @param carrier as the channel names it
   * @param lines units by the channel's own line ids
   * @param instead SKUs of what was sent in place of what was ordered, by line
   */
  record ShipmentNotice(
      String onceKey,
      String externalOrderId,
      String carrier,
      List<String> trackings,
      String trackingUrl,
      Map<String, Long> lines,
      Map<String, String> instead) {}

  /**
   * @param lines units by the channel's own line ids
   */
  record CancellationNotice(
      String onceKey, String externalOrderId, String reason, Map<String, Long> lines) {}

  /** What a channel asked for that is not followed. */
  enum Asked {
    CHANGE,
    CANCELLATION
  }

  /**
   * @param reason in words
   */
  record ObjectionNotice(String onceKey, String externalOrderId, Asked about, String reason) {
    /** As channels write it. */
    String aboutWord() {
      return about.name().toLowerCase(Locale.ROOT);
    }
  }

  /**
   * @param amount all that is to be paid back
   * @param lines the units that it is for, by the channel's own line ids; may be none
   */
  record RefundNotice(
      String onceKey,
      String externalOrderId,
      String reason,
      Money amount,
      Map<String, Long> lines) {}

  /**
   * @param headers names in lower case
   */
  record WebhookMessage(Map<String, String> headers, byte[] body) {
    public String header(String name) {
      return headers.getOrDefault(name, "");
    }
  }

  /** What went wrong between us and a channel, in a sentence without secrets. */
  final class ChannelError extends RuntimeException {
    private static final long serialVersionUID = 1L;

    private final @Nullable Duration retryAfter;
    private final Why why;

    private enum Why {
      PASSING,
      NOT_LET_IN,
      REFUSED
    }

    private ChannelError(String message, @Nullable Duration retryAfter, Why why) {
      super(Texts.cut(message, 400));
      this.retryAfter = retryAfter;
      this.why = why;
    }

    /** It may work if it is tried again. */
    public static ChannelError passing(String message) {
      return new ChannelError(message, null, Why.PASSING);
    }

    /** The channel wants to be left alone for a while. */
    public static ChannelError busy(String message, Duration retryAfter) {
      return new ChannelError(message, retryAfter, Why.PASSING);
    }

    /** The channel does not believe that it is us. */
    public static ChannelError notLetIn(String message) {
      return new ChannelError(message, null, Why.NOT_LET_IN);
    }

    /** The channel understood, and refuses; trying the same again is no use. */
    public static ChannelError refused(String message) {
      return new ChannelError(message, null, Why.REFUSED);
    }

    /** How long the channel asked not to be spoken to; null: it did not ask. */
    public @Nullable Duration retryAfter() {
      return retryAfter;
    }

    public boolean isNotLetIn() {
      return why == Why.NOT_LET_IN;
    }

    public boolean isForGood() {
      return why == Why.REFUSED;
    }
  }
}
