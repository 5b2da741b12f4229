package dev.ordinator.channels;

import java.io.ByteArrayOutputStream;
import java.nio.charset.StandardCharsets;
import java.security.GeneralSecurityException;
import java.security.MessageDigest;
import java.util.Base64;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;

/**
 * The symmetric signature of Standard Webhooks: base64 of HMAC-SHA256 over {@code
 * id.timestamp.body}, written as {@code v1,…}; several may be given, separated by spaces.
 */
final class WebhookSignature {
  private static final String ALGORITHM = "HmacSHA256";

  private WebhookSignature() {}

  static boolean isRight(
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

  static String sign(String secret, String id, String timestamp, byte[] body) {
    ByteArrayOutputStream signed = new ByteArrayOutputStream();
    signed.writeBytes((id + "." + timestamp + ".").getBytes(StandardCharsets.UTF_8));
    signed.writeBytes(body);
    try {
      Mac mac = Mac.getInstance(ALGORITHM);
      mac.init(new SecretKeySpec(secret.getBytes(StandardCharsets.UTF_8), ALGORITHM));
      return "v1," + Base64.getEncoder().encodeToString(mac.doFinal(signed.toByteArray()));
    } catch (GeneralSecurityException e) {
      throw new AssertionError("every JDK has " + ALGORITHM, e);
    }
  }
}
