package dev.ordinator.stockfiles;

import dev.ordinator.core.network.RateTable;
import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.network.Lanes;
import dev.ordinator.network.Lanes.Key;
import dev.ordinator.network.Lanes.Terms;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.sheets.Cells;
import dev.ordinator.sheets.Column;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Consumer;
import org.springframework.stereotype.Component;

/** Lanes: a row for each step of the rates; a lane's rows together are all that it costs. */
@Component
class LanesFile implements StockFile {
  private final Lanes lanes;
  private final OrdinatorSettings settings;

  LanesFile(Lanes lanes, OrdinatorSettings settings) {
    this.lanes = lanes;
    this.settings = settings;
  }

  @Override
  public String name() {
    return "lanes";
  }

  @Override
  public List<Column> columns() {
    return List.of(
        Column.must("node", "its code", "STW"),
        Column.must("zone", "its code", "NL"),
        Column.must("carrier", "its code", "MERIDIAN"),
        Column.must("service", "the carrier's", "Parcel"),
        Column.may("level", "standard or express", "standard"),
        Column.may("workdays", "on which it moves", "MON-FRI"),
        Column.may("transit days", "workdays after the hand-over", "1"),
        Column.may("hazards", "classes that it carries, blanks between; none: none", "3 9"),
        Column.must("up to g", "weight of a parcel", "2000"),
        Column.must("price", "of a parcel up to that weight", "4.95"));
  }

  @Override
  public String together(Cells cells) {
    return String.join(
        "/", cells.text("node"), cells.text("zone"), cells.text("carrier"), cells.text("service"));
  }

  @Override
  public void write(Consumer<List<String>> row) {
    lanes
        .all()
        .forEach(lane -> {
          Key key = lane.key();
          Terms t = lane.terms();
          t.rates()
              .forEach(step ->
                  row.accept(
                      List.of(
                          key.node(),
                          key.zone(),
                          key.carrier(),
                          key.service(),
                          t.level().name().toLowerCase(Locale.ROOT),
                          t.workdays(),
                          Integer.toString(t.transitDays()),
                          String.join(" ", new TreeSet<>(t.hazards())),
                          Long.toString(step.upTo()),
                          Cells.written(step.price(), settings.baseCurrency()))));
        });
  }

  @Override
  public Work begin() {
    return new Telling();
  }

  private final class Telling implements Work {
    @Override
    public Look look(List<Cells> rows) {
      Key key = key(rows.getFirst());
      Optional<Terms> before = lanes.of(key);
      Terms after = told(before, rows);
      lanes.check(key, after);
      if (before.isEmpty()) {
        return Look.of(Fate.NEW, "a lane of %d rates".formatted(after.rates().size()));
      }
      Terms was = before.get();
      return Look.changed(
          new Names.Changes()
              .note("level", was.level(), after.level())
              .note("workdays", was.workdays(), after.workdays())
              .note("transit days", was.transitDays(), after.transitDays())
              .note("hazards", was.hazards(), after.hazards())
              .note("rates", words(was), words(after))
              .words());
    }

    @Override
    public void take(List<Cells> rows, String actor) {
      Key key = key(rows.getFirst());
      lanes.put(key, told(lanes.of(key), rows));
    }
  }

  private static Key key(Cells cells) {
    return new Key(
        cells.need("node"), cells.need("zone"), cells.need("carrier"), cells.need("service"));
  }

  private static String words(Terms terms) {
    return String.join(
        ", ", terms.rates().stream().map(s -> s.upTo() + " g " + s.price()).toList());
  }

  /** What the first of a lane's rows says, with the rates of all. */
  private Terms told(Optional<Terms> before, List<Cells> rows) {
    Cells first = rows.getFirst();
    return new Terms(
        first.has("level")
            ? level(first.text("level"))
            : before.map(Terms::level).orElse(ServiceLevel.STANDARD),
        first.has("workdays")
            ? first.text("workdays")
            : before.map(Terms::workdays).orElse("MON-FRI"),
        first.has("transit days")
            ? Math.toIntExact(Objects.requireNonNullElse(first.count("transit days"), 0L))
            : before.map(Terms::transitDays).orElse(1),
        first.has("hazards") ? first.words("hazards") : before.map(Terms::hazards).orElse(Set.of()),
        rows.stream()
            .map(this::step)
            .sorted(Comparator.comparingLong(RateTable.Step::upTo))
            .toList());
  }

  private RateTable.Step step(Cells cells) {
    cells.need("up to g");
    cells.need("price");
    return new RateTable.Step(
        Objects.requireNonNullElse(cells.count("up to g"), 0L),
        Objects.requireNonNullElse(cells.amount("price", settings.baseCurrency()), 0L));
  }

  private static ServiceLevel level(String text) {
    try {
      return ServiceLevel.valueOf(text.strip().toUpperCase(Locale.ROOT));
    } catch (IllegalArgumentException e) {
      throw new IllegalArgumentException("level: standard or express, not ‘" + text + "’", e);
    }
  }
}
