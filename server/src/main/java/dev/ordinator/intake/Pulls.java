package dev.ordinator.intake;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.Schedules;
import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Channels;
import dev.ordinator.channels.Connector.ChannelError;
import dev.ordinator.channels.Connector.OrderPage;
import dev.ordinator.channels.Connector.OrderSource;
import dev.ordinator.channels.Connectors;
import dev.ordinator.listings.ListingFetch;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Texts;
import dev.ordinator.platform.Transactions;
import dev.ordinator.platform.WorkHealth;
import jakarta.annotation.PostConstruct;
import jakarta.annotation.PreDestroy;
import java.time.Duration;
import java.util.Optional;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/**
 * Fetches orders from channels, each at its interval and each on a thread of its own, so that one
 * that hangs keeps no other waiting. A pull is claimed for a while, and the claim renewed as long
 * as it goes on: of several instances one does it, and if that one dies another soon begins anew
 * where the cursor stands.
 */
@Configuration
class Pulls {
  private static final Logger LOG = LoggerFactory.getLogger(Pulls.class);

  private final Channels channels;
  private final Connectors connectors;
  private final BulkIntake intake;
  private final ListingFetch listings;
  private final Transactions transactions;
  private final Events events;
  private final OrdinatorSettings settings;
  private final WorkHealth health;
  private final ExecutorService pulling = Executors.newVirtualThreadPerTaskExecutor();
  private final Set<Long> underWay = ConcurrentHashMap.newKeySet();
  private final ScheduledExecutorService renewing =
      Executors.newSingleThreadScheduledExecutor(Thread.ofVirtual().factory());

  Pulls(
      Channels channels,
      Connectors connectors,
      BulkIntake intake,
      ListingFetch listings,
      Transactions transactions,
      Events events,
      OrdinatorSettings settings,
      WorkHealth health) {
    this.channels = channels;
    this.connectors = connectors;
    this.intake = intake;
    this.listings = listings;
    this.transactions = transactions;
    this.events = events;
    this.settings = settings;
    this.health = health;
  }

  @Bean
  RecurringTask<Void> pullChannels() {
    return Tasks.recurring("pull-channels", Schedules.fixedDelay(settings.workPause()))
        .execute((instance, context) -> startDue());
  }

  @PostConstruct
  void start() {
    long pause = settings.pullLease().dividedBy(3).toMillis();
    renewing.scheduleWithFixedDelay(this::renew, pause, pause, TimeUnit.MILLISECONDS);
  }

  @PreDestroy
  void stop() {
    renewing.shutdownNow();
    pulling.shutdownNow();
  }

  private void renew() {
    try {
      if (!underWay.isEmpty()) {
        channels.keepClaims(underWay, settings.pullLease());
      }
    } catch (RuntimeException e) {
      // a claim that runs out has its pull begun twice, which takes nothing in twice
      LOG.warn("claims of pulls were not renewed", e);
    }
  }

  private void startDue() {
    Optional<Channel> due = channels.claimDue(settings.pullLease());
    while (due.isPresent()) {
      Channel channel = due.get();
      underWay.add(channel.id());
      pulling.execute(() -> pull(channel));
      due = channels.claimDue(settings.pullLease());
    }
  }

  private void pull(Channel channel) {
    String work = "Orders from " + channel.name();
    int taken = 0;
    String error = null;
    Duration pause = null;
    try {
      taken = pullAll(channel);
      health.succeeded(work);
    } catch (ChannelError e) {
      health.failed(work, e);
      error = Texts.of(e);
      pause = e.retryAfter();
      LOG.info("pull from {}: {}", channel.name(), error);
    } catch (Throwable e) {
      health.failed(work, e);
      // not the channel's doing; the pull is begun anew when its turn comes
      error = "we could not take in what it sent; see the application's log";
      LOG.warn("pull from {}", channel.name(), e);
    }
    underWay.remove(channel.id());
    finish(channel, taken, error, pause);
  }

  /**
   * Page by page; the cursor moves when a page is in, so that a crash reads at most one page again.
   */
  private int pullAll(Channel channel) {
    Optional<OrderSource> source = connectors.able(channel, OrderSource.class);
    if (source.isEmpty()) {
      return 0;
    }
    if (channel.cursor().isEmpty()) {
      listings.fetch(channel);
    }
    int taken = 0;
    String cursor = channel.cursor();
    OrderPage page;
    do {
      if (channels.isPaused(channel.id())) {
        return taken;
      }
      page = source.get().orders(channel, cursor);
      taken += intake.take(channel, page.messages(), Intake.Source.PULL);
      if (!page.next().equals(cursor)) {
        cursor = page.next();
        channels.keepCursor(channel.id(), cursor, settings.pullLease());
      } else if (page.more()) {
        throw ChannelError.passing(
            channel.name() + " says that there is more, and not where: its page is the same again");
      }
    } while (page.more());
    if (listings.isDue(channel)) {
      listings.fetch(channel);
    }
    return taken;
  }

  private void finish(
      Channel channel, int taken, @Nullable String error, @Nullable Duration pause) {
    transactions.run(() -> {
      channels.pulled(channel.id(), taken, error, pause);
      if (taken > 0 || error != null) {
        events.record(
            EventKind.CHANNEL_CHANGED,
            null,
            null,
            channel.name(),
            error == null ? taken + " orders taken in" : "Pull failed",
            error == null ? "" : error);
      }
    });
  }
}
