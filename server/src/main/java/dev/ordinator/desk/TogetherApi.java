package dev.ordinator.desk;

import dev.ordinator.access.Person;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.util.List;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Orders that a person routes together. */
@RestController
@RequestMapping("/api/routing/together")
@Tag(name = "Orders")
class TogetherApi {
  private final Together together;

  TogetherApi(Together together) {
    this.together = together;
  }

  /**
   * @param orders ids, 1 to 1,000
   */
  record Chosen(List<Long> orders) {}

  @Operation(summary = "What would come of routing these orders together now; nothing changes")
  @PostMapping("/preview")
  Together.Preview preview(@RequestBody Chosen chosen) {
    return together.preview(chosen.orders());
  }

  @Operation(summary = "Route these orders together now, also where routing is paused")
  @PostMapping
  Together.Done route(@RequestBody Chosen chosen) {
    return together.route(chosen.orders(), Person.current().displayName());
  }

  @Operation(
      summary = "What these orders would be routed by, as a planning case",
      description =
          "They must go by the same ladder and be served by the same nodes: a case has one of each.")
  @PostMapping("/case")
  ResponseEntity<String> asCase(@RequestBody Chosen chosen) {
    return ResponseEntity.ok()
        .contentType(MediaType.APPLICATION_JSON)
        .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"batch.json\"")
        .body(together.asCase(chosen.orders()));
  }
}
