package dev.ordinator.bench;

import static dev.ordinator.schema.Tables.DECISION;
import static dev.ordinator.schema.Tables.STOCK_LEVEL;

import dev.ordinator.standins.ShopOrder;
import dev.ordinator.stock.LevelDays;
import dev.ordinator.stock.StockLedger;
import dev.ordinator.testing.Sample;
import dev.ordinator.testing.TestWorld;
import dev.ordinator.testing.Visitor;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.function.BooleanSupplier;
import java.util.stream.LongStream;
import org.awaitility.Awaitility;
import tools.jackson.databind.json.JsonMapper;

/**
 * Rehearses a draft on the orders that the application has routed before, and how long a request
 * that needs little takes meanwhile.
 */
public final class RehearsalBench {
  private static final String REHEARSALS = "/api/rulebook/rehearsals";
  private static final List<String> SKUS = List.of("BRUSH", "SMOKER-L", "TOOL-J", "SMOKER-S");
  private static final List<ShopOrder.ShipTo> PLACES =
      List.of(
          Sample.HOME,
          new ShopOrder.ShipTo("Ada Berg", "Weg 1", "10115", "Berlin", "DE"),
          new ShopOrder.ShipTo("Ada Berg", "Rue 1", "75001", "Paris", "FR"));

  private RehearsalBench() {}

  public static void main(String[] args) throws Exception {
    try (TestWorld world = TestWorld.started()) {
      Visitor mara = world.visitor("mara");
      fill(world);
      world.bean(LevelDays.class).keepToday();
      draft(mara);
      System.out.println(
          "| orders | rehearsed in (s) | per order (ms) | p95 of a small request (ms) | before |");
      System.out.println("| --- | --- | --- | --- | --- |");
      int sent = 0;
      for (int orders : new int[] {300, 750, 1_500}) {
        for (; sent < orders; sent++) {
          world.shop().place(order(sent));
        }
        await(() -> world.db().fetchCount(DECISION) >= orders);
        measure(mara, orders);
      }
    }
  }

  private static void measure(Visitor mara, int orders) {
    double before = p95(mara, () -> false);
    long began = System.nanoTime();
    long id = mara.post(REHEARSALS, Map.of("days", 30)).body().path("id").asLong();
    String path = REHEARSALS + "/" + id;
    double during = p95(mara, () -> isDone(mara, path));
    await(() -> isDone(mara, path));
    double seconds = (System.nanoTime() - began) / 1e9;
    long routed = mara.read(path).path("result").path("was").path("orders").asLong();
    System.out.printf(
        "| %d | %.1f | %.1f | %.1f | %.1f |%n",
        routed, seconds, seconds * 1_000 / orders, during, before);
  }

  private static boolean isDone(Visitor mara, String path) {
    return mara.read(path).path("head").path("state").asString().equals("DONE");
  }

  private static double p95(Visitor mara, BooleanSupplier over) {
    double[] millis =
        LongStream.range(0, 200)
            .takeWhile(i -> !over.getAsBoolean())
            .mapToDouble(i -> {
              long start = System.nanoTime();
              mara.get("/api/setup");
              return (System.nanoTime() - start) / 1e6;
            })
            .sorted()
            .toArray();
    return millis.length == 0 ? Double.NaN : millis[millis.length * 95 / 100];
  }

  private static ShopOrder order(int number) {
    return Sample.order(
        "RH" + number,
        SKUS.get(number % SKUS.size()),
        1 + number % 3,
        PLACES.get(number % PLACES.size()),
        "paid",
        "Home delivery");
  }

  private static void fill(TestWorld world) {
    world
        .db()
        .select(STOCK_LEVEL.ITEM_ID, STOCK_LEVEL.NODE_ID)
        .from(STOCK_LEVEL)
        .forEach(r ->
            world
                .bean(StockLedger.class)
                .adjust(r.value1(), r.value2(), 5_000, StockLedger.Reason.RECEIPT, "bench", ""));
  }

  /** What the live edition says, but that nothing is divided. */
  private static void draft(Visitor mara) {
    String live =
        mara.read("/api/rulebook/editions/1/file")
            .toString()
            .replaceAll("\"maxConsignments\":[0-9]+", "\"maxConsignments\":1");
    int status = mara.change("PUT", "/api/rulebook/draft", tree(live)).status();
    if (status != 200) {
      throw new AssertionError("the draft was answered by " + status);
    }
  }

  private static Object tree(String text) {
    return new JsonMapper().readTree(text);
  }

  private static void await(BooleanSupplier done) {
    Awaitility.await()
        .atMost(Duration.ofMinutes(10))
        .pollInterval(Duration.ofMillis(50))
        .until(done::getAsBoolean);
  }
}
