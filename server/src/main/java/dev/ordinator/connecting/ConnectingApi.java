package dev.ordinator.connecting;

import static dev.ordinator.schema.Tables.CONSIGNMENT;
import static dev.ordinator.schema.Tables.OUTBOX;
import static dev.ordinator.schema.Tables.SALES_ORDER;

import dev.ordinator.access.Person;
import dev.ordinator.channels.ChannelKind;
import dev.ordinator.channels.Channels;
import dev.ordinator.channels.Connector;
import dev.ordinator.channels.Connectors;
import dev.ordinator.connecting.Connecting.Access;
import dev.ordinator.connecting.Connecting.Defaults;
import dev.ordinator.connecting.Connecting.Found;
import dev.ordinator.connecting.Connecting.NewChannel;
import dev.ordinator.connecting.Connecting.Wanted;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.util.Arrays;
import java.util.List;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/connecting")
@Tag(name = "Connecting")
class ConnectingApi {
  private final DSLContext db;
  private final Connecting connecting;
  private final ChannelRemoval removal;
  private final IntakePreview preview;
  private final Channels channels;
  private final Connectors connectors;

  ConnectingApi(
      DSLContext db,
      Connecting connecting,
      ChannelRemoval removal,
      IntakePreview preview,
      Channels channels,
      Connectors connectors) {
    this.db = db;
    this.connecting = connecting;
    this.removal = removal;
    this.preview = preview;
    this.channels = channels;
    this.connectors = connectors;
  }

  /**
   * @param profile what connecting asks for; null: nothing, it is not spoken to
   */
  record Kind(ChannelKind kind, Connector.@Nullable Profile profile) {}

  record Begun(long id) {}

  record Listed(int listings) {}

  record Step(SetupStep step) {}

  /**
   * What a channel would be told from now on, if it were told.
   *
   * @param openOrders orders that have not left: it would be told when they do
   * @param leftUntold consignments that left while it only listened: it is told of them only if a
   *     person says so
   */
  record Speaking(int openOrders, int leftUntold) {}

  @Operation(summary = "The kinds of channel there are, and what connecting each asks for")
  @GetMapping("/kinds")
  List<Kind> kinds() {
    return Arrays.stream(ChannelKind.values())
        .map(k -> new Kind(k, connectors.of(k).map(Connector::profile).orElse(null)))
        .toList();
  }

  @Operation(summary = "Begin to connect a channel; it can be left and taken up again at any step")
  @PostMapping
  Begun begin(@RequestBody NewChannel wish) {
    return new Begun(connecting.begin(wish, who()));
  }

  @Operation(summary = "Prove who we are, and try whether the channel lets us in")
  @PutMapping("/{id}/access")
  Found access(@PathVariable long id, @RequestBody Access access) {
    return connecting.access(id, access, who());
  }

  @Operation(summary = "Read a channel’s listings again; that is done by itself once a day")
  @PostMapping("/{id}/listings")
  Listed readListings(@PathVariable long id) {
    return new Listed(connecting.readListings(id));
  }

  @Operation(summary = "Remove a channel by which nothing ever came in")
  @DeleteMapping("/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void remove(@PathVariable long id) {
    removal.remove(id, who());
  }

  record Told(int messages) {}

  @Operation(summary = "Tell the channel of what left while it only listened")
  @PostMapping("/{id}/told-afterwards")
  Told tellAfterwards(@PathVariable long id) {
    return new Told(connecting.tellAfterwards(id, who()));
  }

  @Operation(summary = "Say which of its orders are wanted")
  @PutMapping("/{id}/orders")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void wanted(@PathVariable long id, @RequestBody Wanted wanted) {
    connecting.wanted(id, wanted, who());
  }

  @Operation(
      summary =
          "Say how its orders are taken; while it is being connected its listings are fetched as"
              + " well")
  @PutMapping("/{id}/defaults")
  Listed defaults(@PathVariable long id, @RequestBody Defaults defaults) {
    return new Listed(connecting.defaults(id, defaults, who()));
  }

  @Operation(summary = "The listings have been looked at")
  @PutMapping("/{id}/listings")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void listings(@PathVariable long id) {
    connecting.listingsSeen(id);
  }

  @Operation(summary = "Go back to a step")
  @PutMapping("/{id}/step")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void step(@PathVariable long id, @RequestBody Step step) {
    connecting.goTo(id, step.step());
  }

  @Operation(summary = "The orders that would be taken in, and what would stop each")
  @GetMapping("/{id}/preview")
  IntakePreview.Preview preview(@PathVariable long id) {
    return preview.of(channels.byId(id));
  }

  @Operation(
      summary = "It is connected: orders are fetched from now on, and nothing is written there")
  @PostMapping("/{id}/finish")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void finish(@PathVariable long id) {
    connecting.finish(id, who());
  }

  @Operation(summary = "What the channel would be told if it were told what happens")
  @GetMapping("/{id}/speaking")
  Speaking speaking(@PathVariable long id) {
    return new Speaking(
        db.fetchCount(
            SALES_ORDER,
            SALES_ORDER
                .CHANNEL_ID
                .eq(id)
                .and(SALES_ORDER.OPEN.isTrue())
                .and(SALES_ORDER.STAGE.in("RECEIVED", "APPROVED", "ROUTED", "RELEASED", "PACKED"))),
        db.fetchCount(
            db.select(OUTBOX.ID)
                .from(OUTBOX)
                .join(CONSIGNMENT)
                .on(CONSIGNMENT.ID.eq(OUTBOX.CONSIGNMENT_ID))
                .where(OUTBOX.CHANNEL_ID.eq(id))
                .and(OUTBOX.STATE.eq("SKIPPED"))));
  }

  private static String who() {
    return Person.current().displayName();
  }
}
