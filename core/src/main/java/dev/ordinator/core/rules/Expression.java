package dev.ordinator.core.rules;

import dev.cel.common.CelAbstractSyntaxTree;
import dev.cel.common.CelIssue;
import dev.cel.common.CelOptions;
import dev.cel.common.CelValidationException;
import dev.cel.common.CelValidationResult;
import dev.cel.common.ast.CelExpr;
import dev.cel.common.navigation.CelNavigableAst;
import dev.cel.common.types.CelType;
import dev.cel.common.types.ListType;
import dev.cel.common.types.NullableType;
import dev.cel.common.types.SimpleType;
import dev.cel.common.values.NullValue;
import dev.cel.compiler.CelCompiler;
import dev.cel.compiler.CelCompilerBuilder;
import dev.cel.compiler.CelCompilerFactory;
import dev.cel.parser.CelStandardMacro;
import dev.cel.runtime.CelEvaluationException;
import dev.cel.runtime.CelRuntime;
import dev.cel.runtime.CelRuntimeFactory;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.function.Function;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * A condition in CEL, the Common Expression Language (<a
 * href="https://github.com/google/cel-spec">its definition</a>), over an order's facts and nothing
 * else. It has no loops but those over lists. What it may cost is bounded: texts and lists in
 * length, patterns in size (they are matched in time linear in the text, as RE2 does), and all of
 * it in steps. One that can't be worked out for an order, such as a division by zero, does not
 * hold.
 */
public final class Expression implements Condition {
  /** Code points. */
  public static final int LONGEST = 1_000;

  private static final int DEEPEST = 40;
  private static final int LARGEST_PATTERN = 200;
  private static final CelOptions LIMITS =
      CelOptions.current()
          .maxExpressionCodePointSize(LONGEST)
          .maxParseRecursionDepth(DEEPEST)
          .comprehensionMaxIterations(
              -1) // EvaluationBudget counts all steps, those of loops among them
          .maxRegexProgramSize(LARGEST_PATTERN)
          .build();
  private static final Pattern REPEATS = Pattern.compile("\\{(\\d+)(?:,(\\d+)|,)?\\}");
  private static final Pattern STOCK = Pattern.compile("\\b(available|stockedAt)\\b");
  private static final Map<String, Fact> FACTS = facts();
  private static final CelCompiler COMPILER = compiler();
  private static final CelRuntime RUNTIME =
      CelRuntimeFactory.standardCelRuntimeBuilder().setOptions(LIMITS).build();

  private final String text;
  private final Optional<String> wrongPattern;
  private final CelRuntime.Program program;

  /**
   * A fact as expressions name it.
   *
   * @param type as CEL writes it
   */
  public record Name(String name, String type) {}

  /**
   * What is wrong with a text.
   *
   * @param line from 1, as is {@code column}
   */
  public record Fault(int line, int column, String what) {}

  private record Fact(CelType type, Function<OrderFacts, @Nullable Object> of) {}

  /** An order's expression took more steps than it may. */
  public static final class TooCostly extends RuntimeException {
    private static final long serialVersionUID = 1L;

    TooCostly(String text) {
      super("it takes too many steps: " + text);
    }
  }

  /**
   * What it costs is not looked at: one that was kept before stays readable.
   *
   * @throws IllegalArgumentException if it is not sound; says where
   */
  public Expression(String text) {
    this.text = text;
    CelValidationResult compiled = COMPILER.compile(text);
    List<CelIssue> errors = compiled.getErrors();
    if (!errors.isEmpty()) {
      Fault first = fault(errors.getFirst());
      throw new IllegalArgumentException(
          "line %d, column %d: %s".formatted(first.line(), first.column(), first.what()));
    }
    try {
      CelAbstractSyntaxTree tree = compiled.getAst();
      this.wrongPattern = wrongPattern(tree);
      this.program = RUNTIME.createProgram(tree);
    } catch (CelValidationException | CelEvaluationException wrong) {
      throw new IllegalArgumentException(wrong.getMessage(), wrong);
    }
  }

  /**
   * What is wrong with a text, and what in it costs more than it may; nothing if it is an
   * expression that says yes or no.
   */
  public static List<Fault> faults(String text) {
    List<CelIssue> errors = COMPILER.compile(text).getErrors();
    return errors.isEmpty()
        ? new Expression(text).costs().stream().toList()
        : errors.stream().map(Expression::fault).toList();
  }

  /** What in it costs more than it may, for an order larger than nearly all. */
  public Optional<Fault> costs() {
    try {
      holds(LargeOrder.FACTS);
      return Optional.empty();
    } catch (TooCostly e) {
      return Optional.of(
          new Fault(
              1, 1, wrongPattern.orElse("for a large order it takes more steps than it may")));
    }
  }

  /** A pattern that may cost more than steps can count. */
  private static Optional<String> wrongPattern(CelAbstractSyntaxTree tree) {
    return CelNavigableAst.fromAst(tree)
        .getRoot()
        .allNodes()
        .flatMap(node -> wrongPattern(node.expr()).stream())
        .findFirst();
  }

  private static Optional<String> wrongPattern(CelExpr expr) {
    if (expr.getKind() != CelExpr.ExprKind.Kind.CALL || !expr.call().function().equals("matches")) {
      return Optional.empty();
    }
    List<CelExpr> operands = expr.call().args();
    CelExpr pattern = operands.getLast();
    if (pattern.getKind() != CelExpr.ExprKind.Kind.CONSTANT) {
      return Optional.of("a pattern is written out, not put together");
    }
    long repeats = 1;
    Matcher counts = REPEATS.matcher(pattern.constant().stringValue());
    while (counts.find() && repeats <= LARGEST_PATTERN) {
      String most = counts.group(2) == null ? counts.group(1) : counts.group(2);
      // ten digits and more are more than any pattern may have
      repeats *= most.length() > 9 ? LARGEST_PATTERN + 1 : Math.max(1, Long.parseLong(most));
    }
    return repeats > LARGEST_PATTERN
        ? Optional.of("a pattern repeats at most %d times in all".formatted(LARGEST_PATTERN))
        : Optional.empty();
  }

  private static Fault fault(CelIssue issue) {
    return new Fault(
        Math.max(1, issue.getSourceLocation().getLine()),
        issue.getSourceLocation().getColumn() + 1,
        issue.getMessage());
  }

  /** What expressions can ask for. */
  public static List<Name> names() {
    return FACTS.entrySet().stream()
        .map(f -> new Name(f.getKey(), f.getValue().type().name().toLowerCase(Locale.ROOT)))
        .toList();
  }

  public String text() {
    return text;
  }

  /**
   * @throws TooCostly if it takes more steps than it may
   */
  @Override
  public boolean holds(OrderFacts facts) {
    if (wrongPattern.isPresent()) {
      throw new TooCostly(text);
    }
    Map<String, Object> values = new HashMap<>();
    FACTS.forEach((name, fact) ->
        values.put(name, Objects.requireNonNullElse(fact.of().apply(facts), NullValue.NULL_VALUE)));
    EvaluationBudget budget = new EvaluationBudget(text);
    try {
      return Boolean.TRUE.equals(program.trace(values, budget));
    } catch (CelEvaluationException cantBe) {
      budget.requireKept();
      return false;
    }
  }

  @Override
  public boolean looksAtStock() {
    return STOCK.matcher(text).find();
  }

  private static Map<String, Fact> facts() {
    CelType text = SimpleType.STRING;
    CelType number = SimpleType.INT;
    CelType texts = ListType.create(text);
    Map<String, Fact> facts = new LinkedHashMap<>();
    facts.put("channel", new Fact(text, OrderFacts::channel));
    facts.put("site", new Fact(text, OrderFacts::site));
    facts.put("payment", new Fact(text, f -> f.payment().name()));
    facts.put("paymentMethod", new Fact(text, OrderFacts::paymentMethod));
    facts.put("serviceAsked", new Fact(text, OrderFacts::serviceAsked));
    facts.put("country", new Fact(text, OrderFacts::country));
    facts.put("city", new Fact(text, OrderFacts::city));
    facts.put("postcode", new Fact(text, OrderFacts::postcode));
    facts.put("buyer", new Fact(text, OrderFacts::buyer));
    facts.put("customerGroup", new Fact(text, OrderFacts::customerGroup));
    facts.put("firstOrder", new Fact(SimpleType.BOOL, OrderFacts::firstOrder));
    facts.put("orderedTwice", new Fact(SimpleType.BOOL, OrderFacts::orderedTwice));
    facts.put("weekday", new Fact(text, f -> f.weekday().name()));
    facts.put("hour", new Fact(number, f -> (long) f.hour()));
    facts.put("daysToArrival", new Fact(NullableType.create(number), OrderFacts::daysToArrival));
    facts.put("value", new Fact(number, OrderFacts::value));
    facts.put("weight", new Fact(number, f -> f.goods().weight()));
    facts.put("units", new Fact(number, f -> f.goods().units()));
    facts.put("lines", new Fact(number, f -> f.goods().lines()));
    facts.put("skus", new Fact(texts, f -> List.copyOf(f.goods().skus())));
    facts.put("gtins", new Fact(texts, f -> List.copyOf(f.goods().gtins())));
    facts.put("categories", new Fact(texts, f -> List.copyOf(f.goods().categories())));
    facts.put("itemTags", new Fact(texts, f -> List.copyOf(f.goods().tags())));
    facts.put("suppliers", new Fact(texts, f -> List.copyOf(f.goods().suppliers())));
    facts.put("available", new Fact(NullableType.create(number), f -> f.goods().available()));
    facts.put("stockedAt", new Fact(texts, f -> List.copyOf(f.goods().stockedAt())));
    facts.put("homeNodes", new Fact(texts, f -> List.copyOf(f.goods().homes())));
    facts.put("tags", new Fact(texts, f -> List.copyOf(f.tags())));
    return facts;
  }

  private static CelCompiler compiler() {
    CelCompilerBuilder builder =
        CelCompilerFactory.standardCelCompilerBuilder()
            .setOptions(LIMITS)
            .setStandardMacros(CelStandardMacro.STANDARD_MACROS)
            .setResultType(SimpleType.BOOL);
    FACTS.forEach((name, fact) -> builder.addVar(name, fact.type()));
    return builder.build();
  }

  @Override
  public boolean equals(@Nullable Object other) {
    return other instanceof Expression e && text.equals(e.text);
  }

  @Override
  public int hashCode() {
    return text.hashCode();
  }

  @Override
  public String toString() {
    return text;
  }
}
