package dev.ordinator.core.allocation;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.util.OptionalLong;
import org.junit.jupiter.api.Test;

/** Room between places. */
class PlacesTest {
  @Test
  void thereIsRoomForTwentyBetweenTwoThatJoinedOneAfterTheOther() {
    long front = Places.first();
    long back = Places.behind(front);
    for (int i = 0; i < 20; i++) {
      OptionalLong between = Places.between(front, back);
      assertThat(between.orElseThrow()).isGreaterThan(front).isLessThan(back);
      back = between.getAsLong();
    }
    assertThat(Places.between(front, front + 1)).isEmpty();
    assertThat(Places.before(front)).isLessThan(front);
    assertThat(Places.ofNth(0)).isEqualTo(Places.first());
    assertThatThrownBy(() -> Places.between(2, 2)).isInstanceOf(IllegalArgumentException.class);
  }
}
