package dev.ordinator.worklist;

import dev.ordinator.access.Person;
import dev.ordinator.orders.Assignments;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/orders")
@Tag(name = "Orders")
class AssignmentsApi {
  private final Assignments assignments;

  AssignmentsApi(Assignments assignments) {
    this.assignments = assignments;
  }

  /**
   * @param to the name by which a colleague logs in; null: nobody
   */
  record For(List<Long> orders, @Nullable String to) {}

  /**
   * @param list null: none
   */
  record On(List<Long> orders, @Nullable String list) {}

  @Operation(summary = "Who may look after orders")
  @GetMapping("/colleagues")
  List<Assignments.Colleague> colleagues() {
    return assignments.colleagues();
  }

  @Operation(summary = "Lists with open orders on them")
  @GetMapping("/lists")
  List<Assignments.OrderList> lists() {
    return assignments.lists();
  }

  @Operation(summary = "Say who looks after orders")
  @PostMapping("/assign")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void assign(@RequestBody For wish) {
    assignments.assign(wish.orders(), wish.to(), Person.current().displayName());
  }

  @Operation(summary = "Put orders on a list, or take them off")
  @PostMapping("/put-on-list")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void putOn(@RequestBody On wish) {
    assignments.putOn(wish.orders(), wish.list(), Person.current().displayName());
  }
}
