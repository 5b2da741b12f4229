package dev.ordinator.dispatch;

import dev.ordinator.access.Person;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/orders/{order}/refusals")
@Tag(name = "Orders")
class RefusalsApi {
  private final Refusals refusals;

  RefusalsApi(Refusals refusals) {
    this.refusals = refusals;
  }

  @Operation(summary = "What nodes refused of an order, the latest first")
  @GetMapping
  List<Refusals.Card> refusals(@PathVariable long order) {
    return refusals.of(order);
  }

  @Operation(summary = "Let a node be asked again; the order is routed anew")
  @PostMapping("/{consignment}/lift")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void lift(@PathVariable long order, @PathVariable long consignment) {
    refusals.lift(order, consignment, Person.current().displayName());
  }
}
