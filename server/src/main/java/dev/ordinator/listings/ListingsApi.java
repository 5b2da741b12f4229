package dev.ordinator.listings;

import dev.ordinator.access.Person;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Slice;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/listings")
@Tag(name = "Listings")
class ListingsApi {
  private final ListingTable table;
  private final Listings listings;
  private final Rematching rematching;
  private final MatchCsv csv;
  private final Events events;

  ListingsApi(
      ListingTable table, Listings listings, Rematching rematching, MatchCsv csv, Events events) {
    this.table = table;
    this.listings = listings;
    this.rematching = rematching;
    this.csv = csv;
    this.events = events;
  }

  /**
   * @param unitsEach units of the item in one of the listing; 1 if it is left out
   */
  record MatchRequest(String sku, @Nullable Long unitsEach) {}

  @Operation(summary = "The match table: a channel’s listings and our items")
  @GetMapping
  Slice<ListingTable.Row> listings(
      @RequestParam long channel,
      @RequestParam(defaultValue = "false") boolean unmatched,
      @RequestParam(defaultValue = "") String search,
      @RequestParam(required = false) @Nullable Long after) {
    return table.rows(channel, unmatched, search, after);
  }

  @Operation(summary = "Match a listing to an item; frees every order that waited for it")
  @PostMapping("/{listing}/match")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void match(@PathVariable long listing, @RequestBody MatchRequest request) {
    long unitsEach = request.unitsEach() == null ? 1 : request.unitsEach();
    String who = Person.current().displayName();
    listings.match(listing, request.sku(), unitsEach, who);
    events.record(
        EventKind.CHANNEL_CHANGED,
        null,
        null,
        who,
        "Listing " + listing + " matched to " + request.sku(),
        "");
  }

  record Match(long listing, String sku) {}

  record Matches(List<Match> matches) {}

  @Operation(summary = "What a channel’s unmatched listings most likely are, surest first")
  @GetMapping("/likeliest")
  List<ListingTable.Likeliest> likeliest(@RequestParam long channel) {
    return table.likeliest(channel);
  }

  @Operation(summary = "Match many listings at once: all of them, or none")
  @PostMapping("/matches")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  @Transactional
  public void match(@RequestBody Matches wish) {
    String who = Person.current().displayName();
    wish.matches().forEach(m -> listings.match(m.listing(), m.sku(), 1, who));
    events.record(
        EventKind.CHANNEL_CHANGED,
        null,
        null,
        who,
        wish.matches().size() + " listings matched",
        "");
  }

  record TakeIn(List<Long> listings) {}

  record TakenIn(int items) {}

  @Operation(summary = "Make items of unmatched listings, with their price and pictures")
  @PostMapping("/take-in")
  TakenIn takeIn(@RequestBody TakeIn wish) {
    String who = Person.current().displayName();
    int taken = listings.takeIn(wish.listings(), who);
    events.record(EventKind.CHANNEL_CHANGED, null, null, who, taken + " listings became items", "");
    return new TakenIn(taken);
  }

  @Operation(summary = "What correcting a match would touch")
  @GetMapping("/{listing}/rematch")
  Rematching.Effect effect(@PathVariable long listing) {
    return rematching.effect(listing);
  }

  @Operation(summary = "Correct a wrong match; orders that are not released yet are checked anew")
  @PostMapping("/{listing}/rematch")
  Rematching.Effect rematch(@PathVariable long listing, @RequestBody MatchRequest request) {
    long unitsEach = request.unitsEach() == null ? 1 : request.unitsEach();
    String who = Person.current().displayName();
    Rematching.Effect effect = rematching.correct(listing, request.sku(), unitsEach, who);
    events.record(
        EventKind.CHANNEL_CHANGED,
        null,
        null,
        who,
        "Match of listing " + listing + " corrected to " + request.sku(),
        "");
    return effect;
  }

  @Operation(summary = "A channel’s match table as CSV")
  @GetMapping(path = "/csv", produces = "text/csv")
  ResponseEntity<String> csv(@RequestParam long channel) {
    return ResponseEntity.ok()
        .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"match-table.csv\"")
        .header(HttpHeaders.CONTENT_TYPE, "text/csv;charset=utf-8")
        .body(csv.write(channel));
  }

  @Operation(summary = "Match listings by a CSV file: the columns listing, our sku, units each")
  @PostMapping(path = "/csv", consumes = "text/csv")
  MatchCsv.Read readCsv(@RequestParam long channel, @RequestBody String file) {
    return csv.read(channel, file, Person.current().displayName());
  }

  @Operation(summary = "Items that an unmatched listing could be, likeliest first")
  @GetMapping("/{listing}/suggestions")
  List<ListingTable.Suggestion> suggestions(@PathVariable long listing) {
    return table.suggestions(listing);
  }
}
