package dev.ordinator.planning;

import dev.ordinator.platform.Problem;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/planning")
@Tag(name = "Planning")
class PlanningApi {

  @Operation(
      summary = "Solve a planning case, without touching any stored data",
      description =
          "A JSON document with everything that routing looks at: network, stock, ladder, orders."
              + " What is wrong with one is told with its JSONPath in “field”.")
  @PostMapping(value = "/cases", consumes = MediaType.APPLICATION_JSON_VALUE)
  PlanningAnswer solve(@RequestBody String document) {
    try {
      return Planner.solve(document);
    } catch (CaseError wrong) {
      throw Problem.invalid(wrong.path(), wrong.what());
    }
  }
}
