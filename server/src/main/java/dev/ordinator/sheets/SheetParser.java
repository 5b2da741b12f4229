package dev.ordinator.sheets;

import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.Reader;
import java.io.UncheckedIOException;
import java.math.BigDecimal;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.function.Consumer;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVRecord;
import org.dhatim.fastexcel.reader.Cell;
import org.dhatim.fastexcel.reader.CellType;
import org.dhatim.fastexcel.reader.ReadableWorkbook;
import org.dhatim.fastexcel.reader.ReadingOptions;
import org.dhatim.fastexcel.reader.Row;

/** Reads CSV, whatever parts its cells, and the first sheet of XLSX, row by row. */
public final class SheetParser {
  private static final int MOST_ROWS = 500_000;
  private static final int MOST_COLUMNS = 100;
  private static final int LONGEST_CELL = 4_000;
  private static final int HEAD = 8_000;
  private static final Pattern NUMBER = Pattern.compile("-?\\d+(\\.\\d+)?([eE][+-]?\\d+)?");

  /** From which workbooks count days; right for all days after February 1900. */
  private static final LocalDate DAY_ZERO = LocalDate.of(1899, 12, 30);

  private static final long MOST_UNPACKED = 512L * 1024 * 1024;
  private static final Charset OLDER = Charset.forName("windows-1252");

  private SheetParser() {}

  /**
   * @param row gets each row that has anything in it; its number is as a person counts it
   * @throws Problem if it is no such file, or too large
   */
  public static void read(Path file, Consumer<SheetRow> row) {
    try {
      byte[] head = head(file);
      if (head.length > 1 && head[0] == 'P' && head[1] == 'K') {
        readWorkbook(file, row);
      } else {
        readText(file, head, row);
      }
    } catch (IOException | UncheckedIOException | IllegalStateException e) {
      throw Problem.invalid("file", "this can’t be read as CSV or XLSX: " + Texts.of(e));
    }
  }

  public record SheetRow(int number, List<String> cells) {}

  private static byte[] head(Path file) throws IOException {
    try (InputStream in = Files.newInputStream(file)) {
      return in.readNBytes(HEAD);
    }
  }

  private static void readText(Path file, byte[] head, Consumer<SheetRow> row) throws IOException {
    Charset charset = isUtf8(file) ? StandardCharsets.UTF_8 : OLDER;
    CSVFormat format =
        CSVFormat.RFC4180.builder().setDelimiter(delimiter(head, charset)).setTrim(true).get();
    try (InputStream in = Files.newInputStream(file)) {
      in.skipNBytes(startsWithMark(head) ? 3 : 0);
      CSVParser rows = format.parse(new InputStreamReader(in, charset));
      for (CSVRecord record : rows) {
        give(row, (int) record.getRecordNumber(), record.stream().toList());
      }
    }
  }

  /**
   * A small file can hold far more than memory does. What it says of its own sizes may be a lie: it
   * is unpacked to nowhere and counted, and given up as soon as it is too much.
   */
  private static void requireSane(Path file) throws IOException {
    byte[] part = new byte[HEAD];
    long left = MOST_UNPACKED;
    try (ZipFile zip = new ZipFile(file.toFile())) {
      for (ZipEntry entry : Collections.list(zip.entries())) {
        try (InputStream in = zip.getInputStream(entry)) {
          for (int got = in.read(part); got >= 0; got = in.read(part)) {
            left -= got;
            if (left < 0) {
              throw Problem.invalid(
                  "file",
                  "it holds more than %d MB once it is unpacked"
                      .formatted(MOST_UNPACKED / 1024 / 1024));
            }
          }
        }
      }
    }
  }

  private static void readWorkbook(Path file, Consumer<SheetRow> row) throws IOException {
    requireSane(file);
    try (ReadableWorkbook workbook =
            new ReadableWorkbook(file.toFile(), new ReadingOptions(true, false));
        Stream<Row> rows = workbook.getFirstSheet().openStream()) {
      rows.forEach(r -> {
        List<String> cells = new ArrayList<>();
        for (int i = 0; i < Math.min(r.getCellCount(), MOST_COLUMNS + 1); i++) {
          cells.add(r.getOptionalCell(i).map(SheetParser::text).orElse(""));
        }
        give(row, r.getRowNum(), cells);
      });
    }
  }

  /**
   * Days are kept as ISO days, numbers without an exponent, texts as they are; of a formula what it
   * came to when the file was saved.
   */
  private static String text(Cell cell) {
    String raw = cell.getRawValue();
    boolean formula = cell.getType() == CellType.FORMULA;
    if (cell.getType() == CellType.NUMBER
        || (formula && raw != null && NUMBER.matcher(raw).matches())) {
      BigDecimal number = new BigDecimal(raw);
      String format = cell.getDataFormatString();
      return format != null && format.toLowerCase(Locale.ROOT).contains("yy")
          ? DAY_ZERO.plusDays(number.longValue()).toString()
          : number.stripTrailingZeros().toPlainString();
    }
    return formula ? Objects.requireNonNullElse(raw, "").strip() : cell.getText().strip();
  }

  private static void give(Consumer<SheetRow> row, int number, List<String> cells) {
    if (number > MOST_ROWS) {
      throw Problem.invalid("file", "a file may have " + MOST_ROWS + " rows");
    }
    if (cells.size() > MOST_COLUMNS) {
      throw Problem.invalid("file", "row " + number + " has more than " + MOST_COLUMNS + " cells");
    }
    if (cells.stream().anyMatch(c -> !c.isBlank())) {
      row.accept(
          new SheetRow(number, cells.stream().map(c -> Texts.cut(c, LONGEST_CELL)).toList()));
    }
  }

  /** What parts the cells of the first line most often. */
  private static char delimiter(byte[] head, Charset charset) {
    String first = new String(head, charset).split("\\R", 2)[0];
    char best = ',';
    for (char c : new char[] {';', '\t'}) {
      if (count(first, c) > count(first, best)) {
        best = c;
      }
    }
    return best;
  }

  private static long count(String text, char c) {
    return text.chars().filter(x -> x == c).count();
  }

  private static boolean startsWithMark(byte[] file) {
    return file.length >= 3
        && file[0] == (byte) 0xEF
        && file[1] == (byte) 0xBB
        && file[2] == (byte) 0xBF;
  }

  private static boolean isUtf8(Path file) throws IOException {
    try (Reader text =
        new InputStreamReader(Files.newInputStream(file), StandardCharsets.UTF_8.newDecoder())) {
      char[] part = new char[HEAD];
      while (text.read(part) >= 0) {
        // only whether it can be read
      }
      return true;
    } catch (CharacterCodingException e) {
      return false;
    }
  }
}
