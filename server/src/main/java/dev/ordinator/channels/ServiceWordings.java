package dev.ordinator.channels;

import static dev.ordinator.schema.Tables.SERVICE_WORD;

import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.core.orders.ApprovalPolicy;
import dev.ordinator.core.orders.ServiceWords;
import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.platform.Problem;
import java.util.Locale;
import org.jooq.DSLContext;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** How a channel decides about its orders: its service wordings, and when they are approved. */
@Service
public class ServiceWordings {
  private final DSLContext db;
  private final Channels channels;
  private final Snags snags;

  ServiceWordings(DSLContext db, Channels channels, Snags snags) {
    this.db = db;
    this.channels = channels;
    this.snags = snags;
  }

  public ServiceWords of(long channelId) {
    return channels.serviceWords(channelId);
  }

  public ApprovalPolicy approval(long channelId) {
    return channels.byId(channelId).approval();
  }

  /** Tells snags about one wording of a channel apart from those about others. */
  public static String subject(long channelId, String wording) {
    return channelId + "/" + wording.strip().toLowerCase(Locale.ROOT);
  }

  /** Says what a wording means, from now on, and frees the orders that waited for it. */
  @Transactional
  void learn(
      long channelId, ServiceWords.How how, String wording, ServiceLevel level, String actor) {
    String text = wording.strip();
    if (text.isEmpty() || text.length() > 120) {
      throw Problem.invalid("wording", "a wording has 1 to 120 characters");
    }
    channels.byId(channelId);
    db.insertInto(SERVICE_WORD)
        .set(SERVICE_WORD.CHANNEL_ID, channelId)
        .set(SERVICE_WORD.HOW, how.name())
        .set(SERVICE_WORD.WORDING, text)
        .set(SERVICE_WORD.LEVEL, level.name())
        .onDuplicateKeyUpdate()
        .set(SERVICE_WORD.LEVEL, level.name())
        .execute();
    snags.close(SnagCause.UNKNOWN_SERVICE, subject(channelId, text), actor);
  }

  /** A wording is unknown again; orders that were taken in by it stay as they are. */
  @Transactional
  void forget(long channelId, ServiceWords.How how, String wording) {
    int known =
        db.deleteFrom(SERVICE_WORD)
            .where(SERVICE_WORD.CHANNEL_ID.eq(channelId))
            .and(SERVICE_WORD.HOW.eq(how.name()))
            .and(SERVICE_WORD.WORDING.eq(wording.strip()))
            .execute();
    if (known == 0) {
      throw Problem.notFound("the wording ‘" + wording + "’");
    }
  }
}
