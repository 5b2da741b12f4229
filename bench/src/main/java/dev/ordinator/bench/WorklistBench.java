package dev.ordinator.bench;

import dev.ordinator.testing.TestWorld;
import dev.ordinator.testing.Visitor;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * First pages of worklists, their counts and the find field at growing numbers of orders, against
 * one order by its primary key over the same path.
 */
public final class WorklistBench {
  private static final List<Integer> SIZES = List.of(1_000, 10_000, 100_000);
  private static final int WARM_UP = 150;
  private static final int TIMES = 200;
  private static final String BASELINE = "one order by its key";

  private static final Map<String, String> REQUESTS = new LinkedHashMap<>();

  static {
    REQUESTS.put(BASELINE, "/api/orders/500");
    REQUESTS.put("open, newest first", "/api/orders?limit=100");
    REQUESTS.put("all, newest first", "/api/orders?pile=ALL&limit=100");
    REQUESTS.put("stuck", "/api/orders?pile=STUCK&limit=100");
    REQUESTS.put("leaving today, soonest first", "/api/orders?pile=LEAVING_TODAY&sort=LEAVING&limit=100");
    REQUESTS.put("waiting for stock", "/api/orders?pile=WAITING&limit=100");
    REQUESTS.put("released, of one country", "/api/orders?stage=RELEASED&country=BE&limit=100");
    REQUESTS.put("all piles counted", "/api/orders/piles");
    REQUESTS.put("find a buyer", "/api/find?q=Buyer%20791");
    REQUESTS.put("find a number", "/api/find?q=BM-77");
  }

  private record Figure(double median, double p95) {}

  private WorklistBench() {}

  public static void main(String[] args) throws Exception {
    try (TestWorld world = TestWorld.installed()) {
      world.addInstance("--ordinator.working=false");
      Visitor mara = world.visitor("mara");
      Map<Integer, Map<String, Figure>> figures = new LinkedHashMap<>();
      int from = 1;
      for (int size : SIZES) {
        ManyOrders.fill(world.db(), from, size);
        from = size + 1;
        Map<String, Figure> ofSize = new LinkedHashMap<>();
        REQUESTS.forEach((name, path) -> ofSize.put(name, measure(mara, path)));
        figures.put(size, ofSize);
      }
      print(figures);
    }
  }

  private static Figure measure(Visitor who, String path) {
    for (int i = 0; i < WARM_UP; i++) {
      who.read(path);
    }
    double[] millis = new double[TIMES];
    for (int i = 0; i < TIMES; i++) {
      long start = System.nanoTime();
      who.read(path);
      millis[i] = (System.nanoTime() - start) / 1e6;
    }
    Arrays.sort(millis);
    return new Figure(millis[TIMES / 2], millis[TIMES * 95 / 100]);
  }

  private static void print(Map<Integer, Map<String, Figure>> figures) {
    List<String> head = new ArrayList<>(List.of("request"));
    SIZES.forEach(size -> head.add("%,d orders: median, p95 (ms)".formatted(size)));
    head.add("p95 ÷ baseline at %,d".formatted(SIZES.getLast()));
    head.add("median, %,d ÷ %,d".formatted(SIZES.get(1), SIZES.getFirst()));
    head.add("median, %,d ÷ %,d".formatted(SIZES.getLast(), SIZES.get(1)));
    row(head);
    row(head.stream().map(h -> "---").toList());
    Map<String, Figure> small = figures.get(SIZES.getFirst());
    Map<String, Figure> middle = figures.get(SIZES.get(1));
    Map<String, Figure> large = figures.get(SIZES.getLast());
    for (String name : REQUESTS.keySet()) {
      List<String> cells = new ArrayList<>(List.of(name));
      figures
          .values()
          .forEach(f ->
              cells.add("%.1f, %.1f".formatted(f.get(name).median(), f.get(name).p95())));
      cells.add("%.1f".formatted(large.get(name).p95() / large.get(BASELINE).p95()));
      cells.add("%.2f".formatted(middle.get(name).median() / small.get(name).median()));
      cells.add("%.2f".formatted(large.get(name).median() / middle.get(name).median()));
      row(cells);
    }
  }

  private static void row(List<String> cells) {
    System.out.println("| " + String.join(" | ", cells) + " |");
  }
}
