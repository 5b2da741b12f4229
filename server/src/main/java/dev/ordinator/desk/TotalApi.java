package dev.ordinator.desk;

import dev.ordinator.access.Person;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Totals that their parts don't add up to. */
@RestController
@Tag(name = "Orders")
class TotalApi {
  private final OrderDesk desk;

  TotalApi(OrderDesk desk) {
    this.desk = desk;
  }

  @Operation(summary = "Let the channel’s total stand though its parts add up to something else")
  @PostMapping("/api/orders/{id}/total/accept")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void accept(@PathVariable long id) {
    desk.letTotalStand(id, Person.current().displayName());
  }
}
