package dev.ordinator.feed;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.LISTING;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.Schedules;
import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Channels;
import dev.ordinator.channels.Connector.ChannelError;
import dev.ordinator.channels.Connector.ListedQuantity;
import dev.ordinator.channels.Connector.QuantitySink;
import dev.ordinator.channels.Connectors;
import dev.ordinator.core.feed.FeedGuard;
import dev.ordinator.feed.FeedLines.FeedLine;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Texts;
import dev.ordinator.platform.Transactions;
import dev.ordinator.platform.WorkHealth;
import jakarta.annotation.PreDestroy;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/**
 * Pushes quantities to the channels that are fed: only what changed, in batches, each channel on a
 * thread of its own and claimed for a while, as pulls are.
 */
@Configuration
public class Feed {
  private static final Logger LOG = LoggerFactory.getLogger(Feed.class);

  private final DSLContext db;
  private final Channels channels;
  private final Connectors connectors;
  private final FeedLines lines;
  private final FeedHolds holds;
  private final WaitingList waitingList;
  private final Transactions transactions;
  private final OrdinatorSettings settings;
  private final Clock clock;
  private final WorkHealth health;
  private final ExecutorService pushing = Executors.newVirtualThreadPerTaskExecutor();

  Feed(
      DSLContext db,
      Channels channels,
      Connectors connectors,
      FeedLines lines,
      FeedHolds holds,
      WaitingList waitingList,
      Transactions transactions,
      OrdinatorSettings settings,
      Clock clock,
      WorkHealth health) {
    this.db = db;
    this.channels = channels;
    this.connectors = connectors;
    this.lines = lines;
    this.holds = holds;
    this.waitingList = waitingList;
    this.transactions = transactions;
    this.settings = settings;
    this.clock = clock;
    this.health = health;
  }

  @Bean
  RecurringTask<Void> feedChannels() {
    return Tasks.recurring("feed-channels", Schedules.fixedDelay(settings.workPause()))
        .execute((instance, context) -> startDue());
  }

  @PreDestroy
  void stop() {
    pushing.shutdownNow();
  }

  /** Looks at once at what a channel is to be told, and tells it if the guard lets it pass. */
  public void pushTo(String code) {
    feed(channels.byCode(code).orElseThrow());
  }

  private void startDue() {
    Instant now = clock.instant();
    var due =
        CHANNEL
            .FEEDS
            .isTrue()
            .and(CHANNEL.PAUSED.isFalse())
            .and(CHANNEL.NEXT_FEED_AT.isNull().or(CHANNEL.NEXT_FEED_AT.le(now)));
    for (Long id : db.select(CHANNEL.ID).from(CHANNEL).where(due).fetch(CHANNEL.ID)) {
      int claimed =
          db.update(CHANNEL)
              .set(CHANNEL.NEXT_FEED_AT, now.plus(settings.pullLease()))
              .where(CHANNEL.ID.eq(id))
              .and(due)
              .execute();
      if (claimed == 1) {
        pushing.execute(() -> feed(channels.byId(id)));
      }
    }
  }

  private void feed(Channel channel) {
    String work = "Stock to " + channel.name();
    String error = null;
    Duration pause = settings.feedInterval();
    int told = 0;
    try {
      told = push(channel);
      health.succeeded(work);
    } catch (ChannelError e) {
      health.failed(work, e);
      error = Texts.of(e);
      Duration asked = e.retryAfter();
      pause = asked == null ? pause : asked;
      LOG.info("stock to {}: {}", channel.name(), error);
    } catch (Throwable e) {
      health.failed(work, e);
      error = "what is in stock could not be worked out; see the application's log";
      LOG.warn("stock to {}", channel.name(), e);
    }
    finish(channel, told, error, pause);
  }

  /** Nothing goes while a person has yet to decide on a push that was held. */
  private int push(Channel channel) {
    Optional<QuantitySink> sink = connectors.able(channel, QuantitySink.class);
    if (sink.isEmpty() || holds.open(channel.id()).isPresent()) {
      return 0;
    }
    List<FeedLine> all = lines.of(channel);
    List<FeedLine> changed = all.stream().filter(FeedLine::isChanged).toList();
    if (changed.isEmpty()) {
      return 0;
    }
    List<String> reasons =
        guard(channel.id()).reasonsToHold(all.stream().map(FeedLine::guarded).toList());
    if (!reasons.isEmpty()) {
      holds.hold(channel, reasons, changed);
      return 0;
    }
    for (int i = 0; i < changed.size(); i += sink.get().largestBatch()) {
      tell(
          channel,
          sink.get(),
          changed.subList(i, Math.min(changed.size(), i + sink.get().largestBatch())));
    }
    return changed.size();
  }

  /** Pushes what a person let through. */
  void tellHeld(Channel channel, List<FeedHolds.HeldLine> held) {
    QuantitySink sink =
        connectors
            .able(channel, QuantitySink.class)
            .orElseThrow(() -> ChannelError.refused(channel.name() + " takes no quantities"));
    for (int i = 0; i < held.size(); i += sink.largestBatch()) {
      List<FeedHolds.HeldLine> batch =
          held.subList(i, Math.min(held.size(), i + sink.largestBatch()));
      sink.pushQuantities(
          channel, batch.stream().map(l -> new ListedQuantity(l.externalId(), l.after())).toList());
      transactions.run(() -> batch.forEach(l -> remember(l.listingId(), l.after())));
    }
  }

  private void tell(Channel channel, QuantitySink sink, List<FeedLine> batch) {
    sink.pushQuantities(
        channel,
        batch.stream().map(l -> new ListedQuantity(l.externalId(), l.quantity())).toList());
    transactions.run(() -> batch.forEach(l -> remember(l.listingId(), l.quantity())));
    batch.stream()
        .filter(FeedLine::isBack)
        .forEach(l -> waitingList.tell(l.listingId(), l.title()));
  }

  private void remember(long listing, long quantity) {
    db.update(LISTING)
        .set(LISTING.PUSHED, quantity)
        .set(LISTING.PUSHED_AT, clock.instant())
        .setNull(LISTING.REFUSED_QUANTITY)
        .where(LISTING.ID.eq(listing))
        .execute();
  }

  private FeedGuard guard(long channelId) {
    return db.select(CHANNEL.GUARD_ZEROED, CHANNEL.GUARD_DROP)
        .from(CHANNEL)
        .where(CHANNEL.ID.eq(channelId))
        .fetchSingle(r -> new FeedGuard(r.value1(), r.value2()));
  }

  private void finish(Channel channel, int told, @Nullable String error, Duration pause) {
    Instant now = clock.instant();
    var update =
        db.update(CHANNEL)
            .set(CHANNEL.LAST_FEED_AT, now)
            .set(CHANNEL.LAST_FEED_ERROR, error)
            .set(CHANNEL.NEXT_FEED_AT, now.plus(pause));
    if (error == null) {
      update = update.set(CHANNEL.LAST_FED_AT, now);
    }
    if (told > 0) {
      update = update.set(CHANNEL.LAST_FED_LINES, told);
    }
    update.where(CHANNEL.ID.eq(channel.id())).execute();
  }
}
