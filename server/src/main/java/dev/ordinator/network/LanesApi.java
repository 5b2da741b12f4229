package dev.ordinator.network;

import dev.ordinator.access.Person;
import dev.ordinator.network.Lanes.Carrier;
import dev.ordinator.network.Lanes.Key;
import dev.ordinator.network.Lanes.LaneOf;
import dev.ordinator.network.Lanes.Terms;
import dev.ordinator.network.Zones.Part;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Transactions;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.util.List;
import java.util.Set;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** By what nodes send to a zone, and what is in it. */
@RestController
@RequestMapping("/api/network")
@Tag(name = "Network")
class LanesApi {
  private final Lanes lanes;
  private final Zones zones;
  private final Transactions transactions;
  private final Events events;

  LanesApi(Lanes lanes, Zones zones, Transactions transactions, Events events) {
    this.lanes = lanes;
    this.zones = zones;
    this.transactions = transactions;
    this.events = events;
  }

  /** A lane to be, or as it is to be. */
  record LaneWish(Key key, Terms terms) {}

  @Operation(summary = "The lanes from a node to a zone, in listed order")
  @GetMapping("/lanes")
  List<LaneOf> lanes(@RequestParam String node, @RequestParam String zone) {
    return lanes.all().stream()
        .filter(l -> l.key().node().equals(node) && l.key().zone().equals(zone))
        .toList();
  }

  @Operation(summary = "Carriers by which lanes may go")
  @GetMapping("/carriers")
  List<Carrier> carriers() {
    return lanes.carriers();
  }

  @Operation(
      summary = "Make a lane, or say how it is from now on",
      description = "What goes by it already goes as it was planned.")
  @PutMapping("/lanes")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void put(@RequestBody LaneWish wish) {
    transactions.run(() -> {
      lanes.put(wish.key(), wish.terms());
      noted(
          "%s by %s %s to %s is otherwise"
              .formatted(
                  wish.key().node(),
                  wish.key().carrier(),
                  wish.key().service(),
                  wish.key().zone()));
    });
  }

  @Operation(summary = "The destinations of a zone")
  @GetMapping("/zones/{zone}")
  Set<Part> zone(@PathVariable String zone) {
    return zones.all().getOrDefault(zone, Set.of());
  }

  @Operation(summary = "Make a zone, or say what is in it")
  @PutMapping("/zones/{zone}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void put(@PathVariable String zone, @RequestBody Set<Part> parts) {
    transactions.run(() -> {
      zones.put(zone, parts);
      noted("Zone %s has %d parts".formatted(zone, parts.size()));
    });
  }

  private void noted(String what) {
    events.record(EventKind.NETWORK_CHANGED, null, null, Person.current().displayName(), what, "");
  }
}
