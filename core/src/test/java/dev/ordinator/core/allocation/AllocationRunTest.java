package dev.ordinator.core.allocation;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.core.allocation.AllocationRun.At;
import dev.ordinator.core.allocation.AllocationRun.Given;
import dev.ordinator.core.allocation.AllocationRun.Kit;
import dev.ordinator.core.allocation.AllocationRun.Line;
import dev.ordinator.core.allocation.AllocationRun.Part;
import dev.ordinator.core.allocation.AllocationRun.Pool;
import dev.ordinator.core.allocation.AllocationRun.Settings;
import dev.ordinator.core.allocation.AllocationRun.Shelf;
import dev.ordinator.core.allocation.AllocationRun.Stock;
import dev.ordinator.core.allocation.AllocationRun.Way;
import dev.ordinator.core.allocation.AllocationRun.Why;
import dev.ordinator.core.allocation.Service.By;
import dev.ordinator.core.stock.LotPick;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** Who gets what when many want it at once. */
class AllocationRunTest {
  private static final long FRAMES = 1;
  private static final long FOUNDATION = 2;
  private static final long KIT = 3;
  private static final long STILLWATER = 11;
  private static final long CANAL_ROW = 12;
  private static final Settings BY_ORDER =
      new Settings(Way.BY_ORDER, List.of(By.PRIORITY, By.AGE), false);
  private static final Settings ITEM_BY_AGE = new Settings(Way.BY_ITEM, List.of(By.AGE), false);
  private static final LocalDate TODAY = LocalDate.of(2026, 11, 27);
  private static final Settings SHARED =
      new Settings(Way.BY_ITEM, List.of(By.PRIORITY, By.AGE), true);

  @Test
  void aHigherClassIsServedFirstAndOfOneClassTheOldest() {
    List<Given> given =
        run(
            BY_ORDER,
            List.of(line(1, FRAMES, 4, 5), line(2, FRAMES, 4, 5), line(3, FRAMES, 4, 1)),
            Map.of(free(FRAMES, STILLWATER), 9L));
    assertThat(units(given)).isEqualTo(Map.of(3L, 4L, 1L, 4L, 2L, 1L));
    assertThat(given).extracting(Given::why).containsExactly(Why.FULL, Why.FULL, Why.PART);
  }

  @Test
  void anOrderThatIsSentWholeGetsAllOrNothingAndWhatItHadGoesToTheNext() {
    List<Line> lines = List.of(whole(1, FRAMES, 4), whole(1, FOUNDATION, 3), line(2, FRAMES, 4, 5));
    Map<Pool, Long> stock = Map.of(free(FRAMES, STILLWATER), 5L, free(FOUNDATION, STILLWATER), 2L);
    List<Given> given = run(BY_ORDER, lines, stock);
    assertThat(given)
        .extracting(Given::why)
        .containsExactly(Why.ORDER_NOT_WHOLE, Why.TOO_FEW, Why.FULL);
    assertThat(units(run(SHARED, lines, stock))).isEqualTo(Map.of(1L, 0L, 2L, 4L));
  }

  @Test
  void whatFitsIsGivenToWhoWasTakenOutForAnother() {
    List<Line> lines =
        List.of(whole(1, FRAMES, 8), whole(2, FRAMES, 6), whole(3, FRAMES, 4), whole(4, FRAMES, 1));
    List<Given> given = run(ITEM_BY_AGE, lines, Map.of(free(FRAMES, STILLWATER), 12L));
    assertThat(units(given)).isEqualTo(Map.of(1L, 8L, 2L, 0L, 3L, 4L, 4L, 0L));
    assertThat(given)
        .extracting(Given::why)
        .as("four were left for the six")
        .containsExactly(Why.FULL, Why.TOO_FEW, Why.FULL, Why.NONE_LEFT);
  }

  @Test
  void aRunItemByItemLeavesNothingThatASingleOrderCouldHaveWhole() {
    Random random = new Random(13);
    for (int i = 0; i < 3_000; i++) {
      List<Line> lines = new ArrayList<>();
      for (int order = 1 + random.nextInt(6); order > 0; order--) {
        lines.add(whole(order, random.nextBoolean() ? FRAMES : FOUNDATION, 1 + random.nextInt(7)));
        if (random.nextBoolean()) {
          lines.add(whole(order, KIT, 1 + random.nextInt(4)));
        }
      }
      Map<Pool, Long> stock = new HashMap<>();
      List.of(FRAMES, FOUNDATION, KIT)
          .forEach(item -> stock.put(free(item, STILLWATER), (long) random.nextInt(16)));
      List<Given> given = run(ITEM_BY_AGE, lines, stock);
      Map<Long, Long> left = new HashMap<>();
      stock.forEach((pool, units) -> left.put(pool.item(), units));
      given.forEach(g -> left.merge(g.line().item(), -g.units(), Long::sum));
      Map<Long, List<Given>> byOrder =
          given.stream().collect(Collectors.groupingBy(g -> g.line().order()));
      byOrder.forEach((order, its) -> {
        boolean got = its.stream().allMatch(g -> g.units() == g.line().units());
        boolean fits =
            its.stream().allMatch(g -> left.getOrDefault(g.line().item(), 0L) >= g.line().units());
        assertThat(got || !fits).as("order %d, %s of %s", order, left, given).isTrue();
        assertThat(left.values()).allMatch(units -> units >= 0);
      });
    }
  }

  @Test
  void aScarceItemIsSharedByLargestRemainderWithinItsClass() {
    List<Given> given =
        run(
            SHARED,
            List.of(
                line(1, FRAMES, 10, 5),
                line(2, FRAMES, 7, 5),
                line(3, FRAMES, 3, 5),
                line(4, FRAMES, 2, 1)),
            Map.of(free(FRAMES, STILLWATER), 9L, free(FRAMES, CANAL_ROW), 2L));
    // 2 for the class above; of the other 9: 4.5, 3.15, 1.35
    assertThat(units(given)).isEqualTo(Map.of(4L, 2L, 1L, 5L, 2L, 3L, 3L, 1L));
    assertThat(given).extracting(Given::why).contains(Why.SHARE);
  }

  @Test
  void anOrderIsGivenAllFromOneNodeIfOneHasIt() {
    List<Given> given =
        run(
            BY_ORDER,
            List.of(line(1, FRAMES, 3, 5), line(1, FOUNDATION, 3, 5)),
            Map.of(
                free(FRAMES, STILLWATER), 9L,
                free(FRAMES, CANAL_ROW), 3L,
                free(FOUNDATION, CANAL_ROW), 3L));
    assertThat(given.stream().flatMap(g -> g.parts().stream()).map(p -> p.pool().node()))
        .containsOnly(CANAL_ROW);
  }

  @Test
  void whatIsSetAsideIsTakenFirstByThoseForWhomItIsAndByNobodyElse() {
    Pool theirs = new Pool(FRAMES, STILLWATER, 77);
    Line owner = of(1, 1, FRAMES, 5).owner(77).line();
    List<Given> given =
        run(
            BY_ORDER,
            List.of(owner, line(2, FRAMES, 5, 5)),
            Map.of(theirs, 4L, free(FRAMES, STILLWATER), 3L));
    assertThat(given.getFirst().parts())
        .containsExactly(new Part(theirs, 0, 4), new Part(free(FRAMES, STILLWATER), 0, 1));
    assertThat(given.getLast().units()).isEqualTo(2);
  }

  @Test
  void theOrderOfServiceIsAsItIsChosen() {
    Line old = served(1, false, 30, 100);
    Line dear = served(2, false, 20, 900);
    Line due = served(3, false, 10, 100);
    Line wasShort = served(4, true, 40, 100);
    assertThat(first(By.AGE, old, dear, due, wasShort)).isEqualTo(old);
    assertThat(first(By.VALUE, old, dear, due, wasShort)).isEqualTo(dear);
    assertThat(first(By.LATEST_START, old, dear, due, wasShort)).isEqualTo(due);
    assertThat(first(By.SHORT_FIRST, old, dear, due, wasShort)).isEqualTo(wasShort);
  }

  @Test
  void aLotIsNamedByItsRuleAndOneThatWouldNotLastIsLeft() {
    Stock stock =
        new Stock(
            Map.of(free(FRAMES, STILLWATER), 10L),
            Map.of(
                new At(FRAMES, STILLWATER),
                new Shelf(
                    new LotPick.Rule(LotPick.Order.FEFO, false, 10),
                    List.of(
                        held(1, TODAY.plusDays(40), 4),
                        held(2, TODAY.plusDays(20), 3),
                        held(3, TODAY.plusDays(12), 3)))));
    Line soon = of(1, 1, FRAMES, 4).arriving(TODAY.plusDays(2)).line();
    Line later = of(2, 2, FRAMES, 9).arriving(TODAY.plusDays(9)).line();
    for (Settings settings : List.of(BY_ORDER, ITEM_BY_AGE)) {
      List<Given> given = AllocationRun.run(settings, List.of(soon, later), stock);
      Pool pool = free(FRAMES, STILLWATER);
      assertThat(given.getFirst().parts())
          .containsExactly(new Part(pool, 3, 3), new Part(pool, 2, 1));
      // the third would last three days after it arrives, and ten are asked for
      assertThat(given.getLast().parts())
          .containsExactly(new Part(pool, 2, 2), new Part(pool, 1, 4));
    }
  }

  @Test
  void aKitGetsAllOfItsComponentsFromOneNodeOrNothing() {
    Kit starter = kit(Map.of(FRAMES, 2L, FOUNDATION, 1L));
    Map<Pool, Long> stock =
        Map.of(
            free(FRAMES, STILLWATER), 9L,
            free(FRAMES, CANAL_ROW), 4L,
            free(FOUNDATION, CANAL_ROW), 2L);
    List<Given> given =
        run(
            BY_ORDER,
            List.of(
                of(1, 1, KIT, 1).kit(kit(Map.of(FRAMES, 5L, FOUNDATION, 1L))).line(),
                of(2, 2, KIT, 1).kit(starter).line()),
            stock);
    assertThat(given).extracting(Given::units).containsExactly(0L, 1L);
    assertThat(given.getLast().parts())
        .containsExactly(
            new Part(free(FRAMES, CANAL_ROW), 0, 2), new Part(free(FOUNDATION, CANAL_ROW), 0, 1));
  }

  @Test
  void itemByItemKitsGetNothingNorDoesTheRestOfAnOrderThatIsSentWhole() {
    Kit starter = kit(Map.of(FRAMES, 1L));
    List<Given> given =
        run(
            SHARED,
            List.of(
                of(1, 1, KIT, 1).kit(starter).whole(true).line(),
                of(1, 2, FRAMES, 1).whole(true).line(),
                of(2, 3, FRAMES, 1).line()),
            Map.of(free(FRAMES, STILLWATER), 9L));
    assertThat(given)
        .extracting(Given::why)
        .containsExactly(Why.KIT, Why.ORDER_NOT_WHOLE, Why.FULL);
  }

  /** So many of each are needed for all that its line wants. */
  private static Kit kit(Map<Long, Long> needs) {
    return new Kit() {
      @Override
      public Set<Long> items() {
        return needs.keySet();
      }

      @Override
      public Map<Long, Long> outOf(Map<Long, Long> there) {
        return needs.entrySet().stream()
                .allMatch(e -> there.getOrDefault(e.getKey(), 0L) >= e.getValue())
            ? needs
            : Map.of();
      }
    };
  }

  private static LotPick.Held held(long place, LocalDate expires, long free) {
    return new LotPick.Held(place, place, expires, TODAY, free);
  }

  @Test
  void nothingIsGivenTwiceWholeIsWholeAndNoLowerClassHoldsWhatAHigherLacks() {
    for (long seed = 0; seed < 3_000; seed++) {
      Random random = new Random(seed);
      List<Line> lines = lines(random);
      Map<Pool, Long> stock = new HashMap<>();
      for (long item : List.of(FRAMES, FOUNDATION)) {
        for (long node : List.of(STILLWATER, CANAL_ROW)) {
          stock.put(free(item, node), (long) random.nextInt(9));
        }
      }
      Settings settings =
          new Settings(
              random.nextBoolean() ? Way.BY_ORDER : Way.BY_ITEM,
              List.of(By.PRIORITY, By.AGE),
              random.nextBoolean());
      List<Given> given = run(settings, lines, stock);
      String seen = "seed %d, %s".formatted(seed, settings);
      assertThat(given).as(seen).hasSameSizeAs(lines);

      Map<Pool, Long> taken = new HashMap<>();
      given.forEach(g -> g.parts().forEach(p -> taken.merge(p.pool(), p.units(), Long::sum)));
      taken.forEach((pool, units) ->
          assertThat(units).as(seen).isLessThanOrEqualTo(stock.getOrDefault(pool, 0L)));
      given.forEach(g -> assertThat(g.units()).as(seen).isLessThanOrEqualTo(g.line().units()));
      given.stream()
          .filter(g -> g.line().whole())
          .collect(Collectors.groupingBy(g -> g.line().order()))
          .values()
          .forEach(order ->
              assertThat(order.stream().map(g -> g.units() == g.line().units() || g.units() == 0))
                  .as(seen)
                  .doesNotContain(false));
      assertHigherClassesFirst(given, seen);

      Collections.shuffle(lines, random);
      assertThat(run(settings, lines, stock)).as(seen).isEqualTo(given);
    }
  }

  @Test
  void noLotGivesMoreThanLiesThereNoneThatWouldNotLastAndKitsAreWhole() {
    LotPick.Rule rule = new LotPick.Rule(LotPick.Order.FEFO, false, 5);
    for (long seed = 0; seed < 2_000; seed++) {
      Random random = new Random(seed);
      Map<Pool, Long> units = new HashMap<>();
      Map<At, Shelf> shelves = new HashMap<>();
      Map<Long, LotPick.Held> lots = new HashMap<>();
      for (long item : List.of(FRAMES, FOUNDATION)) {
        for (long node : List.of(STILLWATER, CANAL_ROW)) {
          List<LotPick.Held> there = new ArrayList<>();
          for (int lot = random.nextInt(4); lot > 0; lot--) {
            there.add(held(lots.size() + 1, TODAY.plusDays(random.nextInt(20)), random.nextInt(5)));
            lots.put(there.getLast().place(), there.getLast());
          }
          // more may be set aside than is free, or less
          units.put(free(item, node), (long) random.nextInt(12));
          shelves.put(new At(item, node), new Shelf(rule, there));
        }
      }
      List<Line> lines = new ArrayList<>();
      for (long order = 1; order <= 1 + random.nextInt(6); order++) {
        Draft draft =
            random.nextInt(3) == 0
                ? of(order, order, KIT, 1).kit(kit(Map.of(FRAMES, 2L, FOUNDATION, 1L)))
                : of(
                    order,
                    order,
                    random.nextBoolean() ? FRAMES : FOUNDATION,
                    1 + random.nextInt(5));
        lines.add(
            draft
                .whole(random.nextBoolean())
                .priority(1 + random.nextInt(2))
                .arriving(TODAY.plusDays(random.nextInt(8)))
                .line());
      }
      List<Given> given = AllocationRun.run(BY_ORDER, lines, new Stock(units, shelves));

      String seen = "seed " + seed;
      Map<Long, Long> taken = new HashMap<>();
      for (Given g : given) {
        for (Part part : g.parts()) {
          LotPick.Held lot = Objects.requireNonNull(lots.get(part.place()));
          assertThat(rule.lasts(lot.expires(), g.line().arrival())).as(seen).isTrue();
          taken.merge(part.place(), part.units(), Long::sum);
        }
        if (g.line().kit() != null && g.units() > 0) {
          assertThat(g.parts())
              .extracting(p -> p.pool().node())
              .as(seen)
              .containsOnly(g.parts().getFirst().pool().node());
          assertThat(
                  g.parts().stream()
                      .collect(
                          Collectors.groupingBy(
                              p -> p.pool().item(), Collectors.summingLong(Part::units))))
              .as(seen)
              .isEqualTo(Map.of(FRAMES, 2L, FOUNDATION, 1L));
        }
      }
      taken.forEach((place, gone) ->
          assertThat(gone)
              .as(seen)
              .isLessThanOrEqualTo(Objects.requireNonNull(lots.get(place)).free()));
    }
  }

  /** Whoever lacks some of an item, and takes parts, leaves none of it to a lower class. */
  private static void assertHigherClassesFirst(List<Given> given, String seen) {
    for (Given lacking : given) {
      if (!lacking.line().whole() && lacking.units() < lacking.line().units()) {
        assertThat(
                given.stream()
                    .filter(g -> g.line().item() == lacking.line().item())
                    .filter(g -> g.line().priority() > lacking.line().priority())
                    .mapToLong(Given::units)
                    .sum())
            .as(seen)
            .isZero();
      }
    }
  }

  private static List<Line> lines(Random random) {
    List<Line> lines = new ArrayList<>();
    long no = 0;
    for (long order = 1; order <= 1 + random.nextInt(7); order++) {
      boolean whole = random.nextBoolean();
      int priority = 1 + random.nextInt(3);
      for (long item : List.of(FRAMES, FOUNDATION)) {
        if (random.nextInt(3) > 0) {
          lines.add(
              of(order, ++no, item, 1 + random.nextInt(6)).whole(whole).priority(priority).line());
        }
      }
    }
    return lines;
  }

  private static Line first(By by, Line... lines) {
    return run(
            new Settings(Way.BY_ORDER, List.of(by), false),
            List.of(lines),
            Map.of(free(FRAMES, STILLWATER), 1L))
        .getFirst()
        .line();
  }

  private static List<Given> run(Settings settings, List<Line> lines, Map<Pool, Long> stock) {
    return AllocationRun.run(settings, lines, new Stock(stock, Map.of()));
  }

  private static Pool free(long item, long node) {
    return new Pool(item, node, 0);
  }

  private static Line line(long order, long item, long units, int priority) {
    return of(order, order * 10 + item, item, units).priority(priority).line();
  }

  private static Line whole(long order, long item, long units) {
    return of(order, order * 10 + item, item, units).whole(true).line();
  }

  private static Line served(long order, boolean wasShort, long latestStart, long value) {
    return new Line(
        order,
        order,
        FRAMES,
        null,
        1,
        false,
        5,
        wasShort,
        latestStart,
        order,
        value,
        TODAY,
        Set.of(),
        Set.of());
  }

  private static Draft of(long order, long line, long item, long units) {
    return new Draft(order, line, item, units, null, false, 5, TODAY, Set.of());
  }

  /** A line of which a test says only what matters to it. */
  private record Draft(
      long order,
      long no,
      long item,
      long units,
      @Nullable Kit kit,
      boolean whole,
      int priority,
      LocalDate arrival,
      Set<Long> owners) {
    Draft whole(boolean isWhole) {
      return new Draft(order, no, item, units, kit, isWhole, priority, arrival, owners);
    }

    Draft priority(int its) {
      return new Draft(order, no, item, units, kit, whole, its, arrival, owners);
    }

    Draft owner(long its) {
      return new Draft(order, no, item, units, kit, whole, priority, arrival, Set.of(its));
    }

    Draft kit(Kit its) {
      return new Draft(order, no, item, units, its, whole, priority, arrival, owners);
    }

    Draft arriving(LocalDate on) {
      return new Draft(order, no, item, units, kit, whole, priority, on, owners);
    }

    Line line() {
      return new Line(
          order,
          no,
          item,
          kit,
          units,
          whole,
          priority,
          false,
          Long.MAX_VALUE,
          order,
          0,
          arrival,
          Set.of(),
          owners);
    }
  }

  private static Map<Long, Long> units(List<Given> given) {
    return given.stream()
        .collect(
            Collectors.groupingBy(g -> g.line().order(), Collectors.summingLong(Given::units)));
  }
}
