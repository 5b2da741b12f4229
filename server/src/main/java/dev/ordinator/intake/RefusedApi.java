package dev.ordinator.intake;

import dev.ordinator.access.Person;
import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Channels;
import dev.ordinator.channels.Connectors;
import dev.ordinator.channels.IncomingOrder;
import dev.ordinator.channels.MessagePart.Unreadable;
import dev.ordinator.intake.RefusedMessages.Refused;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.util.ArrayList;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/intake/refused")
@Tag(name = "Intake")
class RefusedApi {
  private final RefusedMessages refused;
  private final Channels channels;
  private final Connectors connectors;
  private final Intake intake;

  RefusedApi(RefusedMessages refused, Channels channels, Connectors connectors, Intake intake) {
    this.refused = refused;
    this.channels = channels;
    this.connectors = connectors;
    this.intake = intake;
  }

  record RefusedBody(Refused card, String body) {}

  record Correction(String body) {}

  record Several(List<Long> messages) {}

  record StillWrong(long message, String place, String problem) {}

  record Tried(int taken, List<StillWrong> stillWrong) {}

  @Operation(summary = "Messages that could not be read, newest first")
  @GetMapping
  List<Refused> waiting() {
    return refused.waiting();
  }

  @Operation(summary = "A refused message with its text")
  @GetMapping("/{id}")
  RefusedBody one(@PathVariable long id) {
    return new RefusedBody(refused.byId(id), refused.body(id));
  }

  @Operation(summary = "Correct a refused message and take it in")
  @PostMapping("/{id}/correct")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void correct(@PathVariable long id, @RequestBody Correction correction) {
    try {
      take(id, correction.body());
    } catch (Unreadable e) {
      throw Problem.invalid(e.place(), Texts.of(e));
    }
  }

  @Operation(
      summary = "Try messages again as they are, after what was wrong has been mended elsewhere")
  @PostMapping("/try-again")
  Tried tryAgain(@RequestBody Several several) {
    List<StillWrong> wrong = new ArrayList<>();
    for (long id : several.messages()) {
      try {
        take(id, refused.body(id));
      } catch (Unreadable e) {
        wrong.add(new StillWrong(id, e.place(), Texts.of(e)));
      }
    }
    return new Tried(several.messages().size() - wrong.size(), wrong);
  }

  @Operation(summary = "Settle a refused message without taking it in; its text is kept")
  @PostMapping("/{id}/discard")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void discard(@PathVariable long id) {
    refused.byId(id);
    refused.settle(id, "DISCARDED", who());
  }

  private void take(long id, String body) {
    Channel channel = channels.byId(refused.byId(id).channelId());
    channels.requireOpen(channel);
    try {
      IncomingOrder order = connectors.of(channel).read(channel, body);
      intake.take(channel, order, body, "corrected by " + who());
    } catch (RuntimeException e) {
      Unreadable why = RefusalReason.of(e);
      refused.keepBody(id, body, why);
      throw why;
    }
    refused.settle(id, "CORRECTED", who());
  }

  private static String who() {
    return Person.current().displayName();
  }
}
