package dev.ordinator.sheets;

/** What a spreadsheet says that a cell is. In a text file every cell is a text. */
public enum CellType {
  TEXT('T'),
  NUMBER('N'),
  DATE('D'),
  BOOLEAN('B'),
  ERROR('E');

  private final char letter;

  CellType(char letter) {
    this.letter = letter;
  }

  /** By which it is kept. */
  public char letter() {
    return letter;
  }

  static CellType of(char letter) {
    for (CellType type : values()) {
      if (type.letter == letter) {
        return type;
      }
    }
    throw new IllegalArgumentException("no type of cell: " + letter);
  }
}
