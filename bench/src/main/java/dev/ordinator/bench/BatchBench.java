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
          "| %,d | %.2f | %,.0f | %.2f | %.2f | %,d | %.2f %% |%n",
          SIZES[b],
          seconds[b],
          SIZES[b] / seconds[b],
          perWork(seconds, b) / perWork(seconds, 0),
          perWork(seconds, b) / perWork(seconds, TEN_THOUSAND),
          results[b].choices().stream().filter(c -> c.isPresent()).count(),
          100 * results[b].gap());
    }
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

  /** {@code ./ordinator plan}, from its start to its end. */
  private static void command() throws IOException, InterruptedException {
    Batch batch = Batch.tenThousand(SEED);
    System.out.printf("%n./ordinator plan, 10,000 orders:%n");
    print("on all cores", PlanRun.of(batch));
    print("on one core", PlanRun.onOneCore(batch));
  }

  private static void print(String how, PlanRun run) {
    System.out.printf(
        "%s %.2f s in all, %,.0f orders a second; %.2f s for reading and routing, gap %.2f %%%n",
        how, run.inAll(), 10_000 / run.inAll(), run.solving(), 100 * run.gap());
  }
}
