package dev.ordinator.core.rules;

import dev.cel.common.ast.CelExpr;
import dev.cel.runtime.CelEvaluationListener;
import dev.ordinator.core.rules.Expression.TooCostly;
import java.util.Collection;
import java.util.Map;

/** Counts what one evaluation of an expression costs, and ends it when that is too much. */
final class EvaluationBudget implements CelEvaluationListener {
  private static final int MOST_STEPS = 20_000;

  /** Steps that looking for a pattern in the longest text comes to. */
  private static final int STEPS_OF_A_PATTERN = 50;

  private static final int LONGEST_TEXT = 1_000;
  private static final int LONGEST_LIST = 1_000;

  private final String text;
  private int steps;
  private boolean kept = true;

  EvaluationBudget(String text) {
    this.text = text;
  }

  @Override
  public void callback(CelExpr expr, Object result) {
    boolean pattern =
        expr.getKind() == CelExpr.ExprKind.Kind.CALL && expr.call().function().equals("matches");
    steps += pattern ? STEPS_OF_A_PATTERN : 1;
    kept &= steps <= MOST_STEPS && isShort(result);
    requireKept();
  }

  /**
   * @throws TooCostly if it was too much, whatever the evaluation made of that
   */
  void requireKept() {
    if (!kept) {
      throw new TooCostly(text);
    }
  }

  private static boolean isShort(Object result) {
    return switch (result) {
      case String made -> made.length() <= LONGEST_TEXT;
      case Collection<?> list -> list.size() <= LONGEST_LIST;
      case Map<?, ?> map -> map.size() <= LONGEST_LIST;
      default -> true;
    };
  }
}
