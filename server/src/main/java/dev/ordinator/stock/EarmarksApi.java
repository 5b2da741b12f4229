package dev.ordinator.stock;

import dev.ordinator.access.Person;
import dev.ordinator.stock.Earmarks.Card;
import dev.ordinator.stock.Earmarks.Wish;
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
@RequestMapping("/api/stock")
@Tag(name = "Stock")
class EarmarksApi {
  private final Earmarks earmarks;

  EarmarksApi(Earmarks earmarks) {
    this.earmarks = earmarks;
  }

  @Operation(summary = "What of an item is set aside, and for whom")
  @GetMapping("/items/{id}/earmarks")
  List<Card> earmarks(@PathVariable long id) {
    return earmarks.of(id);
  }

  @Operation(summary = "Set units of an item aside for a channel, a customer or a campaign")
  @PostMapping("/items/{id}/earmarks")
  @ResponseStatus(HttpStatus.CREATED)
  void setAside(@PathVariable long id, @RequestBody Wish wish) {
    earmarks.setAside(id, wish, Person.current().displayName());
  }

  @Operation(summary = "What is left of an earmark is free again")
  @PostMapping("/earmarks/{id}/release")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void release(@PathVariable long id) {
    earmarks.release(id, Person.current().displayName());
  }
}
