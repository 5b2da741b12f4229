package dev.ordinator.bench;

import dev.ordinator.planning.CaseWriter;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * A batch solved by {@code ./ordinator plan} from a file.
 *
 * @param inAll seconds from the start of the command to its end
 * @param solving seconds of these that it says it took to read the case and to route
 */
record PlanRun(double inAll, double solving, double gap) {
  private static final List<String> ONE_CORE = List.of("taskset", "--cpu-list", "0");

  /** With all cores that there are. */
  static PlanRun of(Batch batch) throws IOException, InterruptedException {
    return of(batch, List.of());
  }

  /** All of it on one core: what compiles and what collects memory, too. */
  static PlanRun onOneCore(Batch batch) throws IOException, InterruptedException {
    return of(batch, ONE_CORE);
  }

  private static PlanRun of(Batch batch, List<String> heldTo)
      throws IOException, InterruptedException {
    Path problem = Files.createTempFile("batch", ".json");
    Path answer = Files.createTempFile("answer", ".json");
    try {
      Files.writeString(
          problem, CaseWriter.write(batch.orders(), RouteBench.POLICY, batch.situation(), "EUR"));
      // the first time it unpacks itself
      run(heldTo, problem, answer);
      long start = System.nanoTime();
      run(heldTo, problem, answer);
      double inAll = (System.nanoTime() - start) / 1e9;
      JsonNode said = JsonMapper.shared().readTree(answer.toFile());
      return new PlanRun(inAll, said.path("seconds").asDouble(), said.path("gap").asDouble());
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
