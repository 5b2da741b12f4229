package dev.ordinator.routing;

import dev.ordinator.access.Person;
import dev.ordinator.platform.Problem;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.time.Duration;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Stopping and going on with routing, and what of it people overruled. */
@RestController
@RequestMapping("/api/routing")
@Tag(name = "Routing")
class RoutingApi {
  private static final int LONGEST = 366;

  private final RoutingPauses pauses;
  private final RoutingTimes times;
  private final Overrides overrides;

  RoutingApi(RoutingPauses pauses, RoutingTimes times, Overrides overrides) {
    this.pauses = pauses;
    this.times = times;
    this.overrides = overrides;
  }

  @Operation(summary = "What is not routed now, since when, why, and how many orders wait for it")
  @GetMapping("/pauses")
  List<RoutingPauses.Pause> all() {
    return pauses.all();
  }

  @Operation(
      summary = "Stop routing the orders of a channel, or of all, or stop routing to a node",
      description = "They come in and are approved meanwhile. What is routed already goes on.")
  @PostMapping("/pauses")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void begin(@RequestBody RoutingPauses.Wish wish) {
    pauses.begin(wish, Person.current().displayName());
  }

  @Operation(summary = "Go on with routing")
  @DeleteMapping("/pauses/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void end(@PathVariable long id) {
    pauses.end(id, Person.current().displayName());
  }

  @Operation(summary = "When the orders of each channel are routed")
  @GetMapping("/times")
  List<RoutingTimes.Times> times() {
    return times.all();
  }

  /**
   * @param minutes between two batches, 1 to 1,440; null: each order at once
   */
  record Minutes(@Nullable Integer minutes) {}

  @Operation(
      summary = "Route the orders of a channel each at once, or together every so many minutes")
  @PutMapping("/times/{channel}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void setTimes(@PathVariable String channel, @RequestBody Minutes wish) {
    times.set(channel, wish.minutes(), Person.current().displayName());
  }

  @Operation(summary = "How often orders were sent elsewhere by hand in the last days, by reason")
  @GetMapping("/overrides")
  List<Overrides.Counted> overrides(@RequestParam(defaultValue = "30") int days) {
    if (days < 1 || days > LONGEST) {
      throw Problem.invalid("days", "1 to 366");
    }
    return overrides.since(Duration.ofDays(days));
  }
}
