package dev.ordinator.planning;

import java.io.IOException;
import java.io.PrintStream;
import java.nio.file.Files;
import java.nio.file.Path;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

/**
 * {@code plan CASE.json}: prints the plans of a planning case, without any application or database.
 */
public final class PlanCommand {
  private PlanCommand() {}

  /**
   * @param arguments the file
   * @return the exit code: 0, or 2 if there is no such file or it is no planning case
   */
  public static int run(String[] arguments, PrintStream out, PrintStream err) {
    if (arguments.length != 1) {
      err.println("usage: plan CASE.json");
      return 2;
    }
    try {
      PlanningAnswer answer = Planner.solve(Files.readString(Path.of(arguments[0])));
      out.println(
          JsonMapper.builder()
              .enable(SerializationFeature.INDENT_OUTPUT)
              .build()
              .writeValueAsString(answer));
      return 0;
    } catch (CaseError wrong) {
      err.println(arguments[0] + ": " + wrong.getMessage());
    } catch (IOException unreadable) {
      err.println(arguments[0] + " can’t be read: " + unreadable.getMessage());
    }
    return 2;
  }
}
