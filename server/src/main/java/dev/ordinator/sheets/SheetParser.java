package dev.ordinator.sheets;

import dev.ordinator.core.limits.Limits;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.Reader;
import java.math.BigDecimal;
import java.math.MathContext;
import java.math.RoundingMode;
import java.nio.charset.CharacterCodingException;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Objects;
import java.util.function.Consumer;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVRecord;
import org.dhatim.fastexcel.reader.Cell;
import org.dhatim.fastexcel.reader.ReadableWorkbook;
import org.dhatim.fastexcel.reader.ReadingOptions;
import org.dhatim.fastexcel.reader.Row;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Reads CSV, whatever parts its cells and however its characters are encoded, and the first sheet
 * of XLSX, row by row. What a cell is stays with it: whoever reads a number out of a text must know
 * that it was one.
 */
public final class SheetParser {
  private static final int MOST_ROWS = 500_000;
  private static final int MOST_COLUMNS = 100;
  private static final int LONGEST_CELL = 4_000;
  private static final int HEAD = 8_000;
  private static final int FIRST_LINES = 20;

  /** Unicode's byte order mark, as a character. */
  private static final char MARK = '\uFEFF';

  /** A first line by which some programs say what parts cells. */
  private static final Pattern DELIMITER_LINE = Pattern.compile("(?i)sep=([^\\r\\n])(?=\\R)");

  /** As many digits of a binary fraction as office programs show. */
  private static final MathContext SHOWN = new MathContext(15, RoundingMode.HALF_EVEN);

  private static final Pattern LITERAL = Pattern.compile("\"[^\"]*\"|\\\\.|\\[[^\\]]*]|_.");
  private static final Pattern DAY_PART = Pattern.compile("[dDyY]|[mM]{3}");
  private static final BigDecimal LAST_DAY = new BigDecimal(100_000);
  private static final Logger LOG = LoggerFactory.getLogger(SheetParser.class);
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
    } catch (Problem e) {
      throw e;
    } catch (IOException | RuntimeException e) {
      // a library's own words say nothing to who brought the file
      LOG.info("a file could not be read: {}", Texts.of(e));
      throw Problem.invalid("file", "this can’t be read as CSV or XLSX; save it anew as one");
    }
  }

  private static byte[] head(Path file) throws IOException {
    try (InputStream in = Files.newInputStream(file)) {
      return in.readNBytes(HEAD);
    }
  }

  private static void readText(Path file, byte[] head, Consumer<SheetRow> row) throws IOException {
    Charset charset = charset(file, head);
    String start = withoutMark(new String(head, charset));
    Matcher said = DELIMITER_LINE.matcher(start);
    boolean isSaid = said.lookingAt();
    char delimiter = isSaid ? said.group(1).charAt(0) : delimiter(start);
    CSVFormat format = CSVFormat.RFC4180.builder().setDelimiter(delimiter).setTrim(true).get();
    try (BufferedReader in = Files.newBufferedReader(file, charset)) {
      in.mark(1);
      if (in.read() != MARK) {
        in.reset();
      }
      if (isSaid) {
        in.readLine();
      }
      for (CSVRecord record : format.parse(in)) {
        give(row, SheetRow.ofTexts((int) record.getRecordNumber(), record.stream().toList()));
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
        StringBuilder types = new StringBuilder();
        for (int i = 0; i < Math.min(r.getCellCount(), MOST_COLUMNS + 1); i++) {
          Typed cell = r.getOptionalCell(i).map(SheetParser::typed).orElse(Typed.NOTHING);
          cells.add(cell.text());
          types.append(cell.type().letter());
        }
        give(row, new SheetRow(r.getRowNum(), cells, types.toString()));
      });
    }
  }

  private record Typed(CellType type, String text) {
    static final Typed NOTHING = new Typed(CellType.TEXT, "");
  }

  /** Of a formula what it came to when the file was saved. */
  private static Typed typed(Cell cell) {
    String raw = Objects.requireNonNullElse(cell.getRawValue(), "").strip();
    return switch (cell.getType()) {
      case EMPTY -> Typed.NOTHING;
      case BOOLEAN ->
          new Typed(CellType.BOOLEAN, raw.equals("1") || raw.equals("true") ? "TRUE" : "FALSE");
      case ERROR -> new Typed(CellType.ERROR, raw);
      case STRING -> new Typed(CellType.TEXT, cell.getText().strip());
      case NUMBER -> number(cell, raw);
      case FORMULA ->
          NUMBER.matcher(raw).matches()
              ? number(cell, raw)
              : new Typed(raw.startsWith("#") ? CellType.ERROR : CellType.TEXT, raw);
    };
  }

  /** A number, without what binary fractions add behind what is shown; or the day that it is. */
  private static Typed number(Cell cell, String raw) {
    BigDecimal number;
    try {
      number = Limits.decimal(raw).round(SHOWN);
    } catch (IllegalArgumentException e) {
      return new Typed(CellType.ERROR, Texts.cut(raw, 40));
    }
    if (isDay(cell.getDataFormatString())) {
      boolean isWithin = number.signum() > 0 && number.compareTo(LAST_DAY) < 0;
      return isWithin
          ? new Typed(CellType.DATE, DAY_ZERO.plusDays(number.longValue()).toString())
          : new Typed(CellType.ERROR, Texts.cut(raw, 40));
    }
    return new Typed(CellType.NUMBER, number.stripTrailingZeros().toPlainString());
  }

  /** Whether a format shows days: it has a day, a month or a year outside of quoted text. */
  private static boolean isDay(@Nullable String format) {
    return format != null
        && !format.equalsIgnoreCase("general")
        && DAY_PART.matcher(LITERAL.matcher(format).replaceAll("")).find();
  }

  private static void give(Consumer<SheetRow> row, SheetRow read) {
    if (read.number() > MOST_ROWS) {
      throw Problem.invalid("file", "a file may have " + MOST_ROWS + " rows");
    }
    if (read.cells().size() > MOST_COLUMNS) {
      throw Problem.invalid(
          "file", "row " + read.number() + " has more than " + MOST_COLUMNS + " cells");
    }
    if (read.cells().stream().anyMatch(c -> !c.isBlank())) {
      row.accept(
          new SheetRow(
              read.number(),
              read.cells().stream()
                  .map(c -> Texts.cut(c.replace("\r\n", "\n"), LONGEST_CELL))
                  .toList(),
              read.types()));
    }
  }

  /** What parts the cells of the first lines most often, outside of quotes. */
  private static char delimiter(String start) {
    String bare =
        start
            .replaceAll("\"[^\"]*\"", "")
            .lines()
            .limit(FIRST_LINES)
            .collect(Collectors.joining("\n"));
    char best = ',';
    for (char c : new char[] {';', '\t', '|'}) {
      if (count(bare, c) > count(bare, best)) {
        best = c;
      }
    }
    return best;
  }

  private static long count(String text, char c) {
    return text.chars().filter(x -> x == c).count();
  }

  private static String withoutMark(String start) {
    return !start.isEmpty() && start.charAt(0) == MARK ? start.substring(1) : start;
  }

  /** As its byte order mark says, or its zeros, if it has some; else by what can be read. */
  private static Charset charset(Path file, byte[] head) throws IOException {
    if (head.length >= 2) {
      int mark = (head[0] & 0xFF) << 8 | head[1] & 0xFF;
      if (mark == 0xFEFF || mark != 0 && head[0] == 0) {
        return StandardCharsets.UTF_16BE;
      }
      if (mark == 0xFFFE || head[1] == 0) {
        return StandardCharsets.UTF_16LE;
      }
    }
    return isUtf8(file) ? StandardCharsets.UTF_8 : OLDER;
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
