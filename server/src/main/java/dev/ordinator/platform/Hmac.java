package dev.ordinator.platform;

import java.security.GeneralSecurityException;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;

/** Keyed hashes (RFC 2104). */
public final class Hmac {
  private static final String ALGORITHM = "HmacSHA256";

  private Hmac() {}

  /** HMAC-SHA256 over the parts, one after the other. */
  public static byte[] sha256(byte[] key, byte[]... parts) {
    try {
      Mac mac = Mac.getInstance(ALGORITHM);
      mac.init(new SecretKeySpec(key, ALGORITHM));
      for (byte[] part : parts) {
        mac.update(part);
      }
      return mac.doFinal();
    } catch (GeneralSecurityException e) {
      throw new AssertionError("every JDK has " + ALGORITHM, e);
    }
  }
}
