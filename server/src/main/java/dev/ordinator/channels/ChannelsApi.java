package dev.ordinator.channels;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.LISTING;
import static dev.ordinator.schema.Tables.OUTBOX;
import static dev.ordinator.schema.Tables.REFUSED_MESSAGE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.schema.Tables.SERVICE_WORD;
import static org.jooq.impl.DSL.max;

import dev.ordinator.access.Person;
import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.core.orders.ServiceWords;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Slice;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.time.Clock;
import java.time.Instant;
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
  private final ListingTable listingTable;
  private final Listings listings;
  private final ServiceWordings wordings;
  private final Intake intake;
  private final Events events;
  private final Clock clock;

  ChannelsApi(
      DSLContext db,
      ListingTable listingTable,
      Listings listings,
      ServiceWordings wordings,
      Intake intake,
      Events events,
      Clock clock) {
    this.db = db;
    this.listingTable = listingTable;
    this.listings = listings;
    this.wordings = wordings;
    this.intake = intake;
    this.events = events;
    this.clock = clock;
  }

  /**
   * A connection's health.
   *
   * @param lastTaken orders that the last pull brought
   * @param untold shipments that the channel has yet to be told, {@code givenUp} of them for good
   */
  record ChannelCard(
      long id,
      String code,
      String name,
      String baseUrl,
      String currency,
      String approval,
      String matchBy,
      boolean listenOnly,
      boolean paused,
      int intervalSeconds,
      Instant nextPullAt,
      @Nullable Instant lastPullAt,
      @Nullable Instant lastSuccessAt,
      @Nullable String lastError,
      int lastTaken,
      long listings,
      long unmatched,
      long refused,
      long orders,
      long untold,
      long givenUp,
      @Nullable Instant lastToldAt,
      int version) {}

  /** Only what is given changes. */
  record ChannelPatch(
      @Nullable Boolean listenOnly,
      @Nullable Boolean paused,
      @Nullable Integer intervalSeconds,
      int version) {}

  record MatchRequest(String sku) {}

  record Wording(ServiceWords.How how, String wording, ServiceLevel level) {}

  record RefusedCard(
      long id,
      String channel,
      String externalId,
      String source,
      String place,
      String problem,
      Instant receivedAt) {}

  record RefusedBody(RefusedCard card, String body) {}

  record Correction(String body) {}

  @Operation(summary = "All connections and how they are")
  @GetMapping
  List<ChannelCard> channels() {
    return db.select(CHANNEL.ID).from(CHANNEL).orderBy(CHANNEL.ID).fetch(CHANNEL.ID).stream()
        .map(this::channel)
        .toList();
  }

  @Operation(summary = "One connection")
  @GetMapping("/{id}")
  ChannelCard channel(@PathVariable long id) {
    var c =
        db.selectFrom(CHANNEL)
            .where(CHANNEL.ID.eq(id))
            .fetchOptional()
            .orElseThrow(() -> Problem.notFound("channel " + id));
    var writeBacks =
        OUTBOX
            .KIND
            .eq("WRITE_BACK")
            .and(
                OUTBOX.ORDER_ID.in(
                    db.select(SALES_ORDER.ID)
                        .from(SALES_ORDER)
                        .where(SALES_ORDER.CHANNEL_ID.eq(id))));
    return new ChannelCard(
        c.getId(),
        c.getCode(),
        c.getName(),
        c.getBaseUrl(),
        c.getCurrency(),
        c.getApproval(),
        c.getMatchBy(),
        c.getListenOnly(),
        c.getPaused(),
        c.getIntervalSeconds(),
        c.getNextPullAt(),
        c.getLastPullAt(),
        c.getLastSuccessAt(),
        c.getLastError(),
        c.getLastTaken(),
        db.fetchCount(LISTING, LISTING.CHANNEL_ID.eq(id)),
        db.fetchCount(LISTING, LISTING.CHANNEL_ID.eq(id).and(LISTING.ITEM_ID.isNull())),
        db.fetchCount(
            REFUSED_MESSAGE,
            REFUSED_MESSAGE.CHANNEL_ID.eq(id).and(REFUSED_MESSAGE.STATE.eq("REFUSED"))),
        db.fetchCount(SALES_ORDER, SALES_ORDER.CHANNEL_ID.eq(id)),
        db.fetchCount(OUTBOX, writeBacks.and(OUTBOX.STATE.in("PENDING", "DEAD"))),
        db.fetchCount(OUTBOX, writeBacks.and(OUTBOX.STATE.eq("DEAD"))),
        db.select(max(OUTBOX.DONE_AT)).from(OUTBOX).where(writeBacks).fetchSingle().value1(),
        c.getVersion());
  }

  @Operation(summary = "Pause or go on, listen only or speak, and how often to pull")
  @PatchMapping("/{id}")
  @Transactional
  public ChannelCard change(@PathVariable long id, @RequestBody ChannelPatch patch) {
    ChannelCard before = channel(id);
    Integer seconds = patch.intervalSeconds();
    if (seconds != null && (seconds < 1 || seconds > 86_400)) {
      throw Problem.invalid("intervalSeconds", "an interval is 1 second to 1 day");
    }
    boolean listenOnly = patch.listenOnly() == null ? before.listenOnly() : patch.listenOnly();
    boolean paused = patch.paused() == null ? before.paused() : patch.paused();
    int changed =
        db.update(CHANNEL)
            .set(CHANNEL.LISTEN_ONLY, listenOnly)
            .set(CHANNEL.PAUSED, paused)
            .set(CHANNEL.INTERVAL_SECONDS, seconds == null ? before.intervalSeconds() : seconds)
            .set(CHANNEL.VERSION, CHANNEL.VERSION.plus(1))
            .where(CHANNEL.ID.eq(id))
            .and(CHANNEL.VERSION.eq(patch.version()))
            .execute();
    if (changed == 0) {
      throw Problem.stale();
    }
    String what =
        (listenOnly ? "listens only" : "is told what happens") + (paused ? ", paused" : "");
    changed(before.name() + " " + what);
    return channel(id);
  }

  @Operation(summary = "Fetch orders now; answers at once, the pull follows")
  @PostMapping("/{id}/pull")
  @ResponseStatus(HttpStatus.ACCEPTED)
  void pull(@PathVariable long id) {
    ChannelCard card = channel(id);
    if (card.paused()) {
      throw Problem.conflict(card.name() + " is paused; let it go on first");
    }
    db.update(CHANNEL)
        .set(CHANNEL.NEXT_PULL_AT, clock.instant())
        .where(CHANNEL.ID.eq(id))
        .execute();
  }

  @Operation(summary = "The match table: the channel’s listings and our items")
  @GetMapping("/{id}/listings")
  Slice<ListingTable.Row> listings(
      @PathVariable long id,
      @RequestParam(defaultValue = "false") boolean unmatched,
      @RequestParam(defaultValue = "") String search,
      @RequestParam(required = false) @Nullable Long after) {
    return listingTable.rows(id, unmatched, search, after);
  }

  @Operation(summary = "Match a listing to an item; frees every order that waited for it")
  @PostMapping("/listings/{listing}/match")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void match(@PathVariable long listing, @RequestBody MatchRequest request) {
    listings.match(listing, request.sku(), Person.current().displayName());
    changed("Listing " + listing + " matched to " + request.sku());
  }

  @Operation(summary = "Items that an unmatched listing could be, likeliest first")
  @GetMapping("/listings/{listing}/suggestions")
  List<ListingTable.Suggestion> suggestions(@PathVariable long listing) {
    return listingTable.suggestions(listing);
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

  @Operation(summary = "Messages that could not be read, newest first")
  @GetMapping("/refused")
  List<RefusedCard> refused() {
    return db.select(
            REFUSED_MESSAGE.ID,
            CHANNEL.NAME,
            REFUSED_MESSAGE.EXTERNAL_ID,
            REFUSED_MESSAGE.SOURCE,
            REFUSED_MESSAGE.PLACE,
            REFUSED_MESSAGE.PROBLEM,
            REFUSED_MESSAGE.RECEIVED_AT)
        .from(REFUSED_MESSAGE)
        .join(CHANNEL)
        .on(CHANNEL.ID.eq(REFUSED_MESSAGE.CHANNEL_ID))
        .where(REFUSED_MESSAGE.STATE.eq("REFUSED"))
        .orderBy(REFUSED_MESSAGE.ID.desc())
        .limit(200)
        .fetch(r ->
            new RefusedCard(
                r.value1(),
                r.value2(),
                r.value3(),
                r.value4(),
                r.value5(),
                r.value6(),
                r.value7()));
  }

  @Operation(summary = "A refused message with its text")
  @GetMapping("/refused/{id}")
  RefusedBody refusedBody(@PathVariable long id) {
    RefusedCard card =
        refused().stream()
            .filter(r -> r.id() == id)
            .findFirst()
            .orElseThrow(() -> Problem.notFound("refused message " + id));
    return new RefusedBody(
        card,
        db.select(REFUSED_MESSAGE.BODY)
            .from(REFUSED_MESSAGE)
            .where(REFUSED_MESSAGE.ID.eq(id))
            .fetchSingle()
            .value1());
  }

  @Operation(summary = "Correct a refused message and take it in")
  @PostMapping("/refused/{id}/correct")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void correct(@PathVariable long id, @RequestBody Correction correction) {
    intake.correct(id, correction.body(), Person.current().displayName());
  }

  @Operation(summary = "Settle a refused message without taking it in; its text is kept")
  @PostMapping("/refused/{id}/discard")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void discard(@PathVariable long id) {
    intake.discard(id, Person.current().displayName());
  }

  private void changed(String what) {
    events.record(EventKind.CHANNEL_CHANGED, null, null, Person.current().displayName(), what, "");
  }
}
