package dev.ordinator.channels;

import dev.ordinator.core.orders.ApprovalPolicy;
import java.net.URI;

/**
 * A connection, as its connector and the intake need it.
 *
 * @param cursor where the last pull ended, in the channel's own terms
 */
record Channel(
    long id,
    String code,
    String name,
    URI baseUrl,
    String apiKey,
    String webhookSecret,
    String currency,
    ApprovalPolicy approval,
    MatchBy matchBy,
    boolean listenOnly,
    String cursor) {

  /** The identifier by which new listings are matched by themselves. */
  enum MatchBy {
    SKU,
    GTIN
  }

  /** Secrets stay out of logs. */
  @Override
  public String toString() {
    return "Channel[" + code + "]";
  }
}
