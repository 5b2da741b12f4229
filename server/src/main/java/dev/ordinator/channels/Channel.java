package dev.ordinator.channels;

import dev.ordinator.core.orders.ApprovalPolicy;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.Base64;

/**
 * A connection, as its connector, the intake and the feed need it.
 *
 * @param baseUrl empty if we never call it
 * @param currency ISO 4217; of orders that name none
 * @param writesBack whether it may be told what becomes of its orders
 * @param feeds whether it may be told what is in stock
 * @param cursor where the last pull ended, in the channel's own terms
 */
public record Channel(
    long id,
    ChannelKind kind,
    String code,
    String name,
    URI baseUrl,
    Credentials credentials,
    String currency,
    ApprovalPolicy approval,
    MatchBy matchBy,
    boolean writesBack,
    boolean feeds,
    Terms terms,
    String cursor) {

  /** The identifier by which new listings are matched by themselves. */
  public enum MatchBy {
    SKU,
    GTIN,
    SUPPLIER_CODE
  }

  /**
   * How we prove to each other who we are. Secrets stay out of logs.
   *
   * @param clientId who we are there; empty if the secret says it all
   */
  public record Credentials(String clientId, String secret, String webhookSecret) {
    /** As HTTP's basic authentication wants it (RFC 7617). */
    String basic() {
      return "Basic "
          + Base64.getEncoder()
              .encodeToString((clientId + ":" + secret).getBytes(StandardCharsets.UTF_8));
    }

    @Override
    public String toString() {
      return "Credentials[" + clientId + "]";
    }
  }

  /** The same at another address, or shown something else. */
  public Channel at(URI address, Credentials shown) {
    return new Channel(
        id,
        kind,
        code,
        name,
        address,
        shown,
        currency,
        approval,
        matchBy,
        writesBack,
        feeds,
        terms,
        cursor);
  }

  @Override
  public String toString() {
    return "Channel[" + code + "]";
  }
}
