package dev.ordinator.routing;

import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Sample;
import java.util.HashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

/** Routing stops for a channel or for all, and goes on where it stopped. */
class RoutingPausesTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  private static final String PAUSES = "/api/routing/pauses";

  @AfterEach
  void allGoOn() {
    here.mara().read(PAUSES).forEach(RoutingPausesTest::end);
  }

  @Test
  void ordersOfAPausedChannelWaitApprovedAndAreRoutedWhenItEnds() {
    assertThat(begin("WEB", "counting the shelves")).isEqualTo(204);
    here.world().shop().place(Sample.order("RP1", "BRUSH", 1));
    here.awaitStage("RP1", "APPROVED");
    await("it was looked at").until(() -> pause().path("waiting").asLong() == 1);
    assertThat(pause().path("reason").asString()).isEqualTo("counting the shelves");
    assertThat(pause().path("by").asString()).isEqualTo("Mara");

    end(pause());
    here.awaitStage("RP1", "RELEASED");
    assertThat(here.mara().read(PAUSES)).isEmpty();
  }

  @Test
  void ofAPausedNetworkNothingIsRoutedAndOtherChannelsPausesDontMatter() {
    assertThat(begin(null, "stocktaking")).isEqualTo(204);
    assertThat(begin(null, "again")).as("once is enough").isEqualTo(409);
    here.world().shop().place(Sample.order("RP2", "BRUSH", 1));
    here.awaitStage("RP2", "APPROVED");
    await("it waits").until(() -> pause().path("waiting").asLong() == 1);
    assertThat(begin("WEB", "its own reasons")).isEqualTo(204);
    end(pause());
    assertThat(here.awaitStage("RP2", "APPROVED").path("stage").asString())
        .as("its channel is paused still")
        .isEqualTo("APPROVED");
    end(pause());
    here.awaitStage("RP2", "RELEASED");
  }

  @Test
  void whatCantBeIsSaid() {
    assertThat(begin("NONE", "why not")).isEqualTo(422);
    assertThat(begin(null, " ")).isEqualTo(422);
    assertThat(here.mara().change("DELETE", PAUSES + "/999999", "").status()).isEqualTo(404);
  }

  private static int begin(@Nullable String channel, String reason) {
    Map<String, @Nullable String> wish = new HashMap<>();
    wish.put("channel", channel);
    wish.put("reason", reason);
    return here.mara().post(PAUSES, wish).status();
  }

  /** The first of them. */
  private static JsonNode pause() {
    return here.mara().read(PAUSES).get(0);
  }

  private static void end(JsonNode pause) {
    assertThat(here.mara().change("DELETE", PAUSES + "/" + pause.path("id").asLong(), "").status())
        .isEqualTo(204);
  }
}
