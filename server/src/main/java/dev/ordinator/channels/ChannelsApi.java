package dev.ordinator.channels;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.SERVICE_WORD;

import dev.ordinator.access.Person;
import dev.ordinator.channels.ChannelCards.ChannelCard;
import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.core.orders.ServiceWords;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Slice;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.time.Clock;
import java.util.List;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PatchMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/channels")
@Tag(name = "Channels")
class ChannelsApi {
  private final DSLContext db;
  private final ChannelCards cards;
  private final ExchangeLog exchanges;
  private final ServiceWordings wordings;
  private final Events events;
  private final Clock clock;

  ChannelsApi(
      DSLContext db,
      ChannelCards cards,
      ExchangeLog exchanges,
      ServiceWordings wordings,
      Events events,
      Clock clock) {
    this.db = db;
    this.cards = cards;
    this.exchanges = exchanges;
    this.wordings = wordings;
    this.events = events;
    this.clock = clock;
  }

  /** Only what is given changes. */
  record ChannelPatch(
      @Nullable Boolean writesBack,
      @Nullable Boolean feeds,
      @Nullable Boolean mailsSent,
      @Nullable Boolean mailsWaiting,
      @Nullable Boolean paused,
      @Nullable Integer intervalSeconds,
      @Nullable String name,
      int version) {}

  record Wording(ServiceWords.How how, String wording, ServiceLevel level) {}

  @Operation(summary = "All connections and how they are")
  @GetMapping
  List<ChannelCard> channels() {
    return cards.all();
  }

  @Operation(summary = "One connection")
  @GetMapping("/{id}")
  ChannelCard channel(@PathVariable long id) {
    return cards.byId(id);
  }

  @Operation(summary = "Name it, pause or go on, listen only or speak, and say how often to pull")
  @PatchMapping("/{id}")
  @Transactional
  public ChannelCard change(@PathVariable long id, @RequestBody ChannelPatch patch) {
    ChannelCard before = cards.byId(id);
    Integer seconds = patch.intervalSeconds();
    if (seconds != null && (seconds < 1 || seconds > 86_400)) {
      throw Problem.invalid("intervalSeconds", "an interval is 1 second to 1 day");
    }
    String name = patch.name() == null ? before.name() : patch.name().strip();
    if (name.isEmpty() || name.length() > 80) {
      throw Problem.invalid("name", "1 to 80 characters");
    }
    int changed =
        db.update(CHANNEL)
            .set(CHANNEL.NAME, name)
            .set(CHANNEL.WRITES_BACK, or(patch.writesBack(), before.writesBack()))
            .set(CHANNEL.FEEDS, or(patch.feeds(), before.feeds()))
            .set(CHANNEL.MAIL_SENT, or(patch.mailsSent(), before.mailsSent()))
            .set(CHANNEL.MAIL_WAITING, or(patch.mailsWaiting(), before.mailsWaiting()))
            .set(CHANNEL.PAUSED, or(patch.paused(), before.paused()))
            .set(CHANNEL.INTERVAL_SECONDS, seconds == null ? before.intervalSeconds() : seconds)
            .set(CHANNEL.VERSION, CHANNEL.VERSION.plus(1))
            .where(CHANNEL.ID.eq(id))
            .and(CHANNEL.VERSION.eq(patch.version()))
            .execute();
    if (changed == 0) {
      throw Problem.stale();
    }
    ChannelCard after = cards.byId(id);
    changed(
        "%s %s, %s%s"
            .formatted(
                after.name(),
                after.writesBack() || after.feeds() ? "is told " + told(after) : "listens only",
                mailed(after),
                after.paused() ? ", paused" : ""));
    return after;
  }

  @Operation(summary = "Fetch orders now; answers at once, the pull follows")
  @PostMapping("/{id}/pull")
  @ResponseStatus(HttpStatus.ACCEPTED)
  void pull(@PathVariable long id) {
    ChannelCard card = cards.byId(id);
    if (card.paused()) {
      throw Problem.conflict(card.name() + " is paused; let it go on first");
    }
    db.update(CHANNEL)
        .set(CHANNEL.NEXT_PULL_AT, clock.instant())
        .where(CHANNEL.ID.eq(id))
        .execute();
  }

  @Operation(summary = "What was said to the channel and what it answered, newest first")
  @GetMapping("/{id}/exchanges")
  Slice<ExchangeLog.Exchange> exchanges(
      @PathVariable long id,
      @RequestParam(defaultValue = "false") boolean failed,
      @RequestParam(required = false) @Nullable Long after) {
    return exchanges.of(id, failed, after);
  }

  @Operation(summary = "What the channel’s shipping wordings mean")
  @GetMapping("/{id}/wordings")
  List<Wording> wordings(@PathVariable long id) {
    return db.select(SERVICE_WORD.HOW, SERVICE_WORD.WORDING, SERVICE_WORD.LEVEL)
        .from(SERVICE_WORD)
        .where(SERVICE_WORD.CHANNEL_ID.eq(id))
        .orderBy(SERVICE_WORD.ID)
        .fetch(r ->
            new Wording(
                ServiceWords.How.valueOf(r.value1()),
                r.value2(),
                ServiceLevel.valueOf(r.value3())));
  }

  @Operation(summary = "Say what a wording means; frees the orders that waited for it")
  @PostMapping("/{id}/wordings")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void learn(@PathVariable long id, @RequestBody Wording wording) {
    wordings.learn(
        id, wording.how(), wording.wording(), wording.level(), Person.current().displayName());
    changed("‘" + wording.wording() + "’ means " + wording.level());
  }

  @Operation(summary = "Forget what a wording means; the next order with it becomes a snag")
  @PostMapping("/{id}/wordings/forget")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void forget(@PathVariable long id, @RequestBody Wording wording) {
    wordings.forget(id, wording.how(), wording.wording());
    changed("‘" + wording.wording() + "’ is unknown again");
  }

  private static String told(ChannelCard card) {
    return card.writesBack()
        ? card.feeds() ? "what happens and what is in stock" : "what happens"
        : "what is in stock";
  }

  private static String mailed(ChannelCard card) {
    if (card.mailsSent()) {
      return "buyers are mailed " + (card.mailsWaiting() ? "all" : "what is sent");
    }
    return "buyers are mailed " + (card.mailsWaiting() ? "what waits" : "nothing");
  }

  private static boolean or(@Nullable Boolean given, boolean otherwise) {
    return given == null ? otherwise : given;
  }

  private void changed(String what) {
    events.record(EventKind.CHANNEL_CHANGED, null, null, Person.current().displayName(), what, "");
  }
}
