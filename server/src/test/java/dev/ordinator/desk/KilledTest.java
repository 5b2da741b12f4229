package dev.ordinator.desk;

import static dev.ordinator.schema.Tables.ALLOCATION;
import static dev.ordinator.schema.Tables.EVENT;
import static dev.ordinator.schema.Tables.OUTBOX;
import static dev.ordinator.schema.Tables.PARCEL;
import static dev.ordinator.schema.Tables.SALES_ORDER;
import static dev.ordinator.schema.Tables.STOCK_MOVEMENT;
import static dev.ordinator.testing.TestWorld.await;
import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.stock.LedgerCheck;
import dev.ordinator.testing.ApplicationProcess;
import dev.ordinator.testing.KillPoint;
import dev.ordinator.testing.Packer;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.TestWorld;
import dev.ordinator.testing.Visitor;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import org.junit.jupiter.api.Test;

/** kill -9 in the middle of each step of one order's way. */
class KilledTest {
  private static final List<String> POINTS =
      List.of(
          "RECEIVED",
          "ALLOCATED",
          "RELEASED",
          "PACKED",
          "HANDED_OVER",
          "TOLD_CHANNEL",
          "TOLD_BUYER",
          "DELIVERED");

  @Test
  void anOrderWhoseApplicationIsKilledAtEachOfEightStepsIsDeliveredAndEverythingHappensOnce()
      throws Exception {
    try (TestWorld world = TestWorld.installed();
        KillPoint point = new KillPoint(world.url())) {
      world.standIns().carrier().pace(Duration.ofDays(1));
      world.shop().place(Sample.order("K", "SMOKER-L", 2));
      for (String kind : POINTS) {
        if (kind.equals("DELIVERED")) {
          world.standIns().carrier().paceAll(Duration.ZERO);
        }
        point.set(kind);
        try (ApplicationProcess application = world.process()) {
          CompletableFuture<Void> person = CompletableFuture.runAsync(() -> pack(application));
          await("the application stands before " + kind).until(point::isReached);
          application.kill();
          person.exceptionally(cutOff -> null).join();
        }
        point.lift();
      }

      try (ApplicationProcess application = world.process()) {
        await("it is delivered")
            .until(() -> world.db().fetchExists(SALES_ORDER, SALES_ORDER.STAGE.eq("DELIVERED")));
        await("everybody is told")
            .until(() -> world.db().fetchCount(OUTBOX, OUTBOX.STATE.eq("DONE")) == 2);
      }

      assertThat(world.db().fetchCount(SALES_ORDER)).isEqualTo(1);
      assertThat(world.standIns().carrier().parcels()).as("one label").hasSize(1);
      assertThat(world.shop().told().shipments()).as("one write-back").hasSize(1);
      assertThat(world.standIns().mailbox().mails()).as("one mail").hasSize(1);
      assertThat(world.db().fetchCount(PARCEL)).isEqualTo(1);
      assertThat(world.db().fetchCount(ALLOCATION)).isEqualTo(1);
      assertThat(world.db().fetchCount(STOCK_MOVEMENT, STOCK_MOVEMENT.REASON.eq("HAND_OVER")))
          .isEqualTo(1);
      for (String kind : POINTS) {
        assertThat(world.db().fetchCount(EVENT, EVENT.KIND.eq(kind))).as(kind).isEqualTo(1);
      }
      world.addInstance("--ordinator.working=false");
      assertThat(world.bean(LedgerCheck.class).discrepancies()).isEmpty();
    }
  }

  /** A packer at work: takes the order up where it stands, as soon as it is released. */
  private static void pack(ApplicationProcess application) {
    Visitor mara = Visitor.loggedIn(application.address(), "mara");
    await("it is released").until(() -> !mara.read("/api/dispatch/consignments").isEmpty());
    Packer.packAndHandOver(
        mara, mara.read("/api/dispatch/consignments").get(0).path("orderId").asLong());
  }
}
