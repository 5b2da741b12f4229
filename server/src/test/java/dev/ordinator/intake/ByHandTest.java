package dev.ordinator.intake;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Visitor;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** An order that comes by telephone. */
class ByHandTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @Test
  void anEnteredOrderGoesItsWayLikeAnyOtherAndTwiceIsOnce() {
    JsonNode first = enter("phone-0001", "TOOL-J", 2, Map.of()).body();
    JsonNode again = enter("phone-0001", "TOOL-J", 2, Map.of()).body();
    assertThat(again.path("id").asLong()).isEqualTo(first.path("id").asLong());
    JsonNode row = here.awaitStage("phone-0001", "RELEASED");
    assertThat(row.path("number").asString()).startsWith("PH-");
    JsonNode sheet = here.mara().read("/api/orders/" + first.path("id").asLong());
    assertThat(sheet.path("lines").get(0).path("unitPrice").asLong())
        .as("the list price, where none is said")
        .isPositive();
    assertThat(sheet.path("order").path("total").asLong())
        .isEqualTo(
            2 * sheet.path("lines").get(0).path("unitPrice").asLong()
                + sheet.path("figures").path("shippingCharge").asLong());
    assertThat(sheet.path("timeline").toString()).contains("entered by Mara");
  }

  @Test
  void whatIsWrongIsSaidWithItsPlaceAndNothingIsKept() {
    assertThat(field(enter("phone-0002", "NO-SUCH", 1, Map.of()))).isEqualTo("lines[0].sku");
    assertThat(field(enter("phone-0002", "TOOL-J", 0, Map.of()))).isEqualTo("lines[0].quantity");
    assertThat(field(enter("phone-0002", "TOOL-J", 1, Map.of("discount", 10_000_000))))
        .isEqualTo("discount");
    assertThat(field(enter("phone-0002", "TOOL-J", 1, Map.of("lines", List.of()))))
        .isEqualTo("lines");
    assertThat(here.order("phone-0002").isMissingNode()).isTrue();
  }

  @Test
  void aPausedConnectionTakesNoOrdersByHandEither() {
    here.world().db().execute("update channel set paused = true where kind = 'BY_HAND'");
    try {
      assertThat(enter("phone-0003", "TOOL-J", 1, Map.of()).status()).isEqualTo(409);
    } finally {
      here.world().db().execute("update channel set paused = false where kind = 'BY_HAND'");
    }
    assertThat(here.order("phone-0003").isMissingNode()).isTrue();
  }

  private static String field(Visitor.Answer answer) {
    assertThat(answer.status()).isEqualTo(422);
    return answer.body().path("field").asString();
  }

  private static Visitor.Answer enter(
      String once, String sku, long units, Map<String, Object> otherwise) {
    Map<String, Object> line = new HashMap<>();
    line.put("sku", sku);
    line.put("quantity", units);
    line.put("unitPrice", null);
    line.put("wish", "");
    Map<String, Object> order = new HashMap<>();
    order.put("once", once);
    order.put("buyer", Map.of("name", "Ilse Verbruggen", "email", "", "phone", "+31 20 555 0101"));
    order.put(
        "shipTo",
        Map.of(
            "name",
            "Ilse Verbruggen",
            "street",
            "Lindepad 12",
            "postcode",
            "1012 AB",
            "city",
            "Amsterdam",
            "country",
            "NL"));
    order.put("service", "");
    order.put("arriveBy", null);
    order.put("payment", "PAID");
    order.put("shippingCharge", 595);
    order.put("discount", 0);
    order.put("instructions", "");
    order.put("giftMessage", "");
    order.put("lines", List.of(line));
    order.putAll(otherwise);
    return here.mara().post("/api/intake/by-hand", order);
  }
}
