package dev.ordinator.platform;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;
import org.jspecify.annotations.Nullable;

/**
 * Tells whether somebody saw what they change (RFC 9110, section 8.8.3 and 13.1.1): what is read
 * comes with a tag of its content, and who writes sends it back as {@code If-Match}.
 */
public final class EntityTag {
  private static final int BYTES = 12;

  private EntityTag() {}

  /**
   * @param content a record, whose text tells all of it
   */
  public static String of(Record content) {
    try {
      byte[] digest =
          MessageDigest.getInstance("SHA-256")
              .digest(content.toString().getBytes(StandardCharsets.UTF_8));
      return "\"" + HexFormat.of().formatHex(digest, 0, BYTES) + "\"";
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException(e);
    }
  }

  /**
   * @param seen as it was sent; null: who writes does not say what they saw
   * @throws Problem 412 if the content is another now
   */
  public static void require(@Nullable String seen, Record content) {
    if (seen != null && !seen.equals("*") && !seen.equals(of(content))) {
      throw Problem.stale();
    }
  }
}
