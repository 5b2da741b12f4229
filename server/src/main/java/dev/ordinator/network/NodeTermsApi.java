package dev.ordinator.network;

import dev.ordinator.access.Person;
import dev.ordinator.network.CapacityDays.OtherDay;
import dev.ordinator.network.NodeTerms.Terms;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.time.Clock;
import java.time.LocalDate;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** How nodes work. */
@RestController
@RequestMapping("/api/network/nodes/{code}")
@Tag(name = "Network")
class NodeTermsApi {
  private final Nodes nodes;
  private final NodeTerms terms;
  private final CapacityDays capacities;
  private final Clock clock;

  NodeTermsApi(Nodes nodes, NodeTerms terms, CapacityDays capacities, Clock clock) {
    this.nodes = nodes;
    this.terms = terms;
    this.capacities = capacities;
    this.clock = clock;
  }

  @Operation(summary = "How a node works")
  @GetMapping("/terms")
  Terms terms(@PathVariable String code) {
    return terms.of(nodes.byCode(code).id());
  }

  @Operation(
      summary = "Say how a node works",
      description = "What is planned already stays as it was planned.")
  @PutMapping("/terms")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void set(@PathVariable String code, @RequestBody Terms wish) {
    terms.set(nodes.byCode(code).id(), wish, Person.current().displayName());
  }

  @Operation(summary = "A node’s days to come on which it hands over more or less than usually")
  @GetMapping("/days")
  List<OtherDay> days(@PathVariable String code) {
    var node = nodes.byCode(code);
    return capacities.coming(node.id(), LocalDate.ofInstant(clock.instant(), node.timeZone()));
  }

  @Operation(summary = "Say how much a node hands over on a day; no number: no limit")
  @PutMapping("/days")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void setDay(@PathVariable String code, @RequestBody OtherDay day) {
    capacities.set(nodes.byCode(code).id(), day);
  }

  @Operation(summary = "A day is as usual again")
  @DeleteMapping("/days/{day}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void forget(@PathVariable String code, @PathVariable LocalDate day) {
    capacities.forget(nodes.byCode(code).id(), day);
  }
}
