package dev.ordinator.desk;

import dev.ordinator.access.Person;
import dev.ordinator.core.rules.DeskRule;
import dev.ordinator.rulebook.RulebookJson;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.util.List;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.JsonNode;

/** What rules did to an order, and what they would have done to those of the last 30 days. */
@RestController
@Tag(name = "Rulebook")
class RulesApi {
  private final RuleTrial trial;
  private final RuleTraces traces;
  private final RulebookJson json;

  RulesApi(RuleTrial trial, RuleTraces traces, RulebookJson json) {
    this.trial = trial;
    this.traces = traces;
    this.json = json;
  }

  @Operation(summary = "How many of the last 30 days’ orders each of these rules would have met")
  @PostMapping("/api/rulebook/trials")
  RuleTrial.Counts counts(@RequestBody JsonNode rules) {
    return trial.count(List.of(json.read(rules, DeskRule[].class)), Person.current().username());
  }

  @Operation(summary = "Which of the last 30 days’ orders this rule would have met")
  @PostMapping("/api/rulebook/trial")
  RuleTrial.Met met(@RequestBody JsonNode rule) {
    return trial.meets(json.read(rule, DeskRule.class), Person.current().username());
  }

  @Operation(summary = "Which rules looked at an order, and what they did; the latest look first")
  @GetMapping("/api/orders/{id}/rules")
  List<RuleTraces.Shown> ofOrder(@PathVariable long id) {
    return traces.of(id);
  }
}
