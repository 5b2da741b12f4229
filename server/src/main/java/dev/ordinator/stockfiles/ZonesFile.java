package dev.ordinator.stockfiles;

import dev.ordinator.network.Zones;
import dev.ordinator.network.Zones.Part;
import dev.ordinator.sheets.Cells;
import dev.ordinator.sheets.Column;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Consumer;
import org.springframework.stereotype.Component;

/** Zones: a row for each part; a zone's rows together are all that is in it. */
@Component
class ZonesFile implements StockFile {
  private final Zones zones;

  ZonesFile(Zones zones) {
    this.zones = zones;
  }

  @Override
  public String name() {
    return "zones";
  }

  @Override
  public List<Column> columns() {
    return List.of(
        Column.must("zone", "its code", "NL-NORTH"),
        Column.must("country", "two letters", "NL"),
        Column.may("postcode", "what it begins with; empty: the whole country", "9"));
  }

  @Override
  public String together(Cells cells) {
    return cells.text("zone");
  }

  @Override
  public void write(Consumer<List<String>> row) {
    zones
        .all()
        .forEach((code, parts) ->
            parts.forEach(p -> row.accept(List.of(code, p.country(), p.postcode()))));
  }

  @Override
  public Work begin() {
    return new Telling();
  }

  private final class Telling implements Work {
    @Override
    public Look look(List<Cells> rows) {
      String code = rows.getFirst().need("zone");
      Set<Part> after = parts(rows);
      Zones.check(code, after);
      Set<Part> before = zones.all().get(code);
      if (before == null) {
        return Look.of(Fate.NEW, "a zone of %d parts".formatted(after.size()));
      }
      List<String> changes = new ArrayList<>();
      before.stream().filter(p -> !after.contains(p)).forEach(p -> changes.add("− " + words(p)));
      after.stream().filter(p -> !before.contains(p)).forEach(p -> changes.add("+ " + words(p)));
      return Look.changed(changes);
    }

    @Override
    public void take(List<Cells> rows, String actor) {
      zones.put(rows.getFirst().need("zone"), parts(rows));
    }
  }

  private static Set<Part> parts(List<Cells> rows) {
    Set<Part> parts = new TreeSet<>();
    rows.forEach(cells ->
        parts.add(
            new Part(cells.need("country").toUpperCase(Locale.ROOT), cells.text("postcode"))));
    return parts;
  }

  private static String words(Part part) {
    return (part.country() + " " + part.postcode()).strip();
  }
}
