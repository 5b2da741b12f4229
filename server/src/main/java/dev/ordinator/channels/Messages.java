package dev.ordinator.channels;

import dev.ordinator.channels.MessagePart.Unreadable;
import tools.jackson.core.JacksonException;
import tools.jackson.core.StreamReadConstraints;
import tools.jackson.core.StreamReadFeature;
import tools.jackson.core.json.JsonFactory;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Reads messages that nobody has vouched for. */
final class Messages {
  private static final int DEEPEST = 20;
  private static final JsonMapper JSON =
      JsonMapper.builder(
              JsonFactory.builder()
                  .enable(StreamReadFeature.STRICT_DUPLICATE_DETECTION)
                  .streamReadConstraints(
                      StreamReadConstraints.builder().maxNestingDepth(DEEPEST).build())
                  .build())
          .build();

  private Messages() {}

  /**
   * A message of somebody else's form.
   *
   * @throws Unreadable if it is not a JSON object
   */
  static MessagePart object(String message) {
    return object(MessagePart.lenient(parse(message)));
  }

  /**
   * A message of our own form: what is not in it is refused by {@link MessagePart#refuseUnknown}.
   *
   * @throws Unreadable if it is not a JSON object
   */
  static MessagePart strictObject(String message) {
    return object(MessagePart.strict(parse(message)));
  }

  private static MessagePart object(MessagePart part) {
    if (!part.isObject()) {
      throw new Unreadable("", "the message is not an object");
    }
    return part;
  }

  /** One text of a message, whatever else may be wrong with it; empty if it can't be read. */
  static String textOf(String message, String name) {
    try {
      return MessagePart.lenient(parse(message)).optional(name, 100);
    } catch (Unreadable e) {
      return "";
    }
  }

  private static JsonNode parse(String message) {
    try {
      return JSON.readTree(message);
    } catch (JacksonException e) {
      var where = e.getLocation();
      throw new Unreadable(
          where == null ? "" : "line " + where.getLineNr() + ", column " + where.getColumnNr(),
          "this is not JSON: " + e.getOriginalMessage());
    }
  }
}
