package dev.ordinator.machines;

import dev.ordinator.access.MachineTokens;
import dev.ordinator.access.Person;
import dev.ordinator.access.Scope;
import dev.ordinator.channels.Channel;
import dev.ordinator.channels.ChannelKind;
import dev.ordinator.channels.Channels;
import dev.ordinator.machines.HookBook.DeliveryRow;
import dev.ordinator.machines.HookBook.HookCard;
import dev.ordinator.platform.EventKind;
import dev.ordinator.platform.Events;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Slice;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.util.List;
import java.util.Set;
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

/** Who may call us for a connection, and whom we call for it. */
@RestController
@RequestMapping("/api/channels/{channel}")
@Tag(name = "Channels")
class MachineAccessApi {
  private final Channels channels;
  private final MachineTokens tokens;
  private final HookBook hooks;
  private final Events events;

  MachineAccessApi(Channels channels, MachineTokens tokens, HookBook hooks, Events events) {
    this.channels = channels;
    this.tokens = tokens;
    this.hooks = hooks;
    this.events = events;
  }

  record NewToken(String name, Set<Scope> scopes) {}

  /** A secret that is shown this once. */
  record Shown(String secret) {}

  record NewHook(String address, Set<Hooks.Kind> kinds) {}

  @Operation(summary = "Tokens of a connection that calls us, newest first")
  @GetMapping("/tokens")
  List<MachineTokens.Card> tokens(@PathVariable long channel) {
    return tokens.of(channel);
  }

  @Operation(summary = "Make a token; it is shown this once")
  @PostMapping("/tokens")
  @ResponseStatus(HttpStatus.CREATED)
  Shown create(@PathVariable long channel, @RequestBody NewToken wish) {
    Channel called = machine(channel);
    String token = tokens.create(channel, wish.name(), wish.scopes(), who());
    noted(called.name() + ": a token was made for " + wish.name().strip());
    return new Shown(token);
  }

  @Operation(summary = "A token lets nobody in any more")
  @PostMapping("/tokens/{token}/revoke")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void revoke(@PathVariable long channel, @PathVariable long token) {
    tokens.revoke(channel, token);
    noted(machine(channel).name() + ": a token was revoked");
  }

  @Operation(summary = "Webhooks of a connection")
  @GetMapping("/hooks")
  List<HookCard> hooks(@PathVariable long channel) {
    return hooks.of(channel);
  }

  @Operation(
      summary = "Have an address told; the secret that signs its messages is shown this once")
  @PostMapping("/hooks")
  @ResponseStatus(HttpStatus.CREATED)
  Shown add(@PathVariable long channel, @RequestBody NewHook wish) {
    Channel called = machine(channel);
    String secret = hooks.add(channel, wish.address(), wish.kinds(), who());
    noted(called.name() + ": a webhook was added");
    return new Shown(secret);
  }

  @Operation(summary = "Nothing more is told to a webhook")
  @PostMapping("/hooks/{hook}/stop")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void stop(@PathVariable long channel, @PathVariable long hook) {
    hooks.setActive(channel, hook, false);
    noted(machine(channel).name() + ": a webhook was stopped");
  }

  @Operation(summary = "A webhook is told again")
  @PostMapping("/hooks/{hook}/start")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void start(@PathVariable long channel, @PathVariable long hook) {
    hooks.setActive(channel, hook, true);
    noted(machine(channel).name() + ": a webhook is told again");
  }

  @Operation(summary = "What webhooks were told and what they answered, newest first")
  @GetMapping("/hooks/deliveries")
  Slice<DeliveryRow> deliveries(
      @PathVariable long channel,
      @RequestParam(defaultValue = "false") boolean failed,
      @RequestParam(required = false) @Nullable Long after) {
    return hooks.deliveries(channel, failed, after);
  }

  @Operation(summary = "Deliver a message again, under the same id")
  @PostMapping("/hooks/deliveries/{delivery}/again")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void again(@PathVariable long channel, @PathVariable long delivery) {
    hooks.again(channel, delivery);
  }

  private Channel machine(long id) {
    Channel channel = channels.byId(id);
    if (channel.kind() != ChannelKind.MACHINE) {
      throw Problem.conflict(channel.name() + " does not call us");
    }
    return channel;
  }

  private void noted(String what) {
    events.record(EventKind.CHANNEL_CHANGED, null, null, who(), what, "");
  }

  private static String who() {
    return Person.current().displayName();
  }
}
