package dev.ordinator.channels;

import dev.ordinator.platform.Texts;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** The door to a kind of channel. Reads untrusted messages; writes only when told to. */
interface Connector {

  /**
   * Messages about orders, as they came, each on its own.
   *
   * @param next where to go on; equal to the cursor given when there is nothing more
   */
  record OrderPage(List<String> messages, String next, boolean more) {}

  /** A product as the channel offers it. */
  record ListingData(String externalId, String sku, String gtin, String title) {}

  /**
   * @param lines units by the channel's own line ids
   */
  record ShipmentNotice(
      String onceKey,
      String externalOrderId,
      String carrier,
      List<String> trackings,
      @Nullable String trackingUrl,
      Map<String, Long> lines) {}

  /**
   * @throws ChannelError if the channel does not answer as it should
   */
  OrderPage orders(Channel channel, String cursor);

  /**
   * @throws ChannelError if the channel does not answer as it should
   */
  List<ListingData> listings(Channel channel);

  /**
   * @throws ChannelError if the channel does not accept it
   */
  void pushShipment(Channel channel, ShipmentNotice notice);

  /** What went wrong between us and a channel, in a sentence without secrets. */
  final class ChannelError extends RuntimeException {
    private static final long serialVersionUID = 1L;

    ChannelError(String message) {
      super(Texts.cut(message, 400));
    }
  }
}
