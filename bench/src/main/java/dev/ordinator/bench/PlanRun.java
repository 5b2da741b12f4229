package dev.ordinator.bench;

import dev.ordinator.planning.CaseWriter;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * A batch solved by {@code ./ordinator plan} from a file.
 *
 * @param seconds from the start of the command to its end
 */
record PlanRun(double seconds, double gap) {
  private static final List<String> ONE_CORE = List.of("taskset", "--cpu-list", "0");

  /** With all cores that there are. */
  static PlanRun of(Batch batch) throws IOException, InterruptedException {
    return of(batch, List.of());
  }

  /** All of it on one core: what compiles and what collects memory, too. */
  static PlanRun onOneCore(Batch batch) throws IOException, InterruptedException {
    return of(batch, ONE_CORE);
  }

  /** Of two runs of the same the one that took less: whatever else the machine does adds. */
  PlanRun orSooner(@Nullable PlanRun other) {
    return other == null || seconds < other.seconds ? this : other;
  }

  private static PlanRun of(Batch batch, List<String> heldTo)
      throws IOException, InterruptedException {
    Path problem = Files.createTempFile("batch", ".json");
    Path answer = Files.createTempFile("answer", ".json");
    try {
      Files.writeString(
          problem, CaseWriter.write(batch.orders(), RouteBench.POLICY, batch.situation(), "EUR"));
      long start = System.nanoTime();
      run(heldTo, problem, answer);
      double seconds = (System.nanoTime() - start) / 1e9;
      JsonNode said = JsonMapper.shared().readTree(answer.toFile());
      return new PlanRun(seconds, said.path("gap").asDouble());
    } finally {
      Files.delete(problem);
      Files.delete(answer);
    }
  }

  private static void run(List<String> heldTo, Path problem, Path answer)
      throws IOException, InterruptedException {
    List<String> command = new ArrayList<>(heldTo);
    command.addAll(List.of("../ordinator", "plan", problem.toString()));
    Process process =
        new ProcessBuilder(command)
            .redirectOutput(answer.toFile())
            .redirectError(ProcessBuilder.Redirect.INHERIT)
            .start();
    if (process.waitFor() != 0) {
      throw new IOException("./ordinator plan ended with " + process.exitValue());
    }
  }
}
