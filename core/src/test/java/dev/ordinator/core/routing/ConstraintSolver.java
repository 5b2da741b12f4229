package dev.ordinator.core.routing;

import com.google.ortools.Loader;
import com.google.ortools.sat.BoolVar;
import com.google.ortools.sat.CpModel;
import com.google.ortools.sat.CpSolver;
import com.google.ortools.sat.CpSolverStatus;
import com.google.ortools.sat.LinearExpr;
import com.google.ortools.sat.LinearExprBuilder;
import com.google.ortools.sat.Literal;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Gives each order one of its ways by an integer programme, solved by CP-SAT: somebody else's word
 * on batches that are too large to try everything.
 */
final class ConstraintSolver {
  /**
   * @param least what it found
   * @param bound nothing comes to less
   */
  record Answer(double least, double bound) {}

  private ConstraintSolver() {}

  /**
   * @param ways of each order
   * @param there by what ways take
   */
  static Answer solve(List<List<PlainBatch.Way>> ways, Map<String, Long> there) {
    Loader.loadNativeLibraries();
    CpModel model = new CpModel();
    LinearExprBuilder cost = LinearExpr.newBuilder();
    Map<String, LinearExprBuilder> taken = new HashMap<>();
    for (List<PlainBatch.Way> some : ways) {
      List<Literal> choices = new ArrayList<>();
      for (PlainBatch.Way way : some) {
        BoolVar chosen = model.newBoolVar("");
        choices.add(chosen);
        // it begins with nothing filled, so that it has an answer however slow the machine is
        model.addHint(chosen, way.takes().isEmpty() ? 1 : 0);
        cost.addTerm(chosen, way.value());
        way.takes()
            .forEach((what, units) ->
                taken.computeIfAbsent(what, w -> LinearExpr.newBuilder()).addTerm(chosen, units));
      }
      model.addExactlyOne(choices);
    }
    taken.forEach((what, units) -> {
      if (there.containsKey(what)) {
        model.addLessOrEqual(units, there.get(what));
      }
    });
    model.minimize(cost);
    CpSolver solver = new CpSolver();
    // It ends by how near it is, or by work done; a limit in seconds would fail on a slow machine.
    solver.getParameters().setNumWorkers(2).setRelativeGapLimit(0.004).setMaxDeterministicTime(5);
    CpSolverStatus status = solver.solve(model);
    if (status != CpSolverStatus.OPTIMAL && status != CpSolverStatus.FEASIBLE) {
      throw new IllegalStateException("CP-SAT has no answer: " + status);
    }
    return new Answer(solver.objectiveValue(), solver.bestObjectiveBound());
  }
}
