package dev.ordinator.e2e;

import static com.microsoft.playwright.assertions.PlaywrightAssertions.assertThat;

import dev.ordinator.testing.Caller;
import dev.ordinator.testing.Ear;
import org.assertj.core.api.Assertions;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;

/** A system that calls us is connected, and hears what becomes of its orders. */
@ExtendWith(Stage.class)
class CallersJourneyTest {
  private static final String ORDER =
      """
      {"id":"TILL-1","placedAt":"2026-11-25T09:00:00Z","buyer":{"name":"Marit"},"service":"",
       "shipTo":{"name":"Marit","street":"Lindepad 12","postcode":"1012 AB","city":"Amsterdam",
       "country":"NL"},"payment":{"state":"PAID"},
       "lines":[{"id":"1","sku":"BRUSH","quantity":1,"price":500}]}
      """;

  @Test
  void aTillIsConnectedGivenATokenAndToldOfACancellation() throws Exception {
    try (Desk mara = Stage.desk("mara");
        Ear ear = new Ear()) {
      mara.go("/channels");
      mara.click("Connect a channel…");
      mara.page().getByText("Another system").click();
      mara.field("Name").fill("Till at the fair");
      mara.field("Short code").fill("till");
      mara.field("Number prefix").fill("TF-");
      mara.click("Begin");
      assertThat(mara.page().locator("dialog")).hasCount(0);
      mara.click("Keep that");
      assertThat(mara.row("Till at the fair")).containsText("when it calls");

      mara.click("Make a token…");
      mara.field("Who will use it?").fill("The till");
      mara.isAccessible();
      mara.click("Make the token");
      String token = mara.page().locator("dialog code").textContent();
      mara.click("Done");
      assertThat(mara.page().locator("dialog")).hasCount(0);
      assertThat(mara.row("The till")).containsText("…" + token.substring(token.length() - 4));

      mara.click("Add an address…");
      mara.field("Address").fill(ear.address());
      mara.isAccessible();
      mara.click("Add it");
      mara.sees("With this each message is signed");
      mara.click("Done");
      assertThat(mara.page().locator("dialog")).hasCount(0);
      mara.click("Tell it…");
      mara.click("Tell it from now on");
      mara.isAccessible();

      Caller till = new Caller(Stage.world().address(), token);
      Assertions.assertThat(till.post("/api/machine/orders", "1", ORDER).status()).isEqualTo(201);
      ear.fail(1, 500);
      till.change("POST", "/api/machine/orders/TILL-1/cancel", "");
      mara.click("What was said");
      assertThat(mara.row("order.cancelled")).containsText("✓ 204");
      mara.row("order.cancelled").getByText("order.cancelled").click();
      mara.sees("\"type\":\"order.cancelled\"");
      mara.isAccessible();
      mara.row("order.cancelled").getByText("Send again").click();
      mara.sees("Sent again, under the same id");

      mara.click("Tokens and webhooks");
      mara.row("The till").getByText("Revoke").click();
      assertThat(mara.row("The till")).containsText("revoked");
      Assertions.assertThat(till.get("/api/machine/orders/TILL-1").status()).isEqualTo(401);
    }
  }
}
