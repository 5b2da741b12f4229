package dev.ordinator.writeback;

import dev.ordinator.channels.Channel;
import dev.ordinator.channels.ChannelKind;
import dev.ordinator.channels.Channels;
import dev.ordinator.channels.Connector.ChannelError;
import dev.ordinator.channels.Connectors;
import dev.ordinator.dispatch.Outbox.Undelivered;
import dev.ordinator.orders.OrderHead;
import dev.ordinator.platform.Texts;
import java.util.Optional;
import java.util.function.Function;
import org.springframework.stereotype.Component;

/** Speaks to an order's channel, if it may be spoken to: the one place through which all goes. */
@Component
public class Telling {
  private final Channels channels;
  private final Connectors connectors;

  Telling(Channels channels, Connectors connectors) {
    this.channels = channels;
    this.connectors = connectors;
  }

  public Channel channelOf(OrderHead order) {
    return channels.byId(order.channelId());
  }

  /**
   * @param say says it, and gives what was said in words
   * @return a sentence for the order's timeline
   * @throws Undelivered if the channel only listens, or did not take it
   */
  public <T> String tell(Channel channel, Class<T> ability, Function<T, String> say) {
    if (!channel.writesBack()) {
      throw Undelivered.forGood(channel.name() + " was set to listen-only meanwhile");
    }
    Optional<T> sink = connectors.able(channel, ability);
    if (sink.isEmpty()) {
      return channel.name()
          + (channel.kind() == ChannelKind.MACHINE
              ? " asks for it, or hears it by webhook"
              : " has no way to be told");
    }
    try {
      return channel.name() + " told: " + say.apply(sink.get());
    } catch (ChannelError e) {
      throw e.isForGood()
          ? Undelivered.forGood(Texts.of(e))
          : Undelivered.forNow(Texts.of(e), e.retryAfter());
    }
  }
}
