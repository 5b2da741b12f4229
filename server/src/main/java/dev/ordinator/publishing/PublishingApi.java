package dev.ordinator.publishing;

import static dev.ordinator.schema.Tables.ITEM;

import dev.ordinator.access.Person;
import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Channels;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.platform.Problem;
import dev.ordinator.publishing.Publishing.Told;
import dev.ordinator.publishing.Publishing.Wish;
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
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/channels/{channel}/publishing")
@Tag(name = "Publishing")
class PublishingApi {
  private final DSLContext db;
  private final Channels channels;
  private final PriceRules rules;
  private final Offers offers;
  private final Publishing publishing;
  private final Events events;
  private final OrdinatorSettings settings;

  PublishingApi(
      DSLContext db,
      Channels channels,
      PriceRules rules,
      Offers offers,
      Publishing publishing,
      Events events,
      OrdinatorSettings settings) {
    this.db = db;
    this.channels = channels;
    this.rules = rules;
    this.offers = offers;
    this.publishing = publishing;
    this.events = events;
    this.settings = settings;
  }

  /**
   * @param baseCurrency in which costs are said
   */
  record State(PriceRules.Set rule, String baseCurrency, List<Offers.Change> changes) {}

  /**
   * What items would cost and earn under a rule that need not be kept.
   *
   * @param supplier whose offers are looked at; null: our items
   */
  record Look(PriceRules.Set rule, String search, @Nullable Long supplier) {}

  record Offer(List<Wish> lines) {}

  record Which(List<Long> listings) {}

  record Publish(List<Long> listings, boolean published) {}

  /**
   * @param cost of a unit, without tax, minor units of the base currency
   */
  record Cost(String sku, long cost) {}

  @Operation(summary = "The price rule, and what it would push because costs or it have changed")
  @GetMapping
  State state(@PathVariable long channel) {
    Channel its = channels.byId(channel);
    PriceRules.Set rule = rules.of(channel);
    return new State(rule, settings.baseCurrency(), offers.changes(its, rule));
  }

  @Operation(summary = "What items would cost and earn; nothing is kept or told")
  @PostMapping("/preview")
  List<Offers.Line> preview(@PathVariable long channel, @RequestBody Look look) {
    Channel its = channels.byId(channel);
    Long supplier = look.supplier();
    return supplier == null
        ? offers.of(its, look.rule(), look.search())
        : offers.fromSupplier(its, look.rule(), supplier, look.search());
  }

  @Operation(summary = "Keep a price rule; what it changes is shown, and pushed when said so")
  @PutMapping("/rule")
  State keep(@PathVariable long channel, @RequestBody PriceRules.Set rule) {
    rules.set(channel, rule, who());
    noted(channels.byId(channel).name() + ": another price rule");
    return state(channel);
  }

  @Operation(summary = "Say what an item costs us")
  @PutMapping("/cost")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void cost(@PathVariable long channel, @RequestBody Cost cost) {
    channels.byId(channel);
    if (cost.cost() < 0) {
      throw Problem.invalid("cost", "a cost is not negative");
    }
    int known =
        db.update(ITEM).set(ITEM.COST, cost.cost()).where(ITEM.SKU.eq(cost.sku())).execute();
    if (known == 0) {
      throw Problem.notFound("item " + cost.sku());
    }
    noted(cost.sku() + " costs us otherwise now");
  }

  @Operation(summary = "Offer items; the match is made with them")
  @PostMapping
  List<Told> offer(@PathVariable long channel, @RequestBody Offer offer) {
    return publishing.offer(channels.byId(channel), offer.lines(), who());
  }

  @Operation(summary = "Push the prices that the rule gives now")
  @PostMapping("/prices")
  List<Told> push(@PathVariable long channel, @RequestBody Which which) {
    return publishing.pushPrices(
        channels.byId(channel), rules.of(channel), which.listings(), who());
  }

  @Operation(summary = "Publish listings that were made from here, or make drafts of them")
  @PostMapping("/state")
  List<Told> publish(@PathVariable long channel, @RequestBody Publish publish) {
    return publishing.setPublished(
        channels.byId(channel), publish.listings(), publish.published(), who());
  }

  private void noted(String what) {
    events.record(EventKind.CHANNEL_CHANGED, null, null, who(), what, "");
  }

  private static String who() {
    return Person.current().displayName();
  }
}
