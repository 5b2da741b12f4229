package dev.ordinator.core.stock;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.ordinator.core.catalog.Kit;
import dev.ordinator.core.catalog.Kit.Choice;
import dev.ordinator.core.catalog.Kit.Explode;
import dev.ordinator.core.catalog.Kit.Option;
import dev.ordinator.core.catalog.Kit.Part;
import dev.ordinator.core.catalog.KitBook;
import dev.ordinator.core.catalog.KitBook.Chosen;
import dev.ordinator.core.catalog.KitPrice;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

class KitStockTest {
  private static final KitBook BEES =
      KitBook.of(
          List.of(
              kit("HIVE", new Part("BODY", 1), new Part("FRAME", 11), new Part("ROOF", 1)),
              new Kit(
                  "FIRST-YEAR",
                  List.of(new Part("HIVE", 1), new Part("SMOKER", 1), new Part("FRAME", 1)),
                  List.of(
                      new Choice(
                          "Size",
                          1,
                          List.of(new Option("M", "SUIT-M"), new Option("L", "SUIT-L")))),
                  Explode.AT_ROUTING)));

  @Test
  void asManyKitsAsTheScarcestComponentAllowsAndThatOneIsNamed() {
    Map<String, Long> there = Map.of("BODY", 9L, "FRAME", 40L, "ROOF", 9L);
    assertThat(KitStock.available(BEES, "HIVE", Chosen.NOTHING, there)).isEqualTo(3);
    assertThat(KitStock.limiting(BEES, "HIVE", Chosen.NOTHING, there)).containsExactly("FRAME");
  }

  @Test
  void aComponentThatIsNeededTwiceInANestedKitCountsOnce() {
    Map<String, Long> there =
        Map.of("BODY", 9L, "ROOF", 9L, "SMOKER", 9L, "SUIT-M", 9L, "FRAME", 23L);
    Chosen medium = new Chosen(Map.of("Size", "SUIT-M"));
    assertThat(KitStock.available(BEES, "FIRST-YEAR", medium, there))
        .as("12 frames each")
        .isEqualTo(1);
    Map<String, Long> one = new HashMap<>(there);
    one.put("FRAME", 24L);
    assertThat(KitStock.available(BEES, "FIRST-YEAR", medium, one)).isEqualTo(2);
  }

  @Test
  void whatIsReadyMadeIsUsedFirstAlsoWithinAnotherKit() {
    Map<String, Long> there = Map.of("HIVE", 2L, "SMOKER", 5L, "SUIT-L", 5L, "FRAME", 5L);
    Chosen large = new Chosen(Map.of("Size", "SUIT-L"));
    assertThat(KitStock.available(BEES, "FIRST-YEAR", large, there)).isEqualTo(2);
    assertThat(new KitStock(BEES, there).take("FIRST-YEAR", 1, large).units())
        .isEqualTo(Map.of("HIVE", 1L, "SMOKER", 1L, "SUIT-L", 1L, "FRAME", 1L));
  }

  @Test
  void aKitThatGoesInPartsIsNeverSentReadyMadeButMayCompleteAnother() {
    KitBook book =
        KitBook.of(
            List.of(
                new Kit(
                    "STAND",
                    List.of(new Part("LEG", 4), new Part("TOP", 1)),
                    List.of(),
                    Explode.IN_PARTS),
                kit("YARD", new Part("STAND", 1), new Part("GATE", 1))));
    Map<String, Long> there = Map.of("STAND", 2L, "LEG", 4L, "TOP", 1L, "GATE", 9L);
    assertThat(KitStock.available(book, "STAND", Chosen.NOTHING, there)).isEqualTo(1);
    assertThat(new KitStock(book, there).take("STAND", 1, Chosen.NOTHING).units())
        .isEqualTo(Map.of("LEG", 4L, "TOP", 1L));
    assertThat(KitStock.available(book, "YARD", Chosen.NOTHING, there)).isEqualTo(3);
  }

  @Test
  void whileAChoiceIsOpenThereAreAsManyAsTheBestWayGives() {
    Map<String, Long> there =
        Map.of("HIVE", 9L, "SMOKER", 9L, "FRAME", 9L, "SUIT-M", 2L, "SUIT-L", 4L);
    assertThat(KitStock.available(BEES, "FIRST-YEAR", Chosen.NOTHING, there)).isEqualTo(4);
    assertThat(KitStock.limiting(BEES, "FIRST-YEAR", Chosen.NOTHING, there))
        .containsExactly("SUIT-L");
    assertThat(BEES.open("FIRST-YEAR", Chosen.NOTHING))
        .extracting(Choice::name)
        .containsExactly("Size");
  }

  @Test
  void whatOneLineTookIsGoneForTheNext() {
    KitStock stock = new KitStock(BEES, Map.of("BODY", 2L, "ROOF", 2L, "FRAME", 22L));
    assertThat(stock.take("FRAME", 1, Chosen.NOTHING).isWhole()).isTrue();
    assertThat(stock.take("HIVE", 2, Chosen.NOTHING).missing()).isEqualTo(Map.of("FRAME", 1L));
  }

  @Test
  void noKitContainsItself() {
    assertThatThrownBy(
            () -> BEES.with(kit("BODY", new Part("NAILS", 8), new Part("FIRST-YEAR", 1))))
        .isInstanceOf(KitBook.Circular.class)
        .hasMessageContaining("BODY → FIRST-YEAR → HIVE → BODY");
  }

  /** Against a search that tries every way of taking ready-made kits or components. */
  @Test
  void randomNestedKitsHaveWhatAnExhaustiveSearchFinds() {
    for (long seed = 0; seed < 2_000; seed++) {
      Random random = new Random(seed);
      List<String> skus = List.of("a", "b", "c", "d", "K1", "K2", "K3");
      List<Kit> kits = new ArrayList<>();
      for (int k = 4; k < skus.size(); k++) {
        List<Part> parts = new ArrayList<>();
        for (String sku : skus.subList(0, k)) {
          if (random.nextInt(3) == 0) {
            parts.add(new Part(sku, 1 + random.nextInt(2)));
          }
        }
        if (parts.isEmpty()) {
          parts.add(new Part("a", 1));
        }
        kits.add(new Kit(skus.get(k), parts, List.of(), Explode.AT_ROUTING));
      }
      KitBook book = KitBook.of(kits);
      Map<String, Long> there = new HashMap<>();
      skus.forEach(sku -> there.put(sku, (long) random.nextInt(sku.length() == 1 ? 7 : 2)));
      long most = 0;
      while (possible(book, Map.of("K3", most + 1), there)) {
        most++;
      }
      assertThat(KitStock.available(book, "K3", Chosen.NOTHING, there))
          .as("seed %d: %s of %s", seed, there, kits)
          .isEqualTo(most);
      KitStock.Take take = new KitStock(book, there).take("K3", most, Chosen.NOTHING);
      take.units().forEach((sku, units) -> assertThat(units).isLessThanOrEqualTo(there.get(sku)));
    }
  }

  private static boolean possible(KitBook book, Map<String, Long> wanted, Map<String, Long> there) {
    String sku =
        wanted.entrySet().stream()
            .filter(w -> w.getValue() > 0)
            .map(Map.Entry::getKey)
            .findFirst()
            .orElse(null);
    if (sku == null) {
      return true;
    }
    long need = wanted.getOrDefault(sku, 0L);
    Kit kit = book.kit(sku);
    for (long ready = Math.min(need, there.getOrDefault(sku, 0L)); ready >= 0; ready--) {
      if (kit == null && ready < need) {
        return false;
      }
      Map<String, Long> less = new HashMap<>(there);
      less.merge(sku, -ready, Long::sum);
      Map<String, Long> rest = new HashMap<>(wanted);
      rest.remove(sku);
      if (kit != null && need > ready) {
        for (Part part : kit.parts()) {
          rest.merge(part.sku(), part.quantity() * (need - ready), Long::sum);
        }
      }
      if (possible(book, rest, less)) {
        return true;
      }
    }
    return false;
  }

  @Test
  void aKitsPriceAlwaysComesToItsComponentsExactly() {
    for (long seed = 0; seed < 1_000; seed++) {
      Random random = new Random(seed);
      Map<String, Long> units = new HashMap<>();
      Map<String, Long> list = new HashMap<>();
      for (int i = 0; i <= random.nextInt(6); i++) {
        units.put("P" + i, 1L + random.nextInt(5));
        list.put("P" + i, (long) random.nextInt(5_000));
      }
      long price = random.nextInt(50_000);
      for (KitPrice.Way way : KitPrice.Way.values()) {
        KitPrice split = KitPrice.of(way, price, units, list);
        assertThat(split.parts().values().stream().mapToLong(Long::longValue).sum())
            .as("seed %d, %s", seed, way)
            .isEqualTo(price + split.discount());
      }
      assertThat(KitPrice.of(KitPrice.Way.BY_LIST_PRICE, price, units, list).discount()).isZero();
    }
  }

  private static Kit kit(String sku, Part... parts) {
    return new Kit(sku, List.of(parts), List.of(), Explode.AT_ROUTING);
  }
}
