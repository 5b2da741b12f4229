package dev.ordinator.channels;

import static dev.ordinator.schema.Tables.CHANNEL;
import static dev.ordinator.schema.Tables.EVENT;
import static dev.ordinator.schema.Tables.EXCHANGE;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import ch.qos.logback.classic.Level;
import ch.qos.logback.classic.Logger;
import ch.qos.logback.classic.spi.ILoggingEvent;
import ch.qos.logback.core.read.ListAppender;
import dev.ordinator.standins.Guild;
import dev.ordinator.standins.Market;
import dev.ordinator.standins.Shop;
import dev.ordinator.testing.FarSide;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Sample;
import java.nio.charset.StandardCharsets;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.slf4j.LoggerFactory;
import tools.jackson.databind.JsonNode;

/** A connection and its settings. */
class ConnectionTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @Test
  void secretsAreEncryptedAndNeverShown() {
    ListAppender<ILoggingEvent> log = new ListAppender<>();
    log.start();
    Logger ours = (Logger) LoggerFactory.getLogger("dev.ordinator");
    Level before = ours.getLevel();
    ours.setLevel(Level.TRACE);
    ours.addAppender(log);
    FarSide.all(here.world()).forEach(side -> side.faults().failNext(1));
    await("failures are logged")
        .until(() ->
            List.copyOf(log.list).stream()
                    .filter(e -> e.getFormattedMessage().startsWith("pull from"))
                    .count()
                >= 3);
    ours.detachAppender(log);
    ours.setLevel(before);
    List<String> secrets =
        List.of(
            Shop.API_KEY,
            Shop.WEBHOOK_SECRET,
            Market.CLIENT_SECRET,
            Guild.KEY,
            Guild.SIGNING_SECRET);
    await("all connections have been used")
        .until(() ->
            here.world()
                    .db()
                    .select(EXCHANGE.CHANNEL_ID)
                    .from(EXCHANGE)
                    .fetchSet(EXCHANGE.CHANNEL_ID)
                    .size()
                == 3);
    StringBuilder everything = new StringBuilder();
    here.world()
        .db()
        .select(CHANNEL.SECRET, CHANNEL.WEBHOOK_SECRET)
        .from(CHANNEL)
        .forEach(r ->
            everything
                .append(new String(r.value1(), StandardCharsets.ISO_8859_1))
                .append(new String(r.value2(), StandardCharsets.ISO_8859_1)));
    for (JsonNode channel : here.mara().read("/api/channels")) {
      everything.append(channel);
      everything.append(here.mara().read("/api/channels/" + channel.path("id") + "/exchanges"));
    }
    for (String export : List.of("/api/orders/csv?pile=ALL", "/api/listings/csv?channel=1")) {
      everything.append(here.mara().raw(export).body());
    }
    log.list.forEach(e -> everything.append(e.getFormattedMessage()));
    here.world().db().selectFrom(EVENT).forEach(everything::append);
    here.world().db().selectFrom(EXCHANGE).forEach(everything::append);
    assertThat(everything.toString())
        .contains("/oauth/token", "pull from")
        .doesNotContain(secrets)
        .doesNotContain("access_token");
  }

  @Test
  void whoChangesWhatAnotherHasChangedMeanwhileIsToldSo() {
    JsonNode seen = card();
    assertThat(change(seen, "intervalSeconds", 2)).isEqualTo(200);
    assertThat(change(seen, "writesBack", false)).as("seen is older by now").isEqualTo(412);
    assertThat(card().path("writesBack").asBoolean()).isTrue();
    assertThat(change(card(), "intervalSeconds", 0)).isEqualTo(422);
    assertThat(change(card(), "intervalSeconds", 1)).isEqualTo(200);
  }

  @Test
  void aPausedConnectionFetchesNothingUntilItGoesOn() {
    here.world().shop().webhooks().sendTo("");
    assertThat(change(card(), "paused", true)).isEqualTo(200);
    here.world().shop().place(Sample.order("CN1"));
    String pull = "/api/channels/" + card().path("id").asLong() + "/pull";
    assertThat(here.mara().post(pull, "").status()).as("not even by hand").isEqualTo(409);
    assertThat(here.world().db().fetchExists(SALES_ORDER, SALES_ORDER.EXTERNAL_ID.eq("CN1")))
        .isFalse();

    assertThat(change(card(), "paused", false)).isEqualTo(200);
    await("it is fetched then")
        .until(() -> here.world().db().fetchExists(SALES_ORDER, SALES_ORDER.EXTERNAL_ID.eq("CN1")));
  }

  private static JsonNode card() {
    return here.mara().read("/api/channels").get(0);
  }

  private static int change(JsonNode seen, String field, Object value) {
    Map<String, Object> patch = new HashMap<>();
    patch.put("version", seen.path("version").asInt());
    patch.put(field, value);
    return here.mara().change("PATCH", "/api/channels/" + seen.path("id").asLong(), patch).status();
  }
}
