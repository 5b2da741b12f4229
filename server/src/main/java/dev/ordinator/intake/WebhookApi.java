package dev.ordinator.intake;

import static dev.ordinator.schema.Tables.WEBHOOK_SEEN;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.Schedules;
import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Channels;
import dev.ordinator.channels.Connector.WebhookMessage;
import dev.ordinator.channels.Connector.WebhookSource;
import dev.ordinator.channels.Connectors;
import dev.ordinator.platform.Digests;
import dev.ordinator.platform.Transactions;
import io.swagger.v3.oas.annotations.Hidden;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.Duration;
import java.util.Collections;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.context.annotation.Bean;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RestController;

/** Receives what channels send by themselves; each proves who it is in its own way. */
@RestController
@Hidden
class WebhookApi {
  private static final int LARGEST = 4 * 1024 * 1024;

  /** Longer than any message stays fresh: an older replay is refused for its age. */
  private static final Duration REMEMBERED = Duration.ofHours(1);

  private static final Duration TRY_AGAIN = Duration.ofMinutes(10);

  private final DSLContext db;
  private final Channels channels;
  private final Connectors connectors;
  private final Intake intake;
  private final Transactions transactions;
  private final Clock clock;

  WebhookApi(
      DSLContext db,
      Channels channels,
      Connectors connectors,
      Intake intake,
      Transactions transactions,
      Clock clock) {
    this.db = db;
    this.channels = channels;
    this.connectors = connectors;
    this.intake = intake;
    this.transactions = transactions;
    this.clock = clock;
  }

  @PostMapping("/hooks/channels/{code}")
  ResponseEntity<Void> receive(@PathVariable String code, HttpServletRequest request)
      throws IOException {
    byte[] body = request.getInputStream().readNBytes(LARGEST + 1);
    if (body.length > LARGEST) {
      return ResponseEntity.status(413).build();
    }
    Optional<Channel> channel = channels.byCode(code);
    Optional<String> sending = channel.flatMap(c -> verify(c, request, body));
    if (sending.isEmpty()) {
      return ResponseEntity.status(401).build();
    }
    if (isSeen(channel.get(), sending.get())) {
      return ResponseEntity.status(409).build();
    }
    if (channels.isPaused(channel.get().id())) {
      // who is told so sends it again later, so that nothing is lost by a pause
      return ResponseEntity.status(HttpStatus.SERVICE_UNAVAILABLE)
          .header(HttpHeaders.RETRY_AFTER, Long.toString(TRY_AGAIN.toSeconds()))
          .build();
    }
    intake.take(channel.get(), new String(body, StandardCharsets.UTF_8), Intake.Source.WEBHOOK);
    // remembered after it was taken in: what is interrupted half-way may come again
    remember(channel.get(), sending.get());
    return ResponseEntity.noContent().build();
  }

  @Bean
  RecurringTask<Void> forgetWebhooks() {
    return Tasks.recurring("forget-webhooks", Schedules.fixedDelay(Duration.ofHours(1)))
        .execute((instance, context) ->
            db.deleteFrom(WEBHOOK_SEEN)
                .where(WEBHOOK_SEEN.AT.lt(clock.instant().minus(REMEMBERED)))
                .execute());
  }

  private Optional<String> verify(Channel channel, HttpServletRequest request, byte[] body) {
    var headers =
        Collections.list(request.getHeaderNames()).stream()
            .collect(
                Collectors.toMap(
                    name -> name.toLowerCase(Locale.ROOT),
                    name -> Optional.ofNullable(request.getHeader(name)).orElse(""),
                    (a, b) -> a));
    return connectors
        .able(channel, WebhookSource.class)
        .flatMap(source -> source.verify(channel, new WebhookMessage(headers, body)))
        .map(Digests::sha256);
  }

  private boolean isSeen(Channel channel, String sending) {
    return db.fetchExists(
        WEBHOOK_SEEN,
        WEBHOOK_SEEN.CHANNEL_ID.eq(channel.id()).and(WEBHOOK_SEEN.MESSAGE_ID.eq(sending)));
  }

  private void remember(Channel channel, String sending) {
    transactions.run(() ->
        db.insertInto(WEBHOOK_SEEN)
            .set(WEBHOOK_SEEN.CHANNEL_ID, channel.id())
            .set(WEBHOOK_SEEN.MESSAGE_ID, sending)
            .set(WEBHOOK_SEEN.AT, clock.instant())
            .onDuplicateKeyIgnore()
            .execute());
  }
}
