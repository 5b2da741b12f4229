package dev.ordinator.channels;

import static dev.ordinator.schema.Tables.WEBHOOK_SEEN;

import dev.ordinator.platform.Transactions;
import io.swagger.v3.oas.annotations.Hidden;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RestController;

/** Receives what channels send by themselves, signed after the Standard Webhooks specification. */
@RestController
@Hidden
class WebhookApi {
  private static final int LARGEST = 4 * 1024 * 1024;
  private static final Duration TOLERANCE = Duration.ofMinutes(5);

  private final DSLContext db;
  private final ChannelStore channels;
  private final Intake intake;
  private final Transactions transactions;
  private final Clock clock;

  WebhookApi(
      DSLContext db, ChannelStore channels, Intake intake, Transactions transactions, Clock clock) {
    this.db = db;
    this.channels = channels;
    this.intake = intake;
    this.transactions = transactions;
    this.clock = clock;
  }

  @PostMapping("/hooks/channels/{code}")
  ResponseEntity<Void> receive(
      @PathVariable String code,
      @RequestHeader("webhook-id") String id,
      @RequestHeader("webhook-timestamp") String timestamp,
      @RequestHeader("webhook-signature") String signature,
      HttpServletRequest request)
      throws IOException {
    byte[] body = request.getInputStream().readNBytes(LARGEST + 1);
    if (body.length > LARGEST) {
      return ResponseEntity.status(413).build();
    }
    Optional<Channel> channel = channels.byCode(code);
    if (channel.isEmpty()
        || !isFresh(timestamp)
        || !WebhookSignature.isRight(
            channel.get().webhookSecret(), id, timestamp, body, signature)) {
      return ResponseEntity.status(401).build();
    }
    // remembered after it was taken in: what is interrupted half-way may come again
    if (!isSeen(channel.get(), id)) {
      intake.take(channel.get(), new String(body, StandardCharsets.UTF_8), Intake.Source.WEBHOOK);
      remember(channel.get(), id);
    }
    return ResponseEntity.noContent().build();
  }

  private boolean isFresh(String timestamp) {
    if (!timestamp.matches("\\d{1,12}")) {
      return false;
    }
    Instant sent = Instant.ofEpochSecond(Long.parseLong(timestamp));
    return Duration.between(sent, clock.instant()).abs().compareTo(TOLERANCE) <= 0;
  }

  private boolean isSeen(Channel channel, String id) {
    return db.fetchExists(
        WEBHOOK_SEEN, WEBHOOK_SEEN.CHANNEL_ID.eq(channel.id()).and(WEBHOOK_SEEN.MESSAGE_ID.eq(id)));
  }

  private void remember(Channel channel, String id) {
    transactions.run(() ->
        db.insertInto(WEBHOOK_SEEN)
            .set(WEBHOOK_SEEN.CHANNEL_ID, channel.id())
            .set(WEBHOOK_SEEN.MESSAGE_ID, id)
            .set(WEBHOOK_SEEN.AT, clock.instant())
            .onDuplicateKeyIgnore()
            .execute());
  }
}
