package dev.ordinator.platform;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.testing.TestWorld;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ObjectNode;

/** The web's types are made from web/openapi.json: it must say what the application says. */
class ApiDocumentTest {
  private static final Path KEPT = Path.of("..", "web", "openapi.json");
  private static final JsonMapper JSON =
      JsonMapper.builder().enable(SerializationFeature.INDENT_OUTPUT).build();

  @Test
  void theKeptDocumentIsTheOneThatTheApplicationAnswersWith() throws Exception {
    try (TestWorld world = TestWorld.fresh()) {
      var document = world.visitor("mara").read("/api/openapi.json");
      ((ObjectNode) document).remove("servers"); // names the port
      String now = JSON.writeValueAsString(document) + "\n";
      if (Boolean.getBoolean("openapi.write")) {
        Files.writeString(KEPT, now);
      }
      assertThat(Files.exists(KEPT) ? Files.readString(KEPT) : "")
          .as("write it again with -Dopenapi.write=true, then: npm run types (in web/)")
          .isEqualTo(now);
    }
  }
}
