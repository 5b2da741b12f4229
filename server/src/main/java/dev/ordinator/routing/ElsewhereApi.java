package dev.ordinator.routing;

import dev.ordinator.access.Person;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import org.springframework.http.ContentDisposition;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/orders/{id}")
@Tag(name = "Orders")
class ElsewhereApi {
  private final Elsewhere elsewhere;
  private final WhatIf whatIf;

  ElsewhereApi(Elsewhere elsewhere, WhatIf whatIf) {
    this.elsewhere = elsewhere;
    this.whatIf = whatIf;
  }

  @Operation(
      summary = "From where else an order could be sent, and what each would cost",
      description = "Of what nobody has begun to pack. Nothing is changed.")
  @GetMapping("/alternatives")
  Elsewhere.Alternatives alternatives(@PathVariable long id) {
    return elsewhere.of(id);
  }

  @Operation(
      summary = "What would become of an order if the rulebook were asked something else",
      description = "Of what nobody has begun to pack. Nothing is changed.")
  @GetMapping("/what-if")
  WhatIf.Answer whatIf(
      @PathVariable long id,
      @RequestParam(defaultValue = "") String without,
      @RequestParam(defaultValue = "0") int more,
      @RequestParam(defaultValue = "0") int laterDays) {
    return whatIf.ask(id, new WhatIf.Question(without, more, laterDays));
  }

  @Operation(
      summary = "What an order is routed by at this moment, as a planning case",
      description =
          "Of what nobody has begun to pack. Nodes that may not send it are left out; how long lots"
              + " last, which lines stay together and which nodes rules prefer is not in it.")
  @GetMapping("/case")
  ResponseEntity<String> asCase(@PathVariable long id) {
    return ResponseEntity.ok()
        .contentType(MediaType.APPLICATION_JSON)
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            ContentDisposition.attachment().filename("case-" + id + ".json").build().toString())
        .body(whatIf.asCase(id));
  }

  @Operation(summary = "Send an order from other nodes than the rulebook chose, and say why")
  @PostMapping("/elsewhere")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void send(@PathVariable long id, @RequestBody Elsewhere.Wish wish) {
    elsewhere.send(id, wish, Person.current().displayName());
  }
}
