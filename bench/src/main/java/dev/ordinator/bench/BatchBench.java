package dev.ordinator.bench;

import dev.ordinator.core.routing.BatchRouter;
import java.io.IOException;
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
  private BatchBench() {}

  public static void main(String[] args) throws IOException, InterruptedException, RunnerException {
    grow();
    again();
    command();
  }

  private static void grow() {
    Batch.of(2_500, 7).route();
    System.out.println(
        "| orders | seconds | orders a second | ÷ n·log n of the first | filled | gap |");
    System.out.println("| --- | --- | --- | --- | --- | --- |");
    double first = 0;
    for (int count : List.of(2_500, 5_000, 10_000)) {
      Batch batch = Batch.of(count, 8);
      long start = System.nanoTime();
      BatchRouter.Result result = batch.route();
      double seconds = (System.nanoTime() - start) / 1e9;
      double perWork = seconds / (count * Math.log(count));
      first = first == 0 ? perWork : first;
      System.out.printf(
          "| %,d | %.2f | %,.0f | %.2f | %,d | %.2f %% |%n",
          count,
          seconds,
          count / seconds,
          perWork / first,
          result.choices().stream().filter(c -> c.isPresent()).count(),
          100 * result.gap());
    }
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
