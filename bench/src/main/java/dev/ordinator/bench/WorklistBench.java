package dev.ordinator.bench;

import dev.ordinator.testing.TestWorld;
import dev.ordinator.testing.Visitor;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * First pages of worklists, their counts and the find field at growing numbers of orders, against
 * one order by its primary key over the same path.
 */
public final class WorklistBench {
  private static final List<Integer> SIZES = List.of(10_000, 100_000, 1_000_000);
  private static final int WARM_UP = 40;
  private static final int TIMES = 100;

  /** What takes seconds is measured less often. */
  private static final long LONGEST_NANOS = 10_000_000_000L;

  private record Request(String name, String path) {}

  /** The first is the baseline. */
  private static final List<Request> REQUESTS =
      List.of(
          new Request("one order by its key", "/api/orders/500"),
          new Request("open, newest first", "/api/orders?limit=100"),
          new Request("all, newest first", "/api/orders?pile=ALL&limit=100"),
          new Request("stuck", "/api/orders?pile=STUCK&limit=100"),
          new Request(
              "leaving today, soonest first",
              "/api/orders?pile=LEAVING_TODAY&sort=LEAVING&limit=100"),
          new Request("waiting for stock", "/api/orders?pile=WAITING&limit=100"),
          new Request(
              "released, of one country", "/api/orders?stage=RELEASED&country=BE&limit=100"),
          new Request("done, dearest first", "/api/orders?pile=DONE&sort=DEAREST&limit=100"),
          new Request("all piles counted", "/api/orders/piles"),
          new Request("today", "/api/today"),
          new Request("counts beside the names", "/api/today/counts"),
          new Request("due board", "/api/dispatch/board"),
          new Request("consignments to leave", "/api/dispatch/consignments"),
          new Request("consignments under way", "/api/dispatch/consignments?doing=NOTHING"),
          new Request("find a buyer", "/api/find?q=Buyer%20791"),
          new Request("find a number", "/api/find?q=BM-77"));

  private record Figure(double median, double p95) {}

  private WorklistBench() {}

  public static void main(String[] args) throws Exception {
    try (TestWorld world = TestWorld.installed()) {
      world.addInstance("--ordinator.working=false");
      Visitor mara = world.visitor("mara");
      List<List<Figure>> figures = new ArrayList<>();
      int from = 1;
      for (int size : SIZES) {
        ManyOrders.fill(world.db(), from, size);
        from = size + 1;
        figures.add(REQUESTS.stream().map(r -> measure(mara, r.path())).toList());
      }
      print(figures);
    }
  }

  private static Figure measure(Visitor who, String path) {
    long from = System.nanoTime();
    for (int i = 0; i < WARM_UP && System.nanoTime() - from < LONGEST_NANOS; i++) {
      who.read(path);
    }
    double[] millis = new double[TIMES];
    int times = 0;
    from = System.nanoTime();
    while (times < TIMES && System.nanoTime() - from < LONGEST_NANOS) {
      long start = System.nanoTime();
      who.read(path);
      millis[times++] = (System.nanoTime() - start) / 1e6;
    }
    Arrays.sort(millis, 0, times);
    return new Figure(millis[times / 2], millis[times * 95 / 100]);
  }

  private static void print(List<List<Figure>> figures) {
    List<String> head = new ArrayList<>(List.of("request"));
    SIZES.forEach(size -> head.add("%,d orders: median, p95 (ms)".formatted(size)));
    head.add("p95 ÷ baseline at %,d".formatted(SIZES.getLast()));
    head.add("median, %,d ÷ %,d".formatted(SIZES.get(1), SIZES.getFirst()));
    head.add("median, %,d ÷ %,d".formatted(SIZES.getLast(), SIZES.get(1)));
    row(head);
    row(head.stream().map(h -> "---").toList());
    for (int i = 0; i < REQUESTS.size(); i++) {
      List<String> cells = new ArrayList<>(List.of(REQUESTS.get(i).name()));
      for (List<Figure> ofSize : figures) {
        cells.add("%.1f, %.1f".formatted(ofSize.get(i).median(), ofSize.get(i).p95()));
      }
      List<Figure> large = figures.getLast();
      double middle = figures.get(1).get(i).median();
      cells.add("%.1f".formatted(large.get(i).p95() / large.getFirst().p95()));
      cells.add("%.2f".formatted(middle / figures.getFirst().get(i).median()));
      cells.add("%.2f".formatted(large.get(i).median() / middle));
      row(cells);
    }
  }

  private static void row(List<String> cells) {
    System.out.println("| " + String.join(" | ", cells) + " |");
  }
}
