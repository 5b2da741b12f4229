package dev.ordinator.stockfiles;

import dev.ordinator.network.CapacityDays;
import dev.ordinator.network.CapacityDays.OtherDay;
import dev.ordinator.network.Nodes;
import dev.ordinator.sheets.Cells;
import dev.ordinator.sheets.Column;
import java.time.Clock;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import org.jooq.DSLContext;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Days on which nodes hand over more or less than usually. */
@Component
class CapacityFile implements StockFile {
  private static final String NO_LIMIT = "none";
  private static final String AS_USUAL = "usual";

  private final DSLContext db;
  private final Nodes nodes;
  private final CapacityDays capacities;
  private final Clock clock;

  CapacityFile(DSLContext db, Nodes nodes, CapacityDays capacities, Clock clock) {
    this.db = db;
    this.nodes = nodes;
    this.capacities = capacities;
    this.clock = clock;
  }

  @Override
  public String name() {
    return "capacity";
  }

  @Override
  public List<Column> columns() {
    return List.of(
        Column.must("node", "its code", "STW"),
        Column.must("day", "", "2026-12-18"),
        Column.must("consignments", "on that day; none: no limit; usual: as on others", "350"));
  }

  @Override
  public void write(Consumer<List<String>> row) {
    LocalDate today = LocalDate.now(clock);
    nodes
        .all()
        .forEach(node ->
            capacities
                .coming(node.id(), today)
                .forEach(other ->
                    row.accept(List.of(node.code(), other.day().toString(), words(other)))));
  }

  private static String words(OtherDay other) {
    return other.consignments() == null ? NO_LIMIT : other.consignments().toString();
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
      LocalDate day = day(cells);
      Optional<OtherDay> before = before(names.node(cells.need("node")), day);
      OtherDay after = after(cells, day);
      if (after == null) {
        return before.isEmpty() ? Look.SAME : Look.of(Fate.CHANGED, "as usual again");
      }
      if (before.isEmpty()) {
        return Look.of(Fate.NEW, words(after));
      }
      return Look.changed(
          new Names.Changes().note("consignments", words(before.get()), words(after)).words());
    }

    @Override
    public void take(List<Cells> rows, String actor) {
      Cells cells = rows.getFirst();
      long node = names.node(cells.need("node"));
      LocalDate day = day(cells);
      OtherDay after = after(cells, day);
      if (after == null) {
        capacities.forget(node, day);
      } else {
        capacities.set(node, after);
      }
    }
  }

  private Optional<OtherDay> before(long node, LocalDate day) {
    return capacities.coming(node, day).stream().filter(o -> o.day().equals(day)).findFirst();
  }

  private static LocalDate day(Cells cells) {
    cells.need("day");
    LocalDate day = cells.day("day");
    if (day == null) {
      throw new IllegalArgumentException("the day is missing");
    }
    return day;
  }

  /** Null: as usual. */
  private static @Nullable OtherDay after(Cells cells, LocalDate day) {
    String said = cells.need("consignments");
    if (said.equalsIgnoreCase(AS_USUAL)) {
      return null;
    }
    Long units = said.equalsIgnoreCase(NO_LIMIT) ? null : cells.count("consignments");
    return new OtherDay(day, units == null ? null : Integer.valueOf(Math.toIntExact(units)));
  }
}
