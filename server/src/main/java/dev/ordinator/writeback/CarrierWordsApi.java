package dev.ordinator.writeback;

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
@RequestMapping("/api/channels/{id}/carriers")
@Tag(name = "Channels")
class CarrierWordsApi {
  private final CarrierWords words;
  private final Events events;

  CarrierWordsApi(CarrierWords words, Events events) {
    this.words = words;
    this.events = events;
  }

  record Name(String name) {}

  @Operation(summary = "The names by which a channel knows our carriers, and those that it takes")
  @GetMapping
  CarrierWords.Taken carriers(@PathVariable long id) {
    return words.at(id);
  }

  @Operation(summary = "Say a carrier’s name at a channel; what waited for it is told")
  @PutMapping("/{carrier}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void learn(@PathVariable long id, @PathVariable String carrier, @RequestBody Name name) {
    String who = Person.current().displayName();
    words.learn(id, carrier, name.name(), who);
    events.record(
        EventKind.CHANNEL_CHANGED,
        null,
        null,
        who,
        carrier + " is called ‘" + name.name() + "’",
        "");
  }
}
