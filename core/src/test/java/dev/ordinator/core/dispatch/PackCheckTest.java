package dev.ordinator.core.dispatch;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.core.dispatch.PackCheck.Line;
import dev.ordinator.core.dispatch.PackCheck.Scan;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

class PackCheckTest {
  private static final PackCheck CHECK =
      new PackCheck(
          List.of(
              line(1, "SMOKER", "4006381333931", 1),
              line(2, "JAR-500", null, 2),
              line(3, "SMOKER", "4006381333931", 1)));

  private static Line line(long id, String sku, @Nullable String gtin, long quantity) {
    return new Line(id, sku, gtin, quantity, 0, false, Set.of());
  }

  private static PackCheck after(PackCheck check, String... codes) {
    PackCheck now = check;
    for (String code : codes) {
      now = ((Scan.Counted) now.scan(code, null)).after();
    }
    return now;
  }

  @Test
  void skuAndGtinBothCountAndLinesOfOneItemFillOneAfterTheOther() {
    PackCheck all = after(CHECK, "jar-500", "04006381333931", "4006381333931", "JAR-500");
    assertThat(all.complete()).isTrue();
    assertThat(after(CHECK, "JAR-500").complete()).isFalse();
  }

  @Test
  void aWrongItemIsNamed() {
    assertThat(CHECK.scan("HIVE-TOOL", null)).isEqualTo(new Scan.WrongItem("HIVE-TOOL"));
    assertThat(CHECK.scan("", null)).isEqualTo(new Scan.WrongItem(""));
  }

  @Test
  void oneTooManyIsRefusedWithTheRightCount() {
    PackCheck full = after(CHECK, "SMOKER", "SMOKER");
    assertThat(full.scan("SMOKER", null)).isEqualTo(new Scan.TooMany("SMOKER", 2));
  }

  @Test
  void aUnitWithASerialNumberCountsOnceTheNumberIsScanned() {
    PackCheck check =
        new PackCheck(List.of(new Line(1, "EX-3M", "4006381333931", 1, 0, true, Set.of())));
    assertThat(check.scan("4006381333931", null)).isEqualTo(new Scan.NeedsSerial("EX-3M"));
    PackCheck full = ((Scan.Counted) check.scan("ex-3m", "X-0017")).after();
    assertThat(full.complete()).isTrue();
    assertThat(full.scan("EX-3M", "X-0018")).isEqualTo(new Scan.TooMany("EX-3M", 1));
  }

  @Test
  void aWrongLotIsNamedTogetherWithTheRightOnes() {
    PackCheck check =
        new PackCheck(
            List.of(
                new Line(1, "SYRUP-2", null, 1, 0, false, Set.of("S-11")),
                new Line(2, "SYRUP-2", null, 1, 0, false, Set.of("S-12"))));
    assertThat(check.scan("SYRUP-2", "S-09"))
        .isEqualTo(new Scan.WrongLot("SYRUP-2", "S-09", Set.of("S-11", "S-12")));
    PackCheck half = ((Scan.Counted) check.scan("SYRUP-2", "s-12")).after();
    assertThat(half.scan("SYRUP-2", "S-12"))
        .isEqualTo(new Scan.WrongLot("SYRUP-2", "S-12", Set.of("S-11")));
    assertThat(half.scan("SYRUP-2", null)).isInstanceOf(Scan.Counted.class);
  }

  @Test
  void goodsLeaveOnceTheirMomentHasComeAndNotBefore() {
    assertThat(LeaveMoment.PACK.hasComeAt(LeaveMoment.RELEASE)).isFalse();
    assertThat(LeaveMoment.PACK.hasComeAt(LeaveMoment.PACK)).isTrue();
    assertThat(LeaveMoment.RELEASE.hasComeAt(LeaveMoment.HAND_OVER)).isTrue();
  }

  @Test
  void statesFollowOneAnotherOnlyForwards() {
    assertThat(ConsignmentState.RELEASED.mayBecome(ConsignmentState.PACKED)).isTrue();
    assertThat(ConsignmentState.RELEASED.mayBecome(ConsignmentState.HANDED_OVER)).isFalse();
    assertThat(ConsignmentState.HANDED_OVER.mayBecome(ConsignmentState.DELIVERED)).isTrue();
    assertThat(ConsignmentState.HANDED_OVER.mayBecome(ConsignmentState.RECALLED)).isFalse();
    for (ConsignmentState next : ConsignmentState.values()) {
      assertThat(ConsignmentState.DELIVERED.mayBecome(next)).isFalse();
    }
    assertThat(ConsignmentState.RECALLED.reached(ConsignmentState.PLANNED)).isFalse();
  }
}
