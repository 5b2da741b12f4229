package dev.ordinator.platform;

import java.nio.charset.StandardCharsets;
import org.springframework.security.crypto.encrypt.BytesEncryptor;
import org.springframework.security.crypto.encrypt.Encryptors;
import org.springframework.stereotype.Component;

/** Keeps connections' secrets encrypted in the database (AES-256-GCM). */
@Component
public class SecretBox {
  /** Key derivation wants a salt; the key itself is random, so that a fixed one does. */
  private static final String SALT = "6f7264696e61746f";

  private final BytesEncryptor box;

  SecretBox(OrdinatorSettings settings) {
    if (settings.key().length() < 16) {
      throw new IllegalStateException(
          "ORDINATOR_KEY must be set to at least 16 characters; ./ordinator does so by itself");
    }
    this.box = Encryptors.stronger(settings.key(), SALT);
  }

  public byte[] lock(String secret) {
    return box.encrypt(secret.getBytes(StandardCharsets.UTF_8));
  }

  public String open(byte[] locked) {
    return new String(box.decrypt(locked), StandardCharsets.UTF_8);
  }
}
