package dev.ordinator.platform;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.util.Base64;

/**
 * The symmetric signature of Standard Webhooks: base64 of HMAC-SHA256 over {@code
 * id.timestamp.body}, written as {@code v1,…}; several may be given, separated by spaces.
 */
public final class WebhookSignature {
  private WebhookSignature() {}

  public static boolean isRight(
      String secret, String id, String timestamp, byte[] body, String signatures) {
    byte[] expected = sign(secret, id, timestamp, body).getBytes(StandardCharsets.UTF_8);
    for (String given : signatures.split(" ", -1)) {
      // compared in constant time
      if (MessageDigest.isEqual(expected, given.getBytes(StandardCharsets.UTF_8))) {
        return true;
      }
    }
    return false;
  }

  public static String sign(String secret, String id, String timestamp, byte[] body) {
    return sign(secret.getBytes(StandardCharsets.UTF_8), id, timestamp, body);
  }

  /**
   * @param key for secrets written {@code whsec_…}: what follows, decoded from base64
   */
  public static String sign(byte[] key, String id, String timestamp, byte[] body) {
    byte[] head = (id + "." + timestamp + ".").getBytes(StandardCharsets.UTF_8);
    return "v1," + Base64.getEncoder().encodeToString(Hmac.sha256(key, head, body));
  }
}
