package dev.ordinator.buyers;

import dev.ordinator.platform.Hmac;
import dev.ordinator.platform.OrdinatorSettings;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.util.Arrays;
import java.util.Base64;
import java.util.OptionalLong;
import org.springframework.stereotype.Component;

/**
 * Links by which buyers answer: the question's number, and sixteen bytes of HMAC-SHA256 over it, in
 * base64url. Who has no link can't make one.
 */
@Component
class AnswerLink {
  private static final byte[] PURPOSE = "buyer-answer:".getBytes(StandardCharsets.UTF_8);
  private static final int LENGTH = 16;

  private final byte[] key;
  private final String address;

  AnswerLink(OrdinatorSettings settings) {
    this.key = settings.key().getBytes(StandardCharsets.UTF_8);
    this.address = settings.address();
  }

  String to(long questionId) {
    return address + "/answer/" + questionId + "." + signature(questionId);
  }

  /** The question of a link's last part; empty if we did not make it. */
  OptionalLong question(String token) {
    int dot = token.indexOf('.');
    if (dot < 1 || !token.substring(0, dot).matches("[0-9]{1,18}")) {
      return OptionalLong.empty();
    }
    long id = Long.parseLong(token.substring(0, dot));
    boolean ours =
        MessageDigest.isEqual(
            signature(id).getBytes(StandardCharsets.UTF_8),
            token.substring(dot + 1).getBytes(StandardCharsets.UTF_8));
    return ours ? OptionalLong.of(id) : OptionalLong.empty();
  }

  private String signature(long questionId) {
    byte[] full =
        Hmac.sha256(key, PURPOSE, Long.toString(questionId).getBytes(StandardCharsets.UTF_8));
    return Base64.getUrlEncoder().withoutPadding().encodeToString(Arrays.copyOf(full, LENGTH));
  }
}
