package dev.ordinator.desk;

import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.core.rules.OrderFacts;
import dev.ordinator.standins.ShopOrder;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Sample;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** The same buyer, the same goods, within hours. */
class OrderedTwiceTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @Test
  void bothAreMarkedAndStandBesideEachOtherUntilAPersonKeepsBoth() {
    long first = placed("TW1", "same-a", 2);
    long second = placed("TW2", "same-a", 2);
    placed("TW3", "same-a", 1);
    here.awaitMark("TW1", "ordered twice?");
    here.awaitMark("TW2", "ordered twice?");
    assertThat(here.order("TW3").path("marks").toString())
        .as("it has other goods")
        .doesNotContain("ordered twice?");
    assertThat(
            here.mara().read("/api/orders/" + first + "/twice").valueStream().map(JsonNode::asLong))
        .containsExactly(first, second);
    assertThat(sawTwice(first)).isFalse();
    assertThat(sawTwice(second)).as("what rules see").isTrue();
    assertThat(post(second, "/twice/keep-both")).isEqualTo(204);
    assertThat(post(second, "/twice/keep-both")).as("once").isEqualTo(409);
    assertThat(here.order("TW1").path("marks").toString()).doesNotContain("ordered twice?");
    here.awaitStage("TW2", "RELEASED");
  }

  @Test
  void withOneOfThemTheQuestionIsGone() {
    placed("TW4", "same-b", 1);
    long second = placed("TW5", "same-b", 1);
    here.awaitMark("TW4", "ordered twice?");
    assertThat(
            here.mara()
                .post("/api/orders/" + second + "/cancel", Map.of("reason", "twice"))
                .status())
        .isEqualTo(204);
    await("nobody asks any more")
        .until(() -> !here.order("TW4").path("marks").toString().contains("ordered twice?"));
    placed("TW6", "other-buyer", 1);
    assertThat(here.order("TW6").path("marks").toString()).doesNotContain("ordered twice?");
  }

  private static long placed(String id, String buyer, long units) {
    ShopOrder order = Sample.order(id, "TOOL-J", units);
    here.world().shop().place(order.by(buyer + "@buyer.example"));
    return here.awaitStage(id, "RELEASED").path("id").asLong();
  }

  private static int post(long id, String what) {
    return here.mara().post("/api/orders/" + id + what, "").status();
  }

  private static boolean sawTwice(long id) {
    return here.world().bean(OrderFactsReader.class).now(List.of(id), false).values().stream()
        .allMatch(OrderFacts::orderedTwice);
  }
}
