package dev.ordinator.feed;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.LISTING;

import dev.ordinator.access.Person;
import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Channels;
import dev.ordinator.channels.Connector.ChannelError;
import dev.ordinator.core.feed.FeedRule;
import dev.ordinator.feed.FeedLines.FeedLine;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Slice;
import dev.ordinator.platform.Texts;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.util.List;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/channels/{id}/feed")
@Tag(name = "Stock feed")
class FeedApi {
  private static final int PAGE = 200;

  private final DSLContext db;
  private final Channels channels;
  private final Feed feed;
  private final FeedLines lines;
  private final FeedHolds holds;
  private final FeedRules rules;
  private final WaitingList waitingList;
  private final Events events;

  FeedApi(
      DSLContext db,
      Channels channels,
      Feed feed,
      FeedLines lines,
      FeedHolds holds,
      FeedRules rules,
      WaitingList waitingList,
      Events events) {
    this.db = db;
    this.channels = channels;
    this.feed = feed;
    this.lines = lines;
    this.holds = holds;
    this.rules = rules;
    this.waitingList = waitingList;
    this.events = events;
  }

  /** In per cent. */
  record Guard(int zeroed, int drop) {}

  /**
   * @param hold a push that waits for a person; null: none
   */
  record FeedState(Guard guard, FeedHolds.@Nullable Hold hold, List<FeedHolds.Settled> settled) {}

  /**
   * @param preview true: say what would change, and change nothing
   */
  record RuleChange(FeedRules.Which which, FeedRule rule, boolean preview) {}

  record RuleResult(int listings, List<FeedRules.Effect> effects) {}

  record Waiter(String email) {}

  @Operation(summary = "How a channel’s stock feed stands, and what its guard holds")
  @GetMapping
  FeedState state(@PathVariable long id) {
    channels.byId(id);
    Guard guard =
        db.select(CHANNEL.GUARD_ZEROED, CHANNEL.GUARD_DROP)
            .from(CHANNEL)
            .where(CHANNEL.ID.eq(id))
            .fetchSingle(r -> new Guard(r.value1(), r.value2()));
    return new FeedState(guard, holds.open(id).orElse(null), holds.settled(id));
  }

  @Operation(
      summary = "What each listing offers: by its rule now, and as the channel was told last")
  @GetMapping("/lines")
  Slice<FeedLine> lines(
      @PathVariable long id,
      @RequestParam(defaultValue = "") String search,
      @RequestParam(required = false) @Nullable Long after) {
    List<FeedLine> found =
        lines.select(
            channels.byId(id),
            new FeedRules.Which(null, search)
                .condition()
                .and(LISTING.ID.gt(after == null ? 0 : after)));
    return Slice.of(
        found.subList(0, Math.min(found.size(), PAGE + 1)),
        PAGE,
        line -> Long.toString(line.listingId()));
  }

  @Operation(
      summary = "Set how much listings offer, for one or many; or see what that would change")
  @PostMapping("/rules")
  RuleResult rules(@PathVariable long id, @RequestBody RuleChange change) {
    Channel channel = channels.byId(id);
    List<FeedRules.Effect> effects = rules.preview(channel, change.which(), change.rule());
    if (change.preview()) {
      return new RuleResult(effects.size(), effects);
    }
    int set = rules.set(channel, change.which(), change.rule());
    noted(set + " listings of " + channel.name() + " offer stock by another rule");
    return new RuleResult(set, effects);
  }

  @Operation(summary = "Say what the feed guard lets through by itself")
  @PutMapping("/guard")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void guard(@PathVariable long id, @RequestBody Guard guard) {
    if (guard.zeroed() < 0 || guard.zeroed() > 100 || guard.drop() < 0 || guard.drop() > 100) {
      throw Problem.invalid("zeroed", "a limit is 0 to 100 %");
    }
    Channel channel = channels.byId(id);
    db.update(CHANNEL)
        .set(CHANNEL.GUARD_ZEROED, guard.zeroed())
        .set(CHANNEL.GUARD_DROP, guard.drop())
        .where(CHANNEL.ID.eq(id))
        .execute();
    noted(
        "The guard of %s holds what zeroes more than %d %% or drops more than %d %%"
            .formatted(channel.name(), guard.zeroed(), guard.drop()));
  }

  @Operation(summary = "Let a held push through, exactly as it was held")
  @PostMapping("/let-through")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void letThrough(@PathVariable long id) {
    Channel channel = channels.byId(id);
    if (!channel.feeds()) {
      throw Problem.conflict(
          channel.name() + " is not told what is in stock; let it be told first");
    }
    // told first: if that fails half-way the push is still held, and telling it again is harmless
    try {
      feed.tellHeld(channel, holds.required(channel).lines());
    } catch (ChannelError e) {
      throw Problem.elsewhere("not all of it could be told; let it through again: " + Texts.of(e));
    }
    holds.letThrough(channel, who());
  }

  @Operation(summary = "Refuse a held push; the channel keeps what it has")
  @PostMapping("/refuse")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void refuse(@PathVariable long id) {
    holds.refuse(channels.byId(id), who());
  }

  @Operation(summary = "Put a mail address on a listing’s waiting list; it is told once")
  @PostMapping("/waiting/{listing}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void join(@PathVariable long id, @PathVariable long listing, @RequestBody Waiter waiter) {
    channels.byId(id);
    waitingList.join(listing, waiter.email());
  }

  private void noted(String what) {
    events.record(EventKind.CHANNEL_CHANGED, null, null, who(), what, "");
  }

  private static String who() {
    return Person.current().displayName();
  }
}
