package dev.ordinator.bench;

import dev.ordinator.core.routing.BatchRouter;
import java.util.concurrent.TimeUnit;
import org.openjdk.jmh.annotations.Benchmark;
import org.openjdk.jmh.annotations.BenchmarkMode;
import org.openjdk.jmh.annotations.Fork;
import org.openjdk.jmh.annotations.Measurement;
import org.openjdk.jmh.annotations.Mode;
import org.openjdk.jmh.annotations.OutputTimeUnit;
import org.openjdk.jmh.annotations.Scope;
import org.openjdk.jmh.annotations.State;
import org.openjdk.jmh.annotations.Warmup;

/** Routes a batch, for JMH; memory is cleared on the same thread. */
@State(Scope.Benchmark)
@BenchmarkMode(Mode.SingleShotTime)
@OutputTimeUnit(TimeUnit.SECONDS)
@Warmup(iterations = 3)
@Measurement(iterations = 8)
@Fork(
    value = 1,
    jvmArgsAppend = {"-XX:+UseSerialGC", "-Xmx1g"})
public class TenThousandOrders {
  private final Batch batch = Batch.tenThousand(8);

  @Benchmark
  public BatchRouter.Result route() {
    return batch.route();
  }
}
