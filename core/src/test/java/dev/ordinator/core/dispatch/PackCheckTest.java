package dev.ordinator.core.dispatch;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.core.dispatch.PackCheck.Line;
import dev.ordinator.core.dispatch.PackCheck.Scan;
import java.util.List;
import org.junit.jupiter.api.Test;

class PackCheckTest {
  private static final PackCheck CHECK =
      new PackCheck(
          List.of(
              new Line(1, "SMOKER", "4006381333931", 1, 0),
              new Line(2, "JAR-500", null, 2, 0),
              new Line(3, "SMOKER", "4006381333931", 1, 0)));

  private static PackCheck after(PackCheck check, String... codes) {
    PackCheck now = check;
    for (String code : codes) {
      now = ((Scan.Counted) now.scan(code)).after();
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
    assertThat(CHECK.scan("HIVE-TOOL")).isEqualTo(new Scan.WrongItem("HIVE-TOOL"));
    assertThat(CHECK.scan("")).isEqualTo(new Scan.WrongItem(""));
  }

  @Test
  void oneTooManyIsRefusedWithTheRightCount() {
    PackCheck full = after(CHECK, "SMOKER", "SMOKER");
    assertThat(full.scan("SMOKER")).isEqualTo(new Scan.TooMany("SMOKER", 2));
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
