package dev.ordinator.stock;

import dev.ordinator.access.Person;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/stock/items/{id}/tags")
@Tag(name = "Stock")
class ItemTagsApi {
  private final ItemTags tags;
  private final ItemSettings settings;

  ItemTagsApi(ItemTags tags, ItemSettings settings) {
    this.tags = tags;
    this.settings = settings;
  }

  @Operation(summary = "An item’s tags")
  @GetMapping
  List<String> of(@PathVariable long id) {
    return tags.of(id);
  }

  @Operation(
      summary = "Say by which words an item is sorted; rules may ask for them",
      description = "If-Match: the item’s settingsTag; 412 if its settings were changed since.")
  @PutMapping
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void set(
      @PathVariable long id,
      @RequestHeader(name = HttpHeaders.IF_MATCH, required = false) @Nullable String seen,
      @RequestBody List<String> words) {
    String who = Person.current().displayName();
    settings.run(id, seen, () -> tags.set(id, words, who));
  }
}
