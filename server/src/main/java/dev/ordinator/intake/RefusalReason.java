package dev.ordinator.intake;

import dev.ordinator.channels.MessagePart.Unreadable;
import dev.ordinator.platform.DatabaseTrouble;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import java.util.UUID;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataIntegrityViolationException;

/** What is the matter with a message that could be read, and then not be worked with. */
final class RefusalReason {
  private static final Logger LOG = LoggerFactory.getLogger(RefusalReason.class);

  private RefusalReason() {}

  /**
   * Why a message has to wait for a person. Whatever it does, it must not keep the ones behind it
   * from being taken in.
   *
   * @throws RuntimeException as it is, if it is the database's trouble and none of the message's
   */
  static Unreadable of(RuntimeException e) {
    if (DatabaseTrouble.isPassing(e)) {
      throw e;
    }
    return switch (e) {
      case Unreadable unreadable -> unreadable;
      case Problem problem -> new Unreadable("", Texts.of(problem));
      case ArithmeticException large ->
          new Unreadable("", "its amounts or quantities are too large to be added up");
      case DataIntegrityViolationException unfit ->
          new Unreadable("", "something in it is longer or larger than can be kept");
      default -> unforeseen(e);
    };
  }

  private static Unreadable unforeseen(RuntimeException e) {
    String id = UUID.randomUUID().toString().substring(0, 8);
    LOG.error("{}: a message could not be worked with", id, e);
    return new Unreadable("", "we could not work with it; the log says why, under " + id);
  }
}
