package dev.ordinator.core.dispatch;

import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** What is in the parcel so far against what belongs there. Immutable: a scan gives a new check. */
public record PackCheck(List<Line> lines) {

  /**
   * @param packed units scanned; 0 ≤ packed ≤ quantity
   * @param bySerial whether each unit has a serial number, which must be scanned
   * @param lots from which it is to be taken; empty: from any
   */
  public record Line(
      long id,
      String sku,
      @Nullable String gtin,
      long quantity,
      long packed,
      boolean bySerial,
      Set<String> lots) {
    public Line {
      lots = Set.copyOf(lots);
      if (packed < 0 || packed > quantity) {
        throw new IllegalArgumentException("packed " + packed + " of " + quantity + " of " + sku);
      }
    }

    private boolean isMeantBy(String code) {
      return code.equalsIgnoreCase(sku)
          || (gtin != null && stripZeros(code).equals(stripZeros(gtin)));
    }

    private long left() {
      return quantity - packed;
    }

    private boolean isFrom(String lot) {
      return lots.isEmpty() || lots.stream().anyMatch(lot::equalsIgnoreCase);
    }

    private Line counting() {
      return new Line(id, sku, gtin, quantity, packed + 1, bySerial, lots);
    }
  }

  /** What a scan found. */
  public sealed interface Scan {
    /** The unit belongs here; {@code after} counts it. */
    record Counted(long line, PackCheck after) implements Scan {}

    /** Not in this consignment. */
    record WrongItem(String code) implements Scan {}

    /** In this consignment, but all of it is packed. */
    record TooMany(String sku, long quantity) implements Scan {}

    /** The item is right; which of its units it is remains to be scanned. */
    record NeedsSerial(String sku) implements Scan {}

    /** The right item of a wrong lot. */
    record WrongLot(String sku, String lot, Set<String> wanted) implements Scan {}
  }

  public PackCheck {
    lines = List.copyOf(lines);
  }

  /** Whether a code means an item that belongs here. */
  public boolean names(String code) {
    return lines.stream().anyMatch(l -> l.isMeantBy(code.strip()));
  }

  /**
   * Looks at one scanned unit.
   *
   * @param code an SKU, or a GTIN with or without leading zeros
   * @param mark the unit's lot or serial number; null: not scanned
   */
  public Scan scan(String code, @Nullable String mark) {
    String scanned = code.strip();
    List<Line> meant = lines.stream().filter(l -> l.isMeantBy(scanned)).toList();
    if (meant.isEmpty()) {
      return new Scan.WrongItem(scanned);
    }
    List<Line> wanting = meant.stream().filter(l -> l.left() > 0).toList();
    Line first = meant.getFirst();
    if (wanting.isEmpty()) {
      return new Scan.TooMany(first.sku(), meant.stream().mapToLong(Line::quantity).sum());
    }
    if (mark == null) {
      return first.bySerial() ? new Scan.NeedsSerial(first.sku()) : counted(wanting.getFirst());
    }
    return wanting.stream()
        .filter(l -> l.isFrom(mark))
        .findFirst()
        .map(this::counted)
        .orElseGet(() ->
            new Scan.WrongLot(
                first.sku(),
                mark,
                wanting.stream()
                    .flatMap(l -> l.lots().stream())
                    .collect(Collectors.toCollection(TreeSet::new))));
  }

  /** Whether everything is in. */
  public boolean complete() {
    return lines.stream().allMatch(l -> l.left() == 0);
  }

  private Scan counted(Line one) {
    return new Scan.Counted(
        one.id(),
        new PackCheck(lines.stream().map(l -> Objects.equals(l, one) ? l.counting() : l).toList()));
  }

  private static String stripZeros(String code) {
    return code.replaceFirst("^0+", "");
  }
}
