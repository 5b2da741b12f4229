package dev.ordinator.feed;

import static dev.ordinator.schema.Tables.LISTING;
import static dev.ordinator.schema.Tables.WAITING_LIST;

import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import java.time.Clock;
import org.jooq.DSLContext;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.mail.MailException;
import org.springframework.mail.SimpleMailMessage;
import org.springframework.mail.javamail.JavaMailSender;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Who wants to hear when a listing can be had again. Each is told once. */
@Service
class WaitingList {
  private static final Logger LOG = LoggerFactory.getLogger(WaitingList.class);

  private final DSLContext db;
  private final JavaMailSender mail;
  private final OrdinatorSettings settings;
  private final Clock clock;

  WaitingList(DSLContext db, JavaMailSender mail, OrdinatorSettings settings, Clock clock) {
    this.db = db;
    this.mail = mail;
    this.settings = settings;
    this.clock = clock;
  }

  /** Somebody wants to hear; twice is once. */
  @Transactional
  public void join(long listingId, String email) {
    if (!email.matches("[^@\\s]{1,100}@[^@\\s]{1,90}")) {
      throw Problem.invalid("email", "‘" + Texts.cut(email, 60) + "’ is no mail address");
    }
    if (!db.fetchExists(LISTING, LISTING.ID.eq(listingId))) {
      throw Problem.notFound("listing " + listingId);
    }
    db.insertInto(WAITING_LIST)
        .set(WAITING_LIST.LISTING_ID, listingId)
        .set(WAITING_LIST.EMAIL, email)
        .set(WAITING_LIST.SINCE, clock.instant())
        .onDuplicateKeyIgnore()
        .execute();
  }

  /**
   * Tells all that wait for a listing. Each is marked as told before the mail goes: a crash in
   * between may leave somebody untold, but nobody is told twice.
   */
  void tell(long listingId, String title) {
    db.select(WAITING_LIST.ID, WAITING_LIST.EMAIL)
        .from(WAITING_LIST)
        .where(WAITING_LIST.LISTING_ID.eq(listingId))
        .and(WAITING_LIST.TOLD_AT.isNull())
        .fetch()
        .forEach(r -> {
          int mine =
              db.update(WAITING_LIST)
                  .set(WAITING_LIST.TOLD_AT, clock.instant())
                  .where(WAITING_LIST.ID.eq(r.value1()))
                  .and(WAITING_LIST.TOLD_AT.isNull())
                  .execute();
          if (mine == 1 && !send(r.value2(), title)) {
            db.update(WAITING_LIST)
                .setNull(WAITING_LIST.TOLD_AT)
                .where(WAITING_LIST.ID.eq(r.value1()))
                .execute();
          }
        });
  }

  private boolean send(String email, String title) {
    SimpleMailMessage message = new SimpleMailMessage();
    message.setFrom(settings.mailFrom());
    message.setTo(email);
    message.setSubject(title + " can be had again");
    message.setText(
        "You asked us to tell you: "
            + title
            + " is in stock again.\n\nThis is the only mail about it.\n");
    try {
      mail.send(message);
      return true;
    } catch (MailException e) {
      LOG.warn("waiting list: {}", Texts.of(e));
      return false;
    }
  }
}
