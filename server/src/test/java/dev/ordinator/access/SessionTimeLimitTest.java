package dev.ordinator.access;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.testing.OwnWorld;
import dev.ordinator.testing.Visitor;
import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;

class SessionTimeLimitTest {
  @RegisterExtension static final OwnWorld here = new OwnWorld();

  @Test
  void aSessionEndsWhenALongDayIsOverHoweverBusyItIs() {
    Visitor vera = here.world().visitor("vera");
    assertThat(vera.get("/api/orders").status()).isEqualTo(200);
    long begun =
        Instant.now().minus(SessionTimeLimit.LONGEST).minus(Duration.ofMinutes(1)).toEpochMilli();
    here.world().db().execute("update SPRING_SESSION set CREATION_TIME = ?", begun);
    assertThat(vera.get("/api/orders").status()).isEqualTo(401);
  }
}
