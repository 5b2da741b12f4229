package dev.ordinator.sheets;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.platform.Problem;
import java.io.IOException;
import java.math.BigDecimal;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import java.util.stream.Collectors;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Tables that are written in some dialect are read back as they were, or refused. */
class SheetParserTest {
  @TempDir Path folder;

  private static final List<Charset> CHARSETS =
      List.of(
          StandardCharsets.UTF_8,
          StandardCharsets.UTF_16LE,
          StandardCharsets.UTF_16BE,
          Charset.forName("windows-1252"));

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8, 9, 10})
  void randomTablesInEveryDialectAreReadBack(long seed) throws IOException {
    Random random = new Random(seed);
    for (int round = 0; round < 40; round++) {
      char delimiter = List.of(',', ';', '\t', '|').get(random.nextInt(4));
      Charset charset = CHARSETS.get(random.nextInt(CHARSETS.size()));
      NumberStyle numbers = NumberStyle.values()[random.nextInt(2)];
      DayStyle days = DayStyle.values()[random.nextInt(DayStyle.values().length)];
      List<String> texts = new ArrayList<>();
      List<BigDecimal> amounts = new ArrayList<>();
      List<LocalDate> dates = new ArrayList<>();
      for (int i = 0; i < 30; i++) {
        texts.add(text(random));
        amounts.add(BigDecimal.valueOf(random.nextLong(100_000_000), 2));
        dates.add(LocalDate.of(2026, 1, 1).plusDays(random.nextInt(365)));
      }
      StringBuilder table = new StringBuilder();
      boolean saysDelimiter = random.nextBoolean();
      table.append(saysDelimiter ? "sep=" + delimiter + "\r\n" : "");
      table.append(row(delimiter, "name", "amount", "day"));
      for (int i = 0; i < texts.size(); i++) {
        table.append(
            row(
                delimiter,
                texts.get(i),
                written(amounts.get(i), numbers),
                written(dates.get(i), days)));
      }
      List<SheetRow> read = read(bytes(table.toString(), charset, random.nextBoolean()));

      String what = "seed %d, round %d, %s %s %s".formatted(seed, round, delimiter, charset, days);
      assertThat(read).as(what).hasSize(31);
      var ofAmounts = new ColumnStyle.Finder<>(NumberStyle.class);
      var ofDays = new ColumnStyle.Finder<>(DayStyle.class);
      for (SheetRow row : read.subList(1, read.size())) {
        ofAmounts.add(row.text(1));
        ofDays.add(row.text(2));
      }
      assertThat(ofAmounts.found().tells()).as(what).isTrue();
      assertThat(ofDays.found().possible()).as(what).contains(days);
      for (int i = 0; i < texts.size(); i++) {
        SheetRow row = read.get(i + 1);
        assertThat(row.text(0)).as(what).isEqualTo(texts.get(i));
        assertThat(ofAmounts.found().possible().getFirst().read(row.text(1)))
            .as(what)
            .isEqualByComparingTo(amounts.get(i));
        assertThat(days.read(row.text(2))).as(what).isEqualTo(dates.get(i));
      }
    }
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3})
  void garbageIsReadOrRefusedInWordsAndNothingElse(long seed) throws IOException {
    Random random = new Random(seed);
    byte[] good = "PK\u0003\u0004sep=;\na;b\n1;\"x\"\n".getBytes(StandardCharsets.UTF_8);
    for (int round = 0; round < 300; round++) {
      byte[] bytes = random.nextBoolean() ? good.clone() : new byte[random.nextInt(200)];
      for (int i = 0; i < bytes.length; i++) {
        bytes[i] = random.nextInt(4) == 0 || bytes[i] == 0 ? (byte) random.nextInt() : bytes[i];
      }
      try {
        read(bytes);
      } catch (Problem refused) {
        assertThat(refused).hasMessageNotContaining("Exception");
      }
    }
  }

  private List<SheetRow> read(byte[] content) throws IOException {
    Path file = Files.write(folder.resolve("table"), content);
    List<SheetRow> rows = new ArrayList<>();
    SheetParser.read(file, rows::add);
    return rows;
  }

  private static String row(char delimiter, String... cells) {
    return Arrays.stream(cells)
            .map(c -> "\"" + c.replace("\"", "\"\"") + "\"")
            .collect(Collectors.joining(String.valueOf(delimiter)))
        + "\r\n";
  }

  private static String text(Random random) {
    List<String> parts =
        List.of("Jürgen", "a;b", "c,d", "e|f", "say \"so\"", "two\nlines", "ß", "x");
    return parts.get(random.nextInt(parts.size())) + " " + parts.get(random.nextInt(parts.size()));
  }

  private static String written(BigDecimal amount, NumberStyle style) {
    String plain = String.format(Locale.ROOT, "%,.2f", amount);
    return style == NumberStyle.POINT
        ? plain
        : plain.replace(',', 'x').replace('.', ',').replace('x', '.');
  }

  private static String written(LocalDate day, DayStyle style) {
    String pattern =
        switch (style) {
          case YEAR_FIRST -> "uuuu-MM-dd";
          case YEAR_FIRST_SLASHES -> "uuuu/MM/dd";
          case DOTS -> "dd.MM.uuuu";
          case DAY_FIRST -> "dd/MM/uuuu";
          case MONTH_FIRST -> "MM/dd/uuuu";
          case DASHES -> "dd-MM-uuuu";
        };
    return DateTimeFormatter.ofPattern(pattern).format(day);
  }

  private static byte[] bytes(String table, Charset charset, boolean marked) {
    boolean mayBeMarked = !charset.name().startsWith("windows");
    return ((marked && mayBeMarked ? "\uFEFF" : "") + table).getBytes(charset);
  }
}
