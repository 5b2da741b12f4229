package dev.ordinator.intake;

import static dev.ordinator.schema.Tables.SALES_ORDER;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.platform.WebhookSignature;
import dev.ordinator.standins.Shop;
import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.Visitor;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import tools.jackson.databind.json.JsonMapper;

/** Identifiers of others are theirs, byte by byte. */
class IdentifiersTest {
  private static final JsonMapper JSON = JsonMapper.builder().build();

  /**
   * Unique keys that are compared without case and accents on purpose: two people, views, plans or
   * wordings that a reader can't tell apart at a glance would be mixed up by people.
   */
  private static final Set<String> FOR_PEOPLE =
      Set.of(
          "app_user.username", "saved_view.name", "allocation_plan.name", "service_word.wording");

  /** Spring Session's own: random, and made by itself. */
  private static final String SESSIONS = "SPRING_SESSION%";

  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @Test
  void ordersWhoseIdsDifferInCaseOrAccentsAreDifferentOrders() {
    List<String> ids = List.of("cAsE1", "CASE1", "case1", "cas\u00e91");
    ids.forEach(id -> send(order(id)));
    assertThat(buyers("cas")).containsOnlyKeys(ids);
    buyers("cas")
        .forEach((id, mail) -> assertThat(mail).isEqualTo("buyer-" + id + "@buyer.example"));
  }

  @Test
  void idsThatLookTheSameAreTheSameHoweverTheyAreEncoded() {
    send(order("p\u00e91"));
    send(order("pe\u03011"));
    send(order("  p\u00e91 "));
    assertThat(buyers("p")).containsOnlyKeys("p\u00e91");
  }

  @Test
  void everyUniqueKeyOnTextIsComparedByteByByteUnlessItIsForPeople() {
    List<String> blind =
        here.world()
            .db()
            .fetch(
                """
                select distinct concat(s.table_name, '.', s.column_name)
                from information_schema.statistics s
                join information_schema.columns c using (table_schema, table_name, column_name)
                where s.table_schema = database() and s.non_unique = 0
                  and c.collation_name is not null and c.collation_name not like '%\\_bin'
                  and s.table_name not like ?
                """,
                SESSIONS)
            .getValues(0, String.class);
    assertThat(blind).containsExactlyInAnyOrderElementsOf(FOR_PEOPLE);
  }

  private static Map<String, String> buyers(String prefix) {
    return here.world()
        .db()
        .select(SALES_ORDER.EXTERNAL_ID, SALES_ORDER.EMAIL)
        .from(SALES_ORDER)
        .where(SALES_ORDER.EXTERNAL_ID.startsWithIgnoreCase(prefix))
        .fetchMap(SALES_ORDER.EXTERNAL_ID, SALES_ORDER.EMAIL);
  }

  private static String order(String id) {
    return JSON.writeValueAsString(Sample.order(id));
  }

  private static void send(String body) {
    String id = "msg_" + System.nanoTime();
    String now = Long.toString(Instant.now().getEpochSecond());
    String signature =
        WebhookSignature.sign(Shop.WEBHOOK_SECRET, id, now, body.getBytes(StandardCharsets.UTF_8));
    int status =
        Visitor.anonymous(here.world().address())
            .postRaw(
                "/hooks/channels/WEB",
                body,
                Map.of("webhook-id", id, "webhook-timestamp", now, "webhook-signature", signature));
    assertThat(status).isEqualTo(204);
  }
}
