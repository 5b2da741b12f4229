package dev.ordinator.customers;

import static dev.ordinator.schema.Tables.CUSTOMER;

import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import java.time.Clock;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jooq.DSLContext;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** What is said of customers; letters of their mail addresses are the same, small or capital. */
@Service
public class Customers {
  private static final int LONGEST_GROUP = 40;
  private static final int LONGEST_MAIL = 190;

  private final DSLContext db;
  private final Events events;
  private final Clock clock;

  Customers(DSLContext db, Events events, Clock clock) {
    this.db = db;
    this.events = events;
    this.clock = clock;
  }

  /**
   * @param group empty: in none
   * @param asOrdered nothing else is sent instead of what was ordered
   */
  record Customer(String email, String group, boolean asOrdered) {}

  Customer of(String email) {
    return db.selectFrom(CUSTOMER)
        .where(CUSTOMER.EMAIL.eq(email.toLowerCase(Locale.ROOT)))
        .fetchOptional(c -> new Customer(c.getEmail(), c.getGroupName(), c.getAsOrdered()))
        .orElse(new Customer(email.toLowerCase(Locale.ROOT), "", false));
  }

  /** Names of groups, by the alphabet. */
  List<String> groups() {
    return db.selectDistinct(CUSTOMER.GROUP_NAME)
        .from(CUSTOMER)
        .where(CUSTOMER.GROUP_NAME.ne(""))
        .orderBy(CUSTOMER.GROUP_NAME)
        .fetch(CUSTOMER.GROUP_NAME);
  }

  /** The groups of those who are in one, by their mail addresses in lower case. */
  public Map<String, String> groupsOf(Collection<String> emails) {
    return db.select(CUSTOMER.EMAIL, CUSTOMER.GROUP_NAME)
        .from(CUSTOMER)
        .where(
            CUSTOMER.EMAIL.in(
                emails.stream().map(e -> e.toLowerCase(Locale.ROOT)).distinct().toList()))
        .and(CUSTOMER.GROUP_NAME.ne(""))
        .fetchMap(CUSTOMER.EMAIL, CUSTOMER.GROUP_NAME);
  }

  /** Whether a customer takes nothing but what was ordered. */
  public boolean wantsAsOrdered(String email) {
    return of(email).asOrdered();
  }

  /**
   * @throws Problem if it is no mail address, or the group's name is too long
   */
  @Transactional
  void set(Customer wish, String actor) {
    String email = wish.email().strip().toLowerCase(Locale.ROOT);
    if (!email.matches("[^@\\s]+@[^@\\s]+") || email.length() > LONGEST_MAIL) {
      throw Problem.invalid("email", "a customer is told by the mail address");
    }
    String group = wish.group().strip();
    if (group.length() > LONGEST_GROUP) {
      throw Problem.invalid("group", "at most %d characters".formatted(LONGEST_GROUP));
    }
    db.insertInto(CUSTOMER)
        .set(CUSTOMER.EMAIL, email)
        .set(CUSTOMER.GROUP_NAME, group)
        .set(CUSTOMER.AS_ORDERED, wish.asOrdered())
        .set(CUSTOMER.CHANGED_BY, actor)
        .set(CUSTOMER.CHANGED_AT, clock.instant())
        .onDuplicateKeyUpdate()
        .set(CUSTOMER.GROUP_NAME, group)
        .set(CUSTOMER.AS_ORDERED, wish.asOrdered())
        .set(CUSTOMER.CHANGED_BY, actor)
        .set(CUSTOMER.CHANGED_AT, clock.instant())
        .execute();
    events.record(
        EventKind.CUSTOMER_CHANGED,
        null,
        null,
        actor,
        "%s: %s%s"
            .formatted(
                email,
                group.isEmpty() ? "in no group" : "in the group " + group,
                wish.asOrdered() ? ", gets only what was ordered" : ""),
        "");
  }
}
