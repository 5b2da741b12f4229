package dev.ordinator.core.routing;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.core.network.Node;
import java.util.List;
import java.util.Random;
import java.util.stream.IntStream;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;

/** The numbers of what orders share, and what is charged for them. */
class ShelvesTest {
  private final Random random = new Random(59);

  @Test
  void eachItemAtEachNodeHasANumberThatKnowsItsItem() {
    for (int round = 0; round < 200; round++) {
      RandomCase some = RandomCase.of(random, 4);
      Shelves shelves = new Shelves(some.situation(), List.of(some.order()));
      for (OrderDemand.Line line : some.order().lines()) {
        String sku = line.item().sku();
        for (Node node : some.network().nodes()) {
          int number = shelves.ofStock(node.code(), sku);
          long there = some.situation().offer(node.code(), sku).available();
          assertThat(number >= 0).as("%s of %s", sku, node.code()).isEqualTo(there > 0);
          if (number >= 0) {
            assertThat(shelves.have(number)).isEqualTo(there);
            assertThat(shelves.itemOf(number)).isEqualTo(shelves.item(sku));
            assertThat(shelves.base(number)).isEqualTo(number);
          }
        }
      }
      assertThat(IntStream.range(0, shelves.size()).filter(n -> shelves.itemOf(n) < 0))
          .as("places come first")
          .containsExactlyElementsOf(IntStream.range(0, some.places().size()).boxed().toList());
    }
  }

  @Test
  void whatAnItemIsChargedAnywhereIsTheLeastOfItsNodes() {
    int charged = 0;
    for (int round = 0; round < 200; round++) {
      RandomCase some = RandomCase.of(random, 4);
      Shelves shelves = new Shelves(some.situation(), List.of(some.order()));
      Charges charges = charges(shelves);
      for (OrderDemand.Line line : some.order().lines()) {
        String sku = line.item().sku();
        long least =
            some.network().nodes().stream()
                .filter(node -> shelves.ofStock(node.code(), sku) >= 0)
                .mapToLong(node -> charges.unit(node.code(), sku))
                .min()
                .orElse(0);
        assertThat(charges.anywhere(shelves.item(sku))).isEqualTo(least);
        charged += least > 0 ? 1 : 0;
      }
    }
    assertThat(charged).as("items that are charged wherever they lie").isGreaterThan(20);
  }

  @Test
  void chargesConcernWhoAsksForWhatIsCharged() {
    for (int round = 0; round < 200; round++) {
      RandomCase some = RandomCase.of(random, 4);
      Shelves shelves = new Shelves(some.situation(), List.of(some.order()));
      long[] one = new long[shelves.size()];
      for (int number = 0; number < one.length; number++) {
        one[number] = 1;
        Charges charges = new Charges(shelves, one.clone());
        for (int item = 0; item < shelves.items(); item++) {
          boolean isPlace = shelves.itemOf(number) < 0;
          assertThat(charges.concern(new int[] {item}))
              .isEqualTo(isPlace || shelves.itemOf(number) == item);
        }
        one[number] = 0;
      }
    }
  }

  private Charges charges(Shelves shelves) {
    return new Charges(
        shelves,
        LongStream.generate(() -> random.nextInt(4) == 0 ? 0 : random.nextInt(500))
            .limit(shelves.size())
            .toArray());
  }
}
