package dev.ordinator.channels;

import dev.ordinator.channels.Connector.ChannelError;
import dev.ordinator.core.money.Money;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/** Takes lists out of channels' answers. */
final class JsonLists {
  private JsonLists() {}

  /**
   * @throws ChannelError if the answer has no such list
   */
  static List<JsonNode> of(Channel channel, JsonNode answer, String name) {
    JsonNode list = answer.path(name);
    if (!list.isArray()) {
      throw ChannelError.passing(channel.name() + " answered without a list of " + name);
    }
    return new ArrayList<>(list.valueStream().toList());
  }

  /** Each element as the text it came as, to be read on its own. */
  static List<String> texts(Channel channel, JsonNode answer, String name) {
    return of(channel, answer, name).stream().map(JsonNode::toString).toList();
  }

  /** Texts of a list that may be missing. */
  static List<String> texts(JsonNode list) {
    return list.valueStream().map(t -> t.asString("")).filter(t -> !t.isBlank()).toList();
  }

  /** A listing's price; null if it is none: a listing without a price is a listing all the same. */
  static @Nullable Money price(String amount, String currency) {
    try {
      return amount.isEmpty() ? null : Money.parse(amount, currency);
    } catch (IllegalArgumentException e) {
      return null;
    }
  }
}
