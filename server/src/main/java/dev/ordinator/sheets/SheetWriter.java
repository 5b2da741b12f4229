package dev.ordinator.sheets;

import dev.ordinator.platform.Texts;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;

/** Writes rows as CSV (RFC 4180, UTF-8) or as the one sheet of an XLSX. */
public interface SheetWriter extends AutoCloseable {

  void row(List<String> cells);

  @Override
  void close() throws IOException;

  static SheetWriter csv(OutputStream out, List<String> headers) throws IOException {
    CSVPrinter csv =
        new CSVPrinter(
            new OutputStreamWriter(out, StandardCharsets.UTF_8),
            CSVFormat.RFC4180.builder().setHeader(headers.toArray(String[]::new)).get());
    return new SheetWriter() {
      @Override
      public void row(List<String> cells) {
        try {
          csv.printRecord(cells.stream().map(Texts::harmless).toList());
        } catch (IOException e) {
          throw new UncheckedIOException(e);
        }
      }

      @Override
      public void close() throws IOException {
        csv.close();
      }
    };
  }

  /** Every cell is a text, and none a formula; whole numbers are numbers. */
  static SheetWriter workbook(OutputStream out, String name, List<String> headers) {
    Workbook workbook = new Workbook(out, "Ordinator", null);
    Worksheet sheet = workbook.newWorksheet(name);
    for (int i = 0; i < headers.size(); i++) {
      sheet.value(0, i, headers.get(i));
      sheet.style(0, i).bold().set();
    }
    sheet.freezePane(0, 1);
    return new SheetWriter() {
      private int at = 1;

      @Override
      public void row(List<String> cells) {
        for (int i = 0; i < cells.size(); i++) {
          String cell = cells.get(i);
          if (cell.matches("0|-?[1-9]\\d{0,8}")) {
            sheet.value(at, i, Long.parseLong(cell));
          } else if (!cell.isEmpty()) {
            sheet.value(at, i, cell);
          }
        }
        at++;
      }

      @Override
      public void close() throws IOException {
        workbook.close();
      }
    };
  }
}
