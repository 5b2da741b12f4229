package dev.ordinator.core.dispatch;

import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** What is in the parcel so far against what belongs there. Immutable: a scan gives a new check. */
public record PackCheck(List<Line> lines) {

  /**
   * @param packed units scanned; 0 ≤ packed ≤ quantity
   */
  public record Line(long id, String sku, @Nullable String gtin, long quantity, long packed) {
    public Line {
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
  }

  /** What a scan found. */
  public sealed interface Scan {
    /** The unit belongs here; {@code after} counts it. */
    record Counted(long line, PackCheck after) implements Scan {}

    /** Not in this consignment. */
    record WrongItem(String code) implements Scan {}

    /** In this consignment, but all of it is packed. */
    record TooMany(String sku, long quantity) implements Scan {}
  }

  public PackCheck {
    lines = List.copyOf(lines);
  }

  /**
   * Looks at one scanned unit.
   *
   * @param code an SKU, or a GTIN with or without leading zeros
   */
  public Scan scan(String code) {
    String scanned = code.strip();
    List<Line> meant = lines.stream().filter(l -> l.isMeantBy(scanned)).toList();
    if (meant.isEmpty()) {
      return new Scan.WrongItem(scanned);
    }
    return meant.stream()
        .filter(l -> l.left() > 0)
        .findFirst()
        .<Scan>map(l -> new Scan.Counted(l.id(), counting(l)))
        .orElseGet(() ->
            new Scan.TooMany(
                meant.getFirst().sku(), meant.stream().mapToLong(Line::quantity).sum()));
  }

  /** Whether everything is in. */
  public boolean complete() {
    return lines.stream().allMatch(l -> l.left() == 0);
  }

  private PackCheck counting(Line one) {
    return new PackCheck(
        lines.stream()
            .map(l ->
                Objects.equals(l, one)
                    ? new Line(l.id(), l.sku(), l.gtin(), l.quantity(), l.packed() + 1)
                    : l)
            .toList());
  }

  private static String stripZeros(String code) {
    return code.replaceFirst("^0+", "");
  }
}
