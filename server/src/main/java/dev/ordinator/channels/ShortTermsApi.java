package dev.ordinator.channels;

import dev.ordinator.access.Person;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/channels/{id}/short")
@Tag(name = "Channels")
class ShortTermsApi {
  private final ShortTerms terms;
  private final Events events;

  ShortTermsApi(ShortTerms terms, Events events) {
    this.terms = terms;
    this.events = events;
  }

  @Operation(summary = "What becomes of a channel’s orders when goods are short")
  @GetMapping
  ShortTerms.Agreed of(@PathVariable long id) {
    return terms.of(id);
  }

  @Operation(
      summary = "Say what becomes of them",
      description = "For orders that are found short from now on; who waits already goes on to.")
  @PutMapping
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void agree(@PathVariable long id, @RequestBody ShortTerms.Agreed agreed) {
    terms.agree(id, agreed);
    events.record(
        EventKind.CHANNEL_CHANGED,
        null,
        null,
        Person.current().displayName(),
        "Terms of channel %d for goods that are short".formatted(id),
        agreed.toString());
  }
}
