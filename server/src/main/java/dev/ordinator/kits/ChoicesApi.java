package dev.ordinator.kits;

import dev.ordinator.access.Person;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
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
@RequestMapping("/api/orders/{order}/choices")
@Tag(name = "Orders")
class ChoicesApi {
  private final OrderKits kits;

  ChoicesApi(OrderKits kits) {
    this.kits = kits;
  }

  /** A question that a kit of the order leaves open, and its answers: labels with their SKUs. */
  record Question(long lineId, String title, String choice, List<Answer> answers) {}

  record Answer(String label, String sku) {}

  record Choosing(long lineId, String choice, String sku) {}

  @Operation(summary = "What the kits of an order leave open")
  @GetMapping
  List<Question> open(@PathVariable long order) {
    return kits.open(order).stream()
        .map(o ->
            new Question(
                o.lineId(),
                o.title(),
                o.choice().name(),
                o.choice().options().stream()
                    .map(option -> new Answer(option.label(), option.sku()))
                    .toList()))
        .toList();
  }

  @Operation(summary = "Choose what a kit of the order leaves open; the order goes on")
  @PostMapping
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void choose(@PathVariable long order, @RequestBody Choosing choosing) {
    kits.choose(
        order,
        choosing.lineId(),
        choosing.choice(),
        choosing.sku(),
        Person.current().displayName());
  }
}
