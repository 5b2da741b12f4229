package dev.ordinator.channels;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.Schedules;
import dev.ordinator.channels.Connector.ChannelError;
import dev.ordinator.channels.Connector.OrderPage;
import dev.ordinator.channels.Intake.Taken;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Texts;
import dev.ordinator.platform.Transactions;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;

/** Fetches orders from channels, each at its interval. */
@Configuration
class Pulls {
  private static final Logger LOG = LoggerFactory.getLogger(Pulls.class);

  private final ChannelStore channels;
  private final Connector connector;
  private final Intake intake;
  private final Listings listings;
  private final Transactions transactions;
  private final Events events;
  private final OrdinatorSettings settings;

  Pulls(
      ChannelStore channels,
      Connector connector,
      Intake intake,
      Listings listings,
      Transactions transactions,
      Events events,
      OrdinatorSettings settings) {
    this.channels = channels;
    this.connector = connector;
    this.intake = intake;
    this.listings = listings;
    this.transactions = transactions;
    this.events = events;
    this.settings = settings;
  }

  @Bean
  RecurringTask<Void> pullChannels() {
    return Tasks.recurring("pull-channels", Schedules.fixedDelay(settings.workPause()))
        .execute((instance, context) -> channels.due().forEach(this::pull));
  }

  private void pull(Channel channel) {
    int taken = 0;
    String error = null;
    try {
      taken = pullAll(channel);
    } catch (ChannelError e) {
      error = Texts.of(e);
      LOG.info("pull from {}: {}", channel.name(), error);
    }
    finish(channel, taken, error);
  }

  /**
   * Page by page; the cursor moves when a page is in, so that a crash reads at most one page again.
   */
  private int pullAll(Channel channel) {
    if (channel.cursor().isEmpty()) {
      connector
          .listings(channel)
          .forEach(data -> transactions.run(() -> listings.know(channel, data)));
    }
    int taken = 0;
    String cursor = channel.cursor();
    OrderPage page;
    do {
      page = connector.orders(channel, cursor);
      for (String message : page.messages()) {
        if (intake.take(channel, message, Intake.Source.PULL) != Taken.NOTHING_NEW) {
          taken++;
        }
      }
      if (!page.next().equals(cursor)) {
        cursor = page.next();
        channels.keepCursor(channel.id(), cursor);
      }
    } while (page.more());
    return taken;
  }

  private void finish(Channel channel, int taken, @Nullable String error) {
    transactions.run(() -> {
      channels.pulled(channel.id(), taken, error);
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
