package dev.ordinator.views;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.testing.OwnWorld;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.JsonNode;

class SavedViewsTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @Test
  void aViewIsKeptUnderItsNameChangedAndForgotten() {
    assertThat(keep("stock", "Short jars", "category=jars&short=1")).isEqualTo(204);
    assertThat(keep("stock", "Short jars", "category=jars")).isEqualTo(204);
    assertThat(keep("stock", "x".repeat(61), "")).isEqualTo(422);
    assertThat(keep("backorders", "No day", "pile=NO_DAY")).isEqualTo(204);
    assertThat(keep("nothing", "Short jars", "")).isEqualTo(404);
    JsonNode all = here.mara().read("/api/views/stock");
    assertThat(all.size()).isEqualTo(1);
    assertThat(all.get(0).path("query").asString()).isEqualTo("category=jars");
    assertThat(all.get(0).path("madeBy").asString()).isEqualTo("Mara");
    assertThat(here.mara().read("/api/views/orders")).isEmpty();
    here.mara().change("DELETE", "/api/views/stock/Short%20jars", "");
    assertThat(here.mara().read("/api/views/stock")).isEmpty();
  }

  private static int keep(String view, String name, String query) {
    return here.mara()
        .change(
            "PUT", "/api/views/" + view + "/" + name.replace(" ", "%20"), Map.of("query", query))
        .status();
  }
}
