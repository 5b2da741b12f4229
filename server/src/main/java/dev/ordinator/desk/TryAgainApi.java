package dev.ordinator.desk;

import dev.ordinator.access.Person;
import dev.ordinator.dispatch.Tracking;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@Tag(name = "Orders")
class TryAgainApi {
  private final OrderDesk desk;
  private final Tracking tracking;

  TryAgainApi(OrderDesk desk, Tracking tracking) {
    this.desk = desk;
    this.tracking = tracking;
  }

  @Operation(
      summary = "Try again what failed for good: a step of the order, or tracking its parcels")
  @PostMapping("/api/orders/{id}/try-again")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void tryAgain(@PathVariable long id) {
    String by = Person.current().displayName();
    desk.tryAgain(id, by);
    tracking.tryAgain(id, by);
  }
}
