package dev.ordinator.machines;

import static dev.ordinator.schema.Tables.HOOK;
import static dev.ordinator.schema.Tables.HOOK_DELIVERY;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static org.jooq.impl.DSL.count;
import static org.jooq.impl.DSL.field;
import static org.jooq.impl.DSL.max;
import static org.jooq.impl.DSL.noCondition;
import static org.jooq.impl.DSL.select;

import dev.ordinator.orders.SnagCause;
import dev.ordinator.orders.Snags;
import dev.ordinator.platform.OutgoingAddresses;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.SecretBox;
import dev.ordinator.platform.Slice;
import java.security.SecureRandom;
import java.time.Clock;
import java.time.Instant;
import java.util.Base64;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The webhooks that there are, and the log of what they were told. */
@Service
class HookBook {
  private static final int SECRET_BYTES = 32;
  private static final int PAGE = 50;

  private final DSLContext db;
  private final SecretBox secrets;
  private final OutgoingAddresses addresses;
  private final Snags snags;
  private final Clock clock;
  private final SecureRandom random = new SecureRandom();

  HookBook(
      DSLContext db, SecretBox secrets, OutgoingAddresses addresses, Snags snags, Clock clock) {
    this.db = db;
    this.addresses = addresses;
    this.secrets = secrets;
    this.snags = snags;
    this.clock = clock;
  }

  /**
   * @param stopped why it was stopped by itself; null: it was not
   * @param waiting messages that it has yet to be told, {@code givenUp} those given up
   */
  record HookCard(
      long id,
      String address,
      Set<Hooks.Kind> kinds,
      boolean active,
      @Nullable String stopped,
      @Nullable Instant lastToldAt,
      int waiting,
      int givenUp) {}

  /**
   * @param status HTTP, of the last attempt; null: no answer came yet
   */
  record DeliveryRow(
      long id,
      String messageId,
      Hooks.Kind kind,
      String address,
      @Nullable String orderNumber,
      @Nullable Long orderId,
      String state,
      int attempts,
      @Nullable Integer status,
      String answer,
      String body,
      Instant createdAt,
      Instant dueAt,
      @Nullable Instant doneAt) {}

  /**
   * @return the secret that signs its messages, which can't be had again
   */
  String add(long channelId, String address, Set<Hooks.Kind> kinds, String actor) {
    if (kinds.isEmpty()) {
      throw Problem.invalid("kinds", "say what it is to be told");
    }
    byte[] bytes = new byte[SECRET_BYTES];
    random.nextBytes(bytes);
    String secret = HookPost.SECRET_PREFIX + Base64.getEncoder().encodeToString(bytes);
    db.insertInto(HOOK)
        .set(HOOK.CHANNEL_ID, channelId)
        .set(HOOK.ADDRESS, addresses.typed(address, "address").toString())
        .set(HOOK.SECRET, secrets.lock(secret))
        .set(HOOK.KINDS, kinds.stream().map(Enum::name).sorted().collect(Collectors.joining(" ")))
        .set(HOOK.CREATED_BY, actor)
        .set(HOOK.CREATED_AT, clock.instant())
        .execute();
    return secret;
  }

  @Transactional
  public void setActive(long channelId, long hookId, boolean active) {
    int changed =
        db.update(HOOK)
            .set(HOOK.ACTIVE, active)
            .setNull(HOOK.STOPPED)
            .where(HOOK.ID.eq(hookId))
            .and(HOOK.CHANNEL_ID.eq(channelId))
            .execute();
    if (changed == 0) {
      throw Problem.notFound("webhook " + hookId);
    }
    if (!active) {
      snags.close(SnagCause.HOOK_FAILS, hookId, "desk");
    }
  }

  List<HookCard> of(long channelId) {
    var mine = HOOK_DELIVERY.HOOK_ID.eq(HOOK.ID);
    var told = field(select(max(HOOK_DELIVERY.DONE_AT)).from(HOOK_DELIVERY).where(mine));
    var waiting =
        field(
            select(count()).from(HOOK_DELIVERY).where(mine).and(HOOK_DELIVERY.STATE.eq("PENDING")));
    var givenUp =
        field(select(count()).from(HOOK_DELIVERY).where(mine).and(HOOK_DELIVERY.STATE.eq("DEAD")));
    return db.select(
            HOOK.ID, HOOK.ADDRESS, HOOK.KINDS, HOOK.ACTIVE, HOOK.STOPPED, told, waiting, givenUp)
        .from(HOOK)
        .where(HOOK.CHANNEL_ID.eq(channelId))
        .orderBy(HOOK.ID)
        .fetch(r ->
            new HookCard(
                r.value1(),
                r.value2(),
                Hooks.Kind.of(r.value3()),
                r.value4(),
                r.value5(),
                r.value6(),
                r.value7(),
                r.value8()));
  }

  Slice<DeliveryRow> deliveries(long channelId, boolean failedOnly, @Nullable Long before) {
    return Slice.of(
        db.select(
                HOOK_DELIVERY.ID,
                HOOK_DELIVERY.MESSAGE_ID,
                HOOK_DELIVERY.KIND,
                HOOK.ADDRESS,
                SALES_ORDER.NUMBER,
                HOOK_DELIVERY.ORDER_ID,
                HOOK_DELIVERY.STATE,
                HOOK_DELIVERY.ATTEMPTS,
                HOOK_DELIVERY.STATUS,
                HOOK_DELIVERY.ANSWER,
                HOOK_DELIVERY.BODY,
                HOOK_DELIVERY.CREATED_AT,
                HOOK_DELIVERY.DUE_AT,
                HOOK_DELIVERY.DONE_AT)
            .from(HOOK_DELIVERY)
            .join(HOOK)
            .on(HOOK.ID.eq(HOOK_DELIVERY.HOOK_ID))
            .leftJoin(SALES_ORDER)
            .on(SALES_ORDER.ID.eq(HOOK_DELIVERY.ORDER_ID))
            .where(HOOK.CHANNEL_ID.eq(channelId))
            .and(HOOK_DELIVERY.ID.lt(before == null ? Long.MAX_VALUE : before))
            .and(
                failedOnly
                    ? HOOK_DELIVERY.STATE.ne("DONE").and(HOOK_DELIVERY.ATTEMPTS.gt(0))
                    : noCondition())
            .orderBy(HOOK_DELIVERY.ID.desc())
            .limit(PAGE + 1)
            .fetch(r ->
                new DeliveryRow(
                    r.value1(),
                    r.value2(),
                    Hooks.Kind.valueOf(r.value3()),
                    r.value4(),
                    r.value5(),
                    r.value6(),
                    r.value7(),
                    r.value8(),
                    r.value9(),
                    r.value10(),
                    r.value11(),
                    r.value12(),
                    r.value13(),
                    r.value14())),
        PAGE,
        row -> Long.toString(row.id()));
  }

  /** Also what was taken: whoever lost it may want it again, and knows it by its id. */
  void again(long channelId, long deliveryId) {
    int revived =
        db.update(HOOK_DELIVERY.join(HOOK).on(HOOK.ID.eq(HOOK_DELIVERY.HOOK_ID)))
            .set(HOOK_DELIVERY.STATE, "PENDING")
            .set(HOOK_DELIVERY.ATTEMPTS, 0)
            .set(HOOK_DELIVERY.DUE_AT, clock.instant())
            .where(HOOK_DELIVERY.ID.eq(deliveryId))
            .and(HOOK.CHANNEL_ID.eq(channelId))
            .and(HOOK_DELIVERY.STATE.ne("PENDING"))
            .execute();
    if (revived == 0) {
      throw Problem.conflict("that message is on its way already");
    }
  }
}
