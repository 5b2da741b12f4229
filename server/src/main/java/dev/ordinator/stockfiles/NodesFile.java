package dev.ordinator.stockfiles;

import dev.ordinator.network.NodeTerms;
import dev.ordinator.network.NodeTerms.Terms;
import dev.ordinator.network.Nodes;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.sheets.Cells;
import dev.ordinator.sheets.Column;
import java.time.DateTimeException;
import java.time.LocalTime;
import java.util.List;
import java.util.Objects;
import java.util.TreeSet;
import java.util.function.Consumer;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** How nodes work; a file changes those that there are. */
@Component
class NodesFile implements StockFile {
  private static final String NO_LIMIT = "none";

  private final DSLContext db;
  private final Nodes nodes;
  private final NodeTerms terms;
  private final OrdinatorSettings settings;

  NodesFile(DSLContext db, Nodes nodes, NodeTerms terms, OrdinatorSettings settings) {
    this.db = db;
    this.nodes = nodes;
    this.terms = terms;
    this.settings = settings;
  }

  @Override
  public String name() {
    return "nodes";
  }

  @Override
  public List<Column> columns() {
    return List.of(
        Column.must("node", "its code", "STW"),
        Column.may("name", "as people say it", "Stillwater"),
        Column.may("time zone", "of the tz database", "Europe/Amsterdam"),
        Column.may("workdays", "weekdays, a dash from one to another", "MON-FRI,SUN"),
        Column.may("cut-off", "until then a release leaves that day", "15:00"),
        Column.may("processing days", "workdays", "0"),
        Column.may("capacity", "consignments a day; none: no limit", "200"),
        Column.may("per consignment", "what handling costs", "1.20"),
        Column.may("per line", "what handling costs", "0.30"),
        Column.may("per unit", "what handling costs", "0.05"),
        Column.may("hazards", "classes, blanks between; none: none", "3 9"),
        Column.may("returns to", "code of the node to which what it sent comes back", "STW"));
  }

  @Override
  public void write(Consumer<List<String>> row) {
    nodes
        .all()
        .forEach(node -> {
          Terms t = terms.of(node.id());
          row.accept(
              List.of(
                  node.code(),
                  t.name(),
                  t.timeZone(),
                  t.workdays(),
                  t.cutOff().toString(),
                  Integer.toString(t.processingDays()),
                  t.capacityPerDay() == null ? NO_LIMIT : t.capacityPerDay().toString(),
                  Cells.written(t.perConsignment(), settings.baseCurrency()),
                  Cells.written(t.perLine(), settings.baseCurrency()),
                  Cells.written(t.perUnit(), settings.baseCurrency()),
                  String.join(" ", new TreeSet<>(t.hazards())),
                  t.returnsTo()));
        });
  }

  @Override
  public Work begin() {
    return new Telling();
  }

  private final class Telling implements Work {
    private final Names names = new Names(db);

    @Override
    public Look look(List<Cells> rows) {
      Cells cells = rows.getFirst();
      Terms before = terms.of(names.node(cells.need("node")));
      Terms after = told(before, cells);
      NodeTerms.check(after);
      return Look.changed(
          new Names.Changes()
              .note("name", before.name(), after.name())
              .note("time zone", before.timeZone(), after.timeZone())
              .note("workdays", before.workdays(), after.workdays())
              .note("cut-off", before.cutOff(), after.cutOff())
              .note("processing days", before.processingDays(), after.processingDays())
              .note("capacity", limit(before), limit(after))
              .note("per consignment", before.perConsignment(), after.perConsignment())
              .note("per line", before.perLine(), after.perLine())
              .note("per unit", before.perUnit(), after.perUnit())
              .note("hazards", before.hazards(), after.hazards())
              .note("returns to", before.returnsTo(), after.returnsTo())
              .words());
    }

    @Override
    public void take(List<Cells> rows, String actor) {
      Cells cells = rows.getFirst();
      long node = names.node(cells.need("node"));
      terms.set(node, told(terms.of(node), cells), actor);
    }
  }

  private static String limit(Terms terms) {
    return terms.capacityPerDay() == null ? NO_LIMIT : terms.capacityPerDay().toString();
  }

  /** What a row says; of what it does not say, as it was. */
  private Terms told(Terms before, Cells cells) {
    String currency = settings.baseCurrency();
    return new Terms(
        cells.has("name") ? cells.text("name") : before.name(),
        cells.has("time zone") ? cells.text("time zone") : before.timeZone(),
        cells.has("workdays") ? cells.text("workdays") : before.workdays(),
        cells.has("cut-off") ? time(cells.text("cut-off")) : before.cutOff(),
        (int) or(cells.count("processing days"), before.processingDays()),
        capacity(before.capacityPerDay(), cells),
        or(cells.amount("per consignment", currency), before.perConsignment()),
        or(cells.amount("per line", currency), before.perLine()),
        or(cells.amount("per unit", currency), before.perUnit()),
        cells.has("hazards") ? cells.words("hazards") : before.hazards(),
        cells.has("returns to") ? cells.text("returns to") : before.returnsTo());
  }

  private static @Nullable Integer capacity(@Nullable Integer before, Cells cells) {
    if (cells.text("capacity").equalsIgnoreCase(NO_LIMIT)) {
      return null;
    }
    Long units = cells.count("capacity");
    return units == null ? before : Integer.valueOf(Math.toIntExact(units));
  }

  private static long or(@Nullable Long said, long before) {
    return Objects.requireNonNullElse(said, before);
  }

  private static LocalTime time(String text) {
    try {
      return LocalTime.parse(text.length() == 4 ? "0" + text : text);
    } catch (DateTimeException e) {
      throw new IllegalArgumentException(
          "cut-off: ‘%s’ is no time such as 15:00".formatted(text), e);
    }
  }
}
