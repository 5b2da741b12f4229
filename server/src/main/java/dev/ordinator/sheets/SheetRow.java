package dev.ordinator.sheets;

import java.util.List;

/**
 * A row of a file.
 *
 * @param number as a person counts it
 * @param cells as texts: numbers plain with a point before decimals, days in ISO form, TRUE or
 *     FALSE
 * @param types a letter for each cell, of its {@link CellType}; missing ones are texts
 */
public record SheetRow(int number, List<String> cells, String types) {

  /** Of a text file. */
  public static SheetRow ofTexts(int number, List<String> cells) {
    return new SheetRow(number, cells, "");
  }

  /** Empty if the row has no such cell. */
  public String text(int column) {
    return column < cells.size() ? cells.get(column).strip() : "";
  }

  public CellType type(int column) {
    return type(types, column);
  }

  /** Of a cell by the letters of its row. */
  public static CellType type(String types, int column) {
    return column < types.length() ? CellType.of(types.charAt(column)) : CellType.TEXT;
  }
}
