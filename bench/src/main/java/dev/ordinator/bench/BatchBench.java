package dev.ordinator.bench;

import dev.ordinator.core.routing.BatchRouter;
import java.io.IOException;
import java.util.Arrays;
import java.util.List;
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
  private static final List<Integer> SIZES = List.of(2_500, 5_000, 10_000);
  private static final int ROUNDS = 5;

  private BatchBench() {}

  public static void main(String[] args) throws IOException, InterruptedException, RunnerException {
    grow();
    again();
    command();
  }

  /** Each size again and again: the least time of each, as whatever else the machine does adds. */
  private static void grow() {
    List<Batch> batches = SIZES.stream().map(count -> Batch.of(count, 8)).toList();
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
        "| orders | seconds | orders a second | ÷ n·log n of the first | filled | gap |");
    System.out.println("| --- | --- | --- | --- | --- | --- |");
    for (int b = 0; b < batches.size(); b++) {
      int count = SIZES.get(b);
      System.out.printf(
          "| %,d | %.2f | %,.0f | %.2f | %,d | %.2f %% |%n",
          count,
          seconds[b],
          count / seconds[b],
          seconds[b] / work(count) / (seconds[0] / work(SIZES.getFirst())),
          results[b].choices().stream().filter(c -> c.isPresent()).count(),
          100 * results[b].gap());
    }
  }

  private static double work(int count) {
    return count * Math.log(count);
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
        "%nJMH, %,d orders, %d runs: %.2f ± %.2f s (99.9 %%), %,.0f orders a second%n",
        TenThousandOrders.COUNT,
        result.getSampleCount(),
        result.getScore(),
        result.getScoreError(),
        TenThousandOrders.COUNT / result.getScore());
  }

  /** {@code ./ordinator plan}, from its start to its end. */
  private static void command() throws IOException, InterruptedException {
    PlanRun run = PlanRun.of(Batch.of(TenThousandOrders.COUNT, 8));
    System.out.printf(
        "%n./ordinator plan, %,d orders: %.2f s in all, %.2f s for reading and routing, gap %.2f %%%n",
        TenThousandOrders.COUNT, run.inAll(), run.solving(), 100 * run.gap());
  }
}
