package dev.ordinator.core.catalog;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatIllegalArgumentException;

import dev.ordinator.core.catalog.Whole.Piece;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** How many of what was ordered there are whole. */
class WholeTest {

  @Test
  void aCaseOfTwelveNeedsTwelve() {
    assertThat(Whole.units(Map.of(1L, 11L), Map.of(1L, 12L))).isZero();
    assertThat(Whole.units(Map.of(1L, 25L), Map.of(1L, 12L))).isEqualTo(2);
  }

  @Test
  void aKitNeedsAllItsComponents() {
    Map<Long, Long> kit = Map.of(1L, 1L, 2L, 11L);
    assertThat(Whole.units(Map.of(1L, 2L, 2L, 22L), kit)).isEqualTo(2);
    assertThat(Whole.units(Map.of(1L, 2L, 2L, 21L), kit)).isEqualTo(1);
    assertThat(Whole.units(Map.of(2L, 22L), kit)).as("the other never came").isZero();
    assertThat(Whole.units(Map.of(1L, 1L, 2L, 11L, 3L, 4L), kit)).as("and more").isEqualTo(1);
  }

  @Test
  void soManyCanBeMadeOfWhatCameAndNoMore() {
    Random random = new Random(3);
    for (int round = 0; round < 2_000; round++) {
      Map<Long, Long> one = new HashMap<>();
      Map<Long, Long> came = new HashMap<>();
      for (long item = 0; item <= random.nextInt(4); item++) {
        one.put(item, 1L + random.nextInt(5));
        came.put(item, (long) random.nextInt(30));
      }
      long whole = Whole.units(came, one);
      assertThat(one)
          .allSatisfy((item, each) -> assertThat(whole * each).isLessThanOrEqualTo(came.get(item)));
      assertThat(one)
          .as("for one more something lacks")
          .anySatisfy((item, each) -> assertThat((whole + 1) * each).isGreaterThan(came.get(item)));
    }
  }

  @Test
  void eachPieceBearsWhatItCompletesSoTheyAddUp() {
    Map<Long, Long> kit = Map.of(1L, 1L, 2L, 2L);
    List<Piece> pieces =
        List.of(new Piece(1, 3), new Piece(2, 3), new Piece(2, 3), new Piece(1, 1));
    assertThat(Whole.completedBy(pieces, kit)).containsExactly(0L, 1L, 2L, 0L);
    Random random = new Random(4);
    for (int round = 0; round < 500; round++) {
      List<Piece> some = new ArrayList<>();
      Map<Long, Long> there = new HashMap<>();
      for (int p = 0; p < 8; p++) {
        Piece piece = new Piece(1 + random.nextInt(2), random.nextInt(4));
        some.add(piece);
        there.merge(piece.item(), piece.units(), Long::sum);
        assertThat(Whole.completedBy(some, kit).stream().mapToLong(Long::longValue).sum())
            .isEqualTo(Whole.units(there, kit));
      }
    }
  }

  @Test
  void whatHasNoItemsIsNothing() {
    assertThatIllegalArgumentException().isThrownBy(() -> Whole.units(Map.of(), Map.of()));
  }
}
