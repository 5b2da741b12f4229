package dev.ordinator.bench;

import dev.ordinator.testing.Caller;
import dev.ordinator.testing.MachineConnection;
import dev.ordinator.testing.TestWorld;
import dev.ordinator.testing.Visitor;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.function.Supplier;

/**
 * What a shop's pages ask, at 50 requests a second from a schedule that does not wait for answers,
 * against an empty endpoint of the same server asked just so.
 */
public final class PromiseBench {
  private static final int PER_SECOND = 50;
  private static final int SECONDS = 20;
  private static final int WARM_UP = 400;

  private record Figure(double median, double p95, double worst) {}

  private PromiseBench() {}

  public static void main(String[] args) throws Exception {
    try (TestWorld world = TestWorld.installed()) {
      world.addInstance();
      Visitor mara = world.visitor("mara");
      long channel = MachineConnection.connect(mara, "PAGES", "PG-", Map.of());
      String token = MachineConnection.token(mara, channel, List.of("AVAILABILITY"));
      Caller shop = new Caller(world.address(), token);
      Visitor nobody = Visitor.anonymous(world.address());
      Map<String, Supplier<Integer>> requests = new LinkedHashMap<>();
      requests.put("an empty endpoint", () -> nobody.get("/api/setup").status());
      requests.put(
          "availability of three items, one a kit, to a place",
          () ->
              shop.get("/api/availability?sku=BRUSH&sku=TOOL-J&sku=FIRST-YEAR&to=NL-1012AB")
                  .status());
      requests.put("promises for two lines", () -> promise(shop, "BRUSH", "TOOL-J"));
      requests.put("promises for a kit and a line", () -> promise(shop, "HIVE-KIT", "TOOL-J"));
      // all of them first: what is measured earlier is not to be the colder for it
      requests.values().forEach(PromiseBench::warm);
      System.out.println(
          "| request, 50 a second | median (ms) | p95 (ms) | worst (ms) | p95 ÷ empty |");
      System.out.println("| --- | --- | --- | --- | --- |");
      double empty = Double.NaN;
      for (Map.Entry<String, Supplier<Integer>> request : requests.entrySet()) {
        Figure f = measure(request.getValue());
        empty = Double.isNaN(empty) ? f.p95() : empty;
        System.out.printf(
            "| %s | %.1f | %.1f | %.1f | %.1f |%n",
            request.getKey(), f.median(), f.p95(), f.worst(), f.p95() / empty);
      }
    }
  }

  private static int promise(Caller shop, String one, String other) {
    return shop.change(
            "POST",
            "/api/promises",
            """
            {"to":{"country":"NL","postcode":"1012 AB"},
             "lines":[{"sku":"%s","quantity":1},{"sku":"%s","quantity":2}]}
            """
                .formatted(one, other))
        .status();
  }

  private static void warm(Supplier<Integer> request) {
    for (int i = 0; i < WARM_UP; i++) {
      ask(request);
    }
  }

  private static Figure measure(Supplier<Integer> request) throws Exception {
    List<Future<Double>> answers = new ArrayList<>();
    try (ExecutorService askers = Executors.newVirtualThreadPerTaskExecutor()) {
      long start = System.nanoTime();
      for (int i = 0; i < PER_SECOND * SECONDS; i++) {
        long due = start + i * (TimeUnit.SECONDS.toNanos(1) / PER_SECOND);
        TimeUnit.NANOSECONDS.sleep(due - System.nanoTime());
        answers.add(askers.submit(() -> ask(request)));
      }
    }
    double[] millis = new double[answers.size()];
    for (int i = 0; i < millis.length; i++) {
      millis[i] = answers.get(i).get();
    }
    Arrays.sort(millis);
    return new Figure(
        millis[millis.length / 2], millis[millis.length * 95 / 100], millis[millis.length - 1]);
  }

  private static double ask(Supplier<Integer> request) {
    long start = System.nanoTime();
    int status = request.get();
    if (status != 200) {
      throw new AssertionError("answered " + status);
    }
    return (System.nanoTime() - start) / 1e6;
  }
}
