package dev.ordinator.bench;

import dev.ordinator.testing.Sample;
import dev.ordinator.testing.TestWorld;
import java.time.Duration;
import org.awaitility.Awaitility;
import org.jooq.impl.DSL;

/**
 * One channel sends 5,000 orders in a burst: alone, and while two others hang. The application is
 * at work as ever, so that what has come in is also checked, routed and released meanwhile.
 */
public final class BurstBench {
  private static final int ORDERS = 5_000;
  private static final int HANGING_MILLIS = 9_000;

  private BurstBench() {}

  public static void main(String[] args) throws Exception {
    burst(500, false); // what starts up is not what is measured
    double alone = burst(ORDERS, false);
    double beside = burst(ORDERS, true);
    System.out.println("| burst of 5,000 orders | all in (s) | ratio |");
    System.out.println("| --- | --- | --- |");
    System.out.printf("| alone | %.1f | 1.00 |%n", alone);
    System.out.printf("| while two channels hang | %.1f | %.2f |%n", beside, beside / alone);
  }

  private static double burst(int orders, boolean hanging) throws Exception {
    try (TestWorld world = TestWorld.installed()) {
      for (int i = 0; i < orders; i++) {
        world.shop().place(Sample.order("B" + i));
      }
      if (hanging) {
        world.standIns().market().faults().delay(HANGING_MILLIS);
        world.standIns().guild().faults().delay(HANGING_MILLIS);
      }
      world.addInstance();
      long began = System.nanoTime();
      Awaitility.await()
          .atMost(Duration.ofMinutes(10))
          .pollInterval(Duration.ofMillis(50))
          .until(() ->
              world
                      .db()
                      .fetchCount(DSL.table("sales_order"), DSL.condition("external_id like 'B%'"))
                  == orders);
      return (System.nanoTime() - began) / 1e9;
    }
  }
}
