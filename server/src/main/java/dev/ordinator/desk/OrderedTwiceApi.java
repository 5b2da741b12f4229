package dev.ordinator.desk;

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
@RequestMapping("/api/orders/{id}/twice")
@Tag(name = "Orders")
class OrderedTwiceApi {
  private final OrderedTwice twice;

  OrderedTwiceApi(OrderedTwice twice) {
    this.twice = twice;
  }

  @Operation(summary = "The ids of two orders that may be one ordered twice, the earlier first")
  @GetMapping
  List<Long> pair(@PathVariable long id) {
    return twice.pair(id);
  }

  @Operation(summary = "Keep both of two orders that may be one ordered twice")
  @PostMapping("/keep-both")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void keepBoth(@PathVariable long id) {
    twice.keepBoth(id, Person.current().displayName());
  }
}
