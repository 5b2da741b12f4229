package dev.ordinator.core.routing;

import static org.assertj.core.api.Assertions.assertThat;

import com.google.ortools.Loader;
import com.google.ortools.linearsolver.MPConstraint;
import com.google.ortools.linearsolver.MPSolver;
import com.google.ortools.linearsolver.MPVariable;
import dev.ordinator.core.routing.OrderOptions.Option;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.stream.DoubleStream;
import org.junit.jupiter.api.Test;

/** Charges against the linear programme in which an order may have parts of several options. */
class TuningTest {
  private static final int THINGS = 30;
  private static final int ORDERS = 60;

  @Test
  void theSumWithChargesComesWithinAHundredthOfTheLinearProgramme() {
    Loader.loadNativeLibraries();
    Random random = new Random(31);
    for (int round = 0; round < 20; round++) {
      long[] have = random.longs(THINGS, 1, 4).toArray();
      List<List<Option>> orders = RandomOptions.of(ORDERS, THINGS, random);
      double[] charges = Tuning.tune(new OptionTable(orders), have, new double[THINGS], 600, 200);
      double sum = sum(orders, have, charges);
      double least = linear(orders, have);
      assertThat(DoubleStream.of(charges)).as("round %d", round).allMatch(c -> c >= 0);
      assertThat(sum)
          .as("round %d", round)
          .isLessThanOrEqualTo(least + 0.001)
          .isGreaterThanOrEqualTo(0.99 * least);
    }
  }

  private static double sum(List<List<Option>> orders, long[] have, double[] charges) {
    double sum = 0;
    for (int thing = 0; thing < THINGS; thing++) {
      sum -= charges[thing] * have[thing];
    }
    for (List<Option> order : orders) {
      sum += order.stream().mapToDouble(o -> charged(o, charges)).min().orElseThrow();
    }
    return sum;
  }

  private static double charged(Option option, double[] charges) {
    double charged = option.value();
    for (int thing = 0; thing < THINGS; thing++) {
      charged += charges[thing] * option.takes().of(thing);
    }
    return charged;
  }

  private static double linear(List<List<Option>> orders, long[] have) {
    MPSolver solver = MPSolver.createSolver("GLOP");
    List<MPConstraint> enough = new ArrayList<>();
    for (long units : have) {
      enough.add(solver.makeConstraint(0, units));
    }
    solver.objective().setMinimization();
    for (List<Option> order : orders) {
      MPConstraint one = solver.makeConstraint(1, 1);
      for (Option option : order) {
        MPVariable part = solver.makeNumVar(0, 1, "");
        one.setCoefficient(part, 1);
        solver.objective().setCoefficient(part, option.value());
        for (int thing = 0; thing < THINGS; thing++) {
          if (option.takes().of(thing) > 0) {
            enough.get(thing).setCoefficient(part, option.takes().of(thing));
          }
        }
      }
    }
    solver.solve();
    return solver.objective().value();
  }
}
