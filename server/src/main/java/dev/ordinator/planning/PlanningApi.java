package dev.ordinator.planning;

import dev.ordinator.platform.Problem;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.time.Duration;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import org.springframework.http.MediaType;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/planning")
@Tag(name = "Planning")
class PlanningApi {

  /** Orders of a case that are solved while somebody waits for the answer. */
  private static final int MOST_ORDERS = 50_000;

  /** Whoever waits gets the best plans that were found by then. */
  private static final Duration LONGEST = Duration.ofMinutes(1);

  /** One at a time, so that what cases need of memory does not add up. */
  private final Semaphore turn = new Semaphore(1, true);

  @Operation(
      summary = "Solve a planning case, without touching any stored data",
      description =
          "A JSON document with everything that routing looks at: network, stock, ladder, orders."
              + " What is wrong with one is told with its JSONPath in “field”. At most 50,000"
              + " orders and 64 MB; larger ones are solved by the command ./ordinator plan. After a"
              + " minute the best plans that were found are given, marked “timeWasUp”.")
  @PostMapping(value = "/cases", consumes = MediaType.APPLICATION_JSON_VALUE)
  PlanningAnswer solve(@RequestBody String document) throws InterruptedException {
    if (!turn.tryAcquire(30, TimeUnit.SECONDS)) {
      throw Problem.elsewhere("Other planning cases are being solved; try again in a minute");
    }
    long end = System.nanoTime() + LONGEST.toNanos();
    try {
      return Planner.solve(document, MOST_ORDERS, () -> System.nanoTime() - end > 0);
    } catch (CaseError wrong) {
      throw Problem.invalid(wrong.path(), wrong.what());
    } finally {
      turn.release();
    }
  }
}
