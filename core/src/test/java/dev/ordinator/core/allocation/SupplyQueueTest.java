package dev.ordinator.core.allocation;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import dev.ordinator.core.allocation.SupplyQueue.Need;
import dev.ordinator.core.allocation.SupplyQueue.Outlook;
import dev.ordinator.core.allocation.SupplyQueue.Supplied;
import dev.ordinator.core.stock.Atp.Supply;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.OptionalInt;
import java.util.Random;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;

/** When those who wait are served. */
class SupplyQueueTest {
  private static final int DAYS = 30;
  private static final long FOUNDATION = 1;
  private static final long FRAMES = 2;

  @Test
  void eachWaitsForTheSupplyThatReachesThem() {
    Supplied supplied = new Supplied(2, List.of(due(5, 4), new Supply(9, 10, 50, 1)));
    assertThat(days(supplied, 2, 3, 1, 2, 9)).containsExactly(0, 5, 5, 10, null);
  }

  @Test
  void whoNeedsLittleIsServedFirstOnlyFromWhatThoseInFrontWillNotNeed() {
    Supplied plenty = new Supplied(6, List.of(due(10, 9)));
    assertThat(days(plenty, 10, 5)).as("15 in all, both served").containsExactly(10, 0);
    Supplied scarce = new Supplied(6, List.of(due(10, 6)));
    assertThat(days(scarce, 10, 5))
        .as("5 now would leave 7 for the first")
        .containsExactly(10, null);
    assertThat(days(scarce, 10, 2)).containsExactly(10, 0);
    assertThat(days(scarce, 13, 5)).as("the first is never served").containsExactly(null, 0);
  }

  @Test
  void whoGoesInPartHasWhatIsThereNowAndWaitsForTheRest() {
    Need front = new Need(1, 1, FRAMES, 10, 0, false);
    Need behind = new Need(2, 2, FRAMES, 3, 0, false);
    Outlook outlook =
        SupplyQueue.project(
            Map.of(FRAMES, new Supplied(6, List.of(due(-4, 2), due(10, 9)))),
            Map.of(FRAMES, List.of(front, behind)),
            DAYS);
    assertThat(outlook.now(front)).as("what is overdue is not there").isEqualTo(6);
    assertThat(outlook.of(front)).hasValue(10);
    assertThat(outlook.now(behind)).isZero();
    assertThat(outlook.spare(FRAMES)).isZero();
  }

  @Test
  void whoIsSentWholeTakesItWhenTheLastOfItIsThere() {
    Need frames = new Need(1, FRAMES, FRAMES, 3, 0, true);
    Need foundation = new Need(1, FOUNDATION, FOUNDATION, 4, 0, true);
    Need other = new Need(2, FOUNDATION, FOUNDATION, 4, 0, true);
    Map<Long, List<Need>> queues =
        Map.of(FRAMES, List.of(frames), FOUNDATION, List.of(foundation, other));
    Supplied soon = new Supplied(4, List.of(due(7, 4)));

    Outlook later =
        SupplyQueue.project(
            Map.of(FOUNDATION, soon, FRAMES, new Supplied(0, List.of(due(9, 3)))), queues, DAYS);
    assertThat(later.ofAll(List.of(frames, foundation))).hasValue(9);
    assertThat(later.of(other)).as("what comes on day 7 is early enough for the first").hasValue(0);

    Outlook never = SupplyQueue.project(Map.of(FOUNDATION, soon), queues, DAYS);
    assertThat(never.ofAll(List.of(frames, foundation))).isEmpty();
    assertThat(never.of(other)).hasValue(0);
  }

  @Test
  void nobodyIsServedBeforeTheirDay() {
    Need preOrder = new Need(1, FRAMES, FRAMES, 3, 12, false);
    Need now = new Need(2, FRAMES, FRAMES, 3, 0, false);
    Map<Long, List<Need>> queue = Map.of(FRAMES, List.of(preOrder, now));
    Outlook scarce = SupplyQueue.project(Map.of(FRAMES, new Supplied(5, List.of())), queue, DAYS);
    assertThat(scarce.of(preOrder)).hasValue(12);
    assertThat(scarce.of(now)).as("it is kept for who is in front").isEmpty();
  }

  @Test
  void nobodyWaitsForNothing() {
    assertThatThrownBy(() -> new Need(1, 1, 1, 0, 0, true))
        .isInstanceOf(IllegalArgumentException.class);
  }

  /** Random queues over two items, many of whose orders want both. */
  @Test
  void whatIsGivenWasThereAndMoreSupplyServesNobodyLaterAndNobodyBehindDelaysAnyone() {
    for (long seed = 0; seed < 2_000; seed++) {
      Random random = new Random(seed);
      Map<Long, Supplied> supplied = Map.of(FOUNDATION, supplied(random), FRAMES, supplied(random));
      Map<Long, List<Need>> queues = queues(random);
      Outlook outlook = SupplyQueue.project(supplied, queues, DAYS);
      queues.forEach((item, queue) -> {
        for (int day = 0; day < DAYS; day++) {
          assertThat(takenBy(day, queue, queues, outlook))
              .as("day %d", day)
              .isLessThanOrEqualTo(thereOn(day, supplied.getOrDefault(item, Supplied.NOTHING)));
        }
      });
      // of one item, who is behind changes nothing for who is in front
      List<Need> queue =
          queues.getOrDefault(FRAMES, List.of()).stream().map(SupplyQueueTest::apart).toList();
      Outlook all = SupplyQueue.project(supplied, Map.of(FRAMES, queue), DAYS);
      for (int k = 0; k < queue.size(); k++) {
        Outlook front =
            SupplyQueue.project(supplied, Map.of(FRAMES, queue.subList(0, k + 1)), DAYS);
        assertThat(front.of(queue.get(k))).as("seed %d", seed).isEqualTo(all.of(queue.get(k)));
      }
      // one more unit now: for the first it is never later
      Supplied was = supplied.getOrDefault(FRAMES, Supplied.NOTHING);
      Outlook more =
          SupplyQueue.project(
              Map.of(FRAMES, new Supplied(was.free() + 1, was.supplies())),
              Map.of(FRAMES, queue),
              DAYS);
      if (!queue.isEmpty()) {
        assertThat(more.of(queue.getFirst()).orElse(DAYS))
            .as("seed %d", seed)
            .isLessThanOrEqualTo(all.of(queue.getFirst()).orElse(DAYS));
      }
    }
  }

  /** The first whose need fits today is served today, whatever those behind need. */
  @Test
  void theFirstWhoseNeedFitsIsNeverSkipped() {
    for (long seed = 0; seed < 2_000; seed++) {
      Random random = new Random(seed);
      long free = random.nextInt(20);
      int[] needs = random.ints(6, 1, 12).toArray();
      List<Integer> days = days(new Supplied(free, List.of()), needs);
      int first =
          IntStream.range(0, needs.length).filter(i -> needs[i] <= free).findFirst().orElse(-1);
      if (first >= 0) {
        assertThat(days.get(first)).as("seed %d", seed).isZero();
      }
    }
  }

  private static Need apart(Need need) {
    return new Need(need.order(), need.line(), need.item(), need.units(), 0, false);
  }

  private static Supply due(int day, long units) {
    return new Supply(day, units, 100, 0);
  }

  private static List<Integer> days(Supplied supplied, int... units) {
    List<Need> queue =
        IntStream.range(0, units.length)
            .mapToObj(i -> new Need(i, i, FRAMES, units[i], 0, true))
            .toList();
    Outlook outlook = SupplyQueue.project(Map.of(FRAMES, supplied), Map.of(FRAMES, queue), DAYS);
    List<Integer> days = new ArrayList<>();
    queue.forEach(need -> {
      OptionalInt day = outlook.of(need);
      days.add(day.isPresent() ? day.getAsInt() : null);
    });
    return days;
  }

  private static Supplied supplied(Random random) {
    List<Supply> supplies = new ArrayList<>();
    for (int i = random.nextInt(4); i > 0; i--) {
      supplies.add(new Supply(random.nextInt(20), random.nextInt(9), 100, random.nextInt(3)));
    }
    return new Supplied(random.nextInt(8), supplies);
  }

  private static Map<Long, List<Need>> queues(Random random) {
    Map<Long, List<Need>> queues = new LinkedHashMap<>();
    for (long item : List.of(FOUNDATION, FRAMES)) {
      List<Need> queue = new ArrayList<>();
      for (long order = 1; order <= 6; order++) {
        if (random.nextBoolean()) {
          queue.add(new Need(order, item, item, 1 + random.nextInt(6), 0, order % 2 == 0));
        }
      }
      Collections.shuffle(queue, random);
      queues.put(item, queue);
    }
    return queues;
  }

  private static long takenBy(
      int day, List<Need> queue, Map<Long, List<Need>> queues, Outlook outlook) {
    return queue.stream()
        .filter(need -> {
          List<Need> with =
              need.whole()
                  ? queues.values().stream()
                      .flatMap(List::stream)
                      .filter(n -> n.order() == need.order())
                      .toList()
                  : List.of(need);
          OptionalInt taken = outlook.ofAll(with);
          return taken.isPresent() && taken.getAsInt() <= day;
        })
        .mapToLong(Need::units)
        .sum();
  }

  private static long thereOn(int day, Supplied supplied) {
    return supplied.free()
        + supplied.supplies().stream()
            .filter(s -> s.countedFrom() <= day)
            .mapToLong(Supply::quantity)
            .sum();
  }
}
