package dev.ordinator.channels;

import dev.ordinator.channels.MessagePart.Unreadable;
import tools.jackson.core.JacksonException;
import tools.jackson.core.StreamReadConstraints;
import tools.jackson.core.json.JsonFactory;
import tools.jackson.databind.json.JsonMapper;

/** Reads messages that nobody has vouched for. */
final class Messages {
  private static final int DEEPEST = 20;
  private static final JsonMapper JSON =
      JsonMapper.builder(
              JsonFactory.builder()
                  .streamReadConstraints(
                      StreamReadConstraints.builder().maxNestingDepth(DEEPEST).build())
                  .build())
          .build();

  private Messages() {}

  /**
   * @throws Unreadable if it is not a JSON object
   */
  static MessagePart object(String message) {
    MessagePart part = parse(message);
    if (!part.node().isObject()) {
      throw new Unreadable("", "the message is not an object");
    }
    return part;
  }

  /** One text of a message, whatever else may be wrong with it; empty if it can't be read. */
  static String textOf(String message, String name) {
    try {
      return parse(message).optional(name, 100);
    } catch (Unreadable e) {
      return "";
    }
  }

  private static MessagePart parse(String message) {
    try {
      return new MessagePart(JSON.readTree(message), "");
    } catch (JacksonException e) {
      var where = e.getLocation();
      throw new Unreadable(
          where == null ? "" : "line " + where.getLineNr() + ", column " + where.getColumnNr(),
          "this is not JSON: " + e.getOriginalMessage());
    }
  }
}
