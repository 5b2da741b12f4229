package dev.ordinator.buyers;

import dev.ordinator.access.Person;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.util.ArrayList;
import java.util.List;
import java.util.function.BiConsumer;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/backorders/promises")
@Tag(name = "Backorders")
class BuyersApi {
  private static final int MOST = 1_000;

  private final Questions questions;

  BuyersApi(Questions questions) {
    this.questions = questions;
  }

  record Which(List<Long> orders) {}

  /** An order for which it could not be done, and why. */
  record Refused(long orderId, String why) {}

  record Done(int done, List<Refused> refused) {}

  @Operation(
      summary = "Promise the days that are to be expected now, and tell the buyers",
      description = "Each order by itself: those for which it can’t be done are named.")
  @PostMapping("/tell")
  Done tell(@RequestBody Which which) {
    return each(which, questions::tell);
  }

  @Operation(summary = "Ask buyers to wait, take something else, or cancel")
  @PostMapping("/ask")
  Done ask(@RequestBody Which which) {
    return each(which, questions::ask);
  }

  private static Done each(Which which, BiConsumer<Long, String> what) {
    if (which.orders().isEmpty() || which.orders().size() > MOST) {
      throw Problem.invalid("orders", "choose 1 to 1,000 orders");
    }
    List<Refused> refused = new ArrayList<>();
    for (long order : which.orders()) {
      try {
        what.accept(order, Person.current().displayName());
      } catch (Problem why) {
        refused.add(new Refused(order, Texts.of(why)));
      }
    }
    return new Done(which.orders().size() - refused.size(), refused);
  }
}
