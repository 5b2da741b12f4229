package dev.ordinator.access;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.SoftAssertions.assertSoftly;

import dev.ordinator.testing.Sample;
import dev.ordinator.testing.TestWorld;
import dev.ordinator.testing.Visitor;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Who may ask for what, for every endpoint that the OpenAPI document names. */
class AccessTest {
  private static TestWorld world;
  private static List<Endpoint> endpoints;

  private record Endpoint(String method, String path) {
    boolean reads() {
      return method.equals("GET");
    }

    /** Logging in as a person is no use there. */
    boolean isForMachines() {
      return isFor("/api/machine") || isFor("/api/availability") || isFor("/api/promises");
    }

    boolean isFor(String start) {
      return path.startsWith(start);
    }
  }

  @BeforeAll
  static void start() throws Exception {
    world = TestWorld.fresh();
    endpoints = new ArrayList<>();
    world
        .visitor("mara")
        .read("/api/openapi.json")
        .path("paths")
        .properties()
        .forEach(path ->
            path.getValue()
                .propertyNames()
                .forEach(method ->
                    endpoints.add(
                        new Endpoint(
                            method.toUpperCase(Locale.ROOT),
                            path.getKey().replaceAll("\\{[^}]+}", "1")))));
    assertThat(endpoints).hasSizeGreaterThan(30);
  }

  @Test
  void whoeverIsNotLoggedInGets401AndNothingElse() {
    assertSoftly(all -> {
      for (Endpoint e : endpoints) {
        if (e.isFor("/api/setup")) {
          continue;
        }
        Visitor nobody = Visitor.anonymous(world.address());
        nobody.get("/api/setup"); // brings a CSRF token, so that this is not what stops it
        Visitor.Answer answer =
            e.reads() ? nobody.get(e.path()) : nobody.change(e.method(), e.path(), Map.of());
        all.assertThat(answer.status()).as("%s", e).isEqualTo(401);
        all.assertThat(answer.body().path("detail").asString())
            .as("%s", e)
            .isIn("you are not logged in", "no token that is known came with it");
      }
    });
  }

  @Test
  void theReaderChangesNothing() {
    Visitor vera = world.visitor("vera");
    assertSoftly(all -> {
      for (Endpoint e : endpoints) {
        boolean asks =
            e.isFor("/api/rulebook/trial")
                || e.isFor("/api/rulebook/expressions")
                || e.path().endsWith("/move/preview");
        if (!e.reads() && !e.isFor("/api/setup") && !asks) {
          all.assertThat(vera.change(e.method(), e.path(), Map.of()).status())
              .as("%s", e)
              .isEqualTo(e.isForMachines() ? 401 : 403);
        }
      }
    });
    assertThat(vera.get("/api/orders").status()).isEqualTo(200);
  }

  @Test
  void thePackerSeesOnlyWhatPackingNeedsAndOnlyTheOwnNode() {
    Visitor joss = world.visitor("joss");
    assertSoftly(all -> {
      for (Endpoint e : endpoints) {
        boolean open =
            e.isFor("/api/dispatch")
                || (e.reads() && e.path().matches("/api/counts(/[^/]+)?"))
                || e.path().matches("/api/counts/[^/]+/(found|finish)")
                || e.isFor("/api/session")
                || e.isFor("/api/live")
                || e.isFor("/api/setup");
        if (!open) {
          int status =
              e.reads()
                  ? joss.get(e.path()).status()
                  : joss.change(e.method(), e.path(), Map.of()).status();
          all.assertThat(status).as("%s", e).isEqualTo(e.isForMachines() ? 401 : 403);
        }
      }
    });
    assertThat(joss.read("/api/dispatch/board").path("nodes").size()).isEqualTo(1);

    // small, so that a store's cheap mail round wins
    world.shop().place(Sample.order("K1", "BRUSH", 1));
    Visitor mara = world.visitor("mara");
    TestWorld.await("it is released")
        .until(() -> mara.read("/api/dispatch/consignments").size() == 1);
    var card = mara.read("/api/dispatch/consignments").get(0);
    boolean own = card.path("nodeCode").asString().equals("STW");
    String path = "/api/dispatch/consignments/" + card.path("id").asLong();
    assertThat(joss.get(path).status()).isEqualTo(own ? 200 : 404);
    assertThat(joss.get(path + "/slip.pdf").status()).isEqualTo(own ? 200 : 404);
    assertThat(joss.post(path + "/scans", Map.of("code", "BRUSH")).status())
        .isEqualTo(own ? 200 : 404);
    assertThat(joss.read("/api/dispatch/consignments").size()).isEqualTo(own ? 1 : 0);
  }

  @Test
  void aChangeWithoutItsTokenIsRefused() {
    Visitor mara = world.visitor("mara");
    assertThat(mara.postRaw("/api/orders/1/approve", "", Map.of())).isEqualTo(403);
  }

  @Test
  void whoGuessesIsSlowedDownAndNobodyElseAndDoesNotLearnWhichNamesExist() {
    Visitor guesser = Visitor.anonymous(world.address());
    for (String name : List.of("vera", "nobody")) {
      for (int i = 0; i < 5; i++) {
        assertThat(guesser.logIn(name, "wrong-" + i)).as(name).isEqualTo(401);
      }
      assertThat(guesser.logIn(name, "only-looking-9")).as(name).isEqualTo(429);
    }
    Visitor vera = Visitor.anonymous(world.address(), "127.0.0.2");
    assertThat(vera.logIn("vera", "only-looking-9")).as("elsewhere").isEqualTo(204);
    world.db().execute("update login_failure set until = now(3) - interval 1 second");
    assertThat(guesser.logIn("vera", "only-looking-9")).as("after the pause").isEqualTo(204);
    for (int i = 0; i < 5; i++) {
      assertThat(guesser.logIn("vera", "wrong-" + i)).as("she got in since").isEqualTo(401);
    }
  }

  @Test
  void theFirstManagerIsCreatedOnceOnly() {
    Visitor late = Visitor.anonymous(world.address());
    late.get("/api/setup");
    assertThat(
            late.post(
                    "/api/setup",
                    Map.of("username", "eve", "displayName", "Eve", "password", "let-me-in-please"))
                .status())
        .isEqualTo(409);
  }

  @Test
  void unknownFilesAndPathsAreNotThePage() {
    Visitor nobody = Visitor.anonymous(world.address());
    assertThat(nobody.get("/assets/none.js").status()).isEqualTo(404);
    assertThat(nobody.get("/api/none").status()).isEqualTo(401);
    assertThat(world.visitor("mara").get("/api/none").status()).isEqualTo(404);
  }
}
