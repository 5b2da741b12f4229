package dev.ordinator.bench;

import dev.ordinator.core.routing.BatchRouter;
import java.io.IOException;
import java.util.Arrays;
import java.util.List;
import java.util.function.IntFunction;
import java.util.stream.IntStream;
import org.openjdk.jmh.results.Result;
import org.openjdk.jmh.runner.Runner;
import org.openjdk.jmh.runner.RunnerException;
import org.openjdk.jmh.runner.options.OptionsBuilder;
import org.openjdk.jmh.runner.options.VerboseMode;

/**
 * How fast orders that share scarce stock are routed together, on one thread, and how far the
 * answer is from the bound at most: how that grows, measured by JMH, and as a whole command.
 */
public final class BatchBench {
  private static final int[] SIZES = {2_500, 5_000, 10_000, 20_000, 40_000, 80_000};

  /** So many of them, the first, are solved by the whole command, too. */
  private static final int COMMAND_SIZES = 5;

  /** Which of them is ten thousand. */
  private static final int TEN_THOUSAND = 2;

  private static final int ROUNDS = 3;
  private static final int SEED = 8;

  private BatchBench() {}

  public static void main(String[] args) throws IOException, InterruptedException, RunnerException {
    System.out.println("The orders alone grow: for each item there are as many at any size.\n");
    grow(count -> Batch.of(count, count / 2, SEED));
    System.out.println(
        "\n5,000 items at any size: of more orders, each finds its items at more of the nodes.\n");
    grow(count -> Batch.of(count, 5_000, SEED));
    again();
    command();
  }

  /** Each size again and again: the least time of each, as whatever else the machine does adds. */
  private static void grow(IntFunction<Batch> sized) {
    List<Batch> batches = IntStream.of(SIZES).mapToObj(sized).toList();
    double[] seconds = new double[batches.size()];
    Arrays.fill(seconds, Double.MAX_VALUE);
    BatchRouter.Result[] results = new BatchRouter.Result[batches.size()];
    for (int round = 0; round < ROUNDS; round++) {
      for (int b = 0; b < batches.size(); b++) {
        long start = System.nanoTime();
        results[b] = batches.get(b).route();
        seconds[b] = Math.min(seconds[b], (System.nanoTime() - start) / 1e9);
      }
    }
    System.out.println(
        "| orders | seconds | orders a second | ÷ n·log n of the first | ÷ n·log n of 10,000 | filled | gap |");
    System.out.println("| --- | --- | --- | --- | --- | --- | --- |");
    for (int b = 0; b < SIZES.length; b++) {
      System.out.printf(
          "| %,d | %s | %.2f | %,d | %.2f %% |%n",
          SIZES[b],
          grown(seconds, b),
          perWork(seconds, b) / perWork(seconds, TEN_THOUSAND),
          results[b].choices().stream().filter(c -> c.isPresent()).count(),
          100 * results[b].gap());
    }
  }

  /** Cells: seconds, orders a second, and how much more that is than n·log n of the first. */
  private static String grown(double[] seconds, int b) {
    return "%.2f | %,.0f | %.2f"
        .formatted(seconds[b], SIZES[b] / seconds[b], perWork(seconds, b) / perWork(seconds, 0));
  }

  private static double perWork(double[] seconds, int b) {
    return seconds[b] / (SIZES[b] * Math.log(SIZES[b]));
  }

  /** JMH runs them in a fresh machine, again and again. */
  private static void again() throws RunnerException {
    var options =
        new OptionsBuilder()
            .include(TenThousandOrders.class.getName())
            .verbosity(VerboseMode.SILENT)
            .build();
    Result<?> result = new Runner(options).runSingle().getPrimaryResult();
    System.out.printf(
        "%nJMH, 10,000 orders, %d runs: %.2f ± %.2f s (99.9 %%), %,.0f orders a second%n",
        result.getSampleCount(),
        result.getScore(),
        result.getScoreError(),
        10_000 / result.getScore());
  }

  /** {@code ./ordinator plan}, from its start to its end, on all cores and held to one. */
  private static void command() throws IOException, InterruptedException {
    // the first time it unpacks itself and learns
    PlanRun.of(Batch.of(10, 10, SEED));
    PlanRun[] all = new PlanRun[COMMAND_SIZES];
    PlanRun[] one = new PlanRun[COMMAND_SIZES];
    for (int round = 0; round < ROUNDS; round++) {
      for (int b = 0; b < COMMAND_SIZES; b++) {
        Batch batch = Batch.of(SIZES[b], 5_000, SEED);
        all[b] = PlanRun.of(batch).orSooner(all[b]);
        one[b] = PlanRun.onOneCore(batch).orSooner(one[b]);
      }
    }
    System.out.println("\n./ordinator plan, 5,000 items at any size:\n");
    System.out.println(
        "| orders | seconds | orders a second | ÷ n·log n of the first | on one core: seconds | orders a second | ÷ n·log n of the first | gap |");
    System.out.println("| --- | --- | --- | --- | --- | --- | --- | --- |");
    double[] onAll = Arrays.stream(all).mapToDouble(PlanRun::seconds).toArray();
    double[] onOne = Arrays.stream(one).mapToDouble(PlanRun::seconds).toArray();
    for (int b = 0; b < COMMAND_SIZES; b++) {
      System.out.printf(
          "| %,d | %s | %s | %.2f %% |%n",
          SIZES[b], grown(onAll, b), grown(onOne, b), 100 * one[b].gap());
    }
  }
}
