package dev.ordinator.machines;

import dev.ordinator.access.Machine;
import dev.ordinator.machines.IdempotencyKeys.Answer;
import dev.ordinator.machines.MachineOrders.Created;
import dev.ordinator.machines.OrderStates.OrderState;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.media.Content;
import io.swagger.v3.oas.annotations.media.ExampleObject;
import io.swagger.v3.oas.annotations.media.Schema;
import io.swagger.v3.oas.annotations.responses.ApiResponse;
import io.swagger.v3.oas.annotations.security.SecurityRequirement;
import io.swagger.v3.oas.annotations.tags.Tag;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.databind.json.JsonMapper;

/**
 * The API for systems that call us. Bodies are read as messages are, not bound, so that each
 * refusal names its place; their shape is documented by {@link MachineOrder}.
 */
@RestController
@RequestMapping("/api/machine")
@Tag(
    name = "For machines",
    description =
        "A token of the connection goes along as “Authorization: Bearer …”. What is sent twice"
            + " under one Idempotency-Key is done once.")
@SecurityRequirement(name = "token")
class MachineApi {
  private final MachineOrders orders;
  private final IdempotencyKeys keys;
  private final JsonMapper json;

  MachineApi(MachineOrders orders, IdempotencyKeys keys, JsonMapper json) {
    this.orders = orders;
    this.keys = keys;
    this.json = json;
  }

  @Operation(
      summary = "Create an order",
      description =
          "201 with its state; 200 if it was there already just so; 409 if it was there with other"
              + " content, and says what differs: it stays as it was, change it by PUT; 422 names"
              + " the field at fault, also one that does not exist, and nothing was taken. Needs"
              + " the scope ORDERS_WRITE.")
  @ApiResponse(
      responseCode = "201",
      content = @Content(schema = @Schema(implementation = OrderState.class)))
  @io.swagger.v3.oas.annotations.parameters.RequestBody(
      required = true,
      content =
          @Content(
              schema = @Schema(implementation = MachineOrder.class),
              examples = @ExampleObject(name = "order", value = MachineOrder.EXAMPLE)))
  @PostMapping(
      path = "/orders",
      consumes = MediaType.APPLICATION_JSON_VALUE,
      produces = MediaType.APPLICATION_JSON_VALUE)
  ResponseEntity<String> create(
      @RequestHeader("Idempotency-Key") String key, @RequestBody String order) {
    Machine caller = Machine.current();
    Answer answer =
        keys.once(
            caller.channelId(),
            key,
            order,
            () -> {
              Created created = orders.create(caller.channelId(), order, caller.name());
              return new Answer(
                  created.isNew() ? 201 : 200, json.writeValueAsString(created.state()));
            });
    return ResponseEntity.status(answer.status())
        .contentType(MediaType.APPLICATION_JSON)
        .body(answer.body());
  }

  @Operation(
      summary = "Where an order stands",
      description = "By your own id of it. Needs the scope ORDERS_READ.")
  @GetMapping("/orders/{id}")
  OrderState order(@PathVariable String id) {
    return orders.state(Machine.current().channelId(), id);
  }

  @Operation(
      summary = "Change an order",
      description =
          "The whole order as it is now, under a higher revision. Until it is released the change is"
              + " followed; afterwards a person is asked. Units no longer wanted are the line’s"
              + " “cancelled”. Needs the scope ORDERS_WRITE.")
  @io.swagger.v3.oas.annotations.parameters.RequestBody(
      required = true,
      content =
          @Content(
              schema = @Schema(implementation = MachineOrder.class),
              examples = @ExampleObject(name = "changed", value = MachineOrder.CHANGED)))
  @PutMapping(path = "/orders/{id}", consumes = MediaType.APPLICATION_JSON_VALUE)
  OrderState amend(@PathVariable String id, @RequestBody String order) {
    Machine caller = Machine.current();
    return orders.amend(caller.channelId(), id, order, caller.name());
  }

  @Operation(
      summary = "Cancel an order",
      description =
          "Cancelled at once as long as nobody packs it; then a person is asked. What has left comes"
              + " back as a return. Cancelling it again changes nothing. Needs the scope"
              + " ORDERS_WRITE.")
  @PostMapping("/orders/{id}/cancel")
  OrderState cancel(@PathVariable String id) {
    Machine caller = Machine.current();
    return orders.cancel(caller.channelId(), id, caller.name());
  }
}
