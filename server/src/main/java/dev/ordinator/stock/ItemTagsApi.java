package dev.ordinator.stock;

import dev.ordinator.access.Person;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.util.List;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/stock/items/{id}/tags")
@Tag(name = "Stock")
class ItemTagsApi {
  private final ItemTags tags;

  ItemTagsApi(ItemTags tags) {
    this.tags = tags;
  }

  @Operation(summary = "An item’s tags")
  @GetMapping
  List<String> of(@PathVariable long id) {
    return tags.of(id);
  }

  @Operation(summary = "Say by which words an item is sorted; rules may ask for them")
  @PutMapping
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void set(@PathVariable long id, @RequestBody List<String> words) {
    tags.set(id, words, Person.current().displayName());
  }
}
