package dev.ordinator.planning;

import java.io.IOException;
import java.io.PrintStream;
import java.nio.file.Files;
import java.nio.file.Path;
import tools.jackson.core.StreamWriteFeature;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

/**
 * {@code plan CASE.json}: prints the plans of a planning case, without any application or database.
 * {@code plan --example ORDERS}: prints a made-up case of so many orders.
 */
public final class PlanCommand {
  private static final JsonMapper JSON =
      JsonMapper.builder()
          .enable(SerializationFeature.INDENT_OUTPUT)
          .disable(StreamWriteFeature.AUTO_CLOSE_TARGET)
          .build();

  private PlanCommand() {}

  /**
   * @param arguments the file, or what example is wanted
   * @return the exit code: 0, or 2 if there is no such file or it is no planning case
   */
  public static int run(String[] arguments, PrintStream out, PrintStream err) {
    if (arguments.length == 2 && arguments[0].equals("--example")) {
      return example(arguments[1], out, err);
    }
    if (arguments.length != 1) {
      err.println("usage: plan CASE.json, or plan --example ORDERS");
      return 2;
    }
    try {
      PlanningAnswer answer = Planner.solve(Files.readString(Path.of(arguments[0])));
      JSON.writeValue(out, answer);
      out.println();
      return 0;
    } catch (CaseError wrong) {
      err.println(arguments[0] + ": " + wrong.getMessage());
    } catch (IOException unreadable) {
      err.println(arguments[0] + " can’t be read: " + unreadable.getMessage());
    }
    return 2;
  }

  private static int example(String orders, PrintStream out, PrintStream err) {
    if (!orders.matches("[1-9][0-9]{0,5}")) {
      err.println("plan --example needs a number of orders, 1 to 999999, not " + orders);
      return 2;
    }
    out.println(ExampleCase.of(Integer.parseInt(orders)));
    return 0;
  }
}
