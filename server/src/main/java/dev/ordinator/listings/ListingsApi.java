package dev.ordinator.listings;

import dev.ordinator.access.Person;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Slice;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
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
  private final Events events;

  ListingsApi(ListingTable table, Listings listings, Events events) {
    this.table = table;
    this.listings = listings;
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

  @Operation(summary = "Items that an unmatched listing could be, likeliest first")
  @GetMapping("/{listing}/suggestions")
  List<ListingTable.Suggestion> suggestions(@PathVariable long listing) {
    return table.suggestions(listing);
  }
}
