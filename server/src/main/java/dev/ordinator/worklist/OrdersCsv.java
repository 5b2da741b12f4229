package dev.ordinator.worklist;

import dev.ordinator.core.money.Money;
import dev.ordinator.platform.Slice;
import dev.ordinator.platform.Texts;
import dev.ordinator.worklist.Worklist.Row;
import dev.ordinator.worklist.Worklist.Sort;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.nio.charset.StandardCharsets;
import java.util.stream.Collectors;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.springframework.stereotype.Component;

/** Writes a worklist as CSV (RFC 4180, UTF-8), page by page in constant memory. */
@Component
class OrdersCsv {
  private static final int PAGE = 500;

  private final Worklist worklist;

  OrdersCsv(Worklist worklist) {
    this.worklist = worklist;
  }

  void write(OrderFilter filter, Sort sort, OutputStream out) throws IOException {
    CSVFormat format =
        CSVFormat.RFC4180
            .builder()
            .setHeader(
                "order",
                "channel order",
                "channel",
                "placed",
                "buyer",
                "country",
                "postcode",
                "stage",
                "ship by",
                "units",
                "value",
                "currency",
                "marks")
            .get();
    try (CSVPrinter csv =
        new CSVPrinter(new OutputStreamWriter(out, StandardCharsets.UTF_8), format)) {
      String after = null;
      do {
        Slice<Row> page = worklist.page(filter, sort, after, PAGE);
        for (Row row : page.rows()) {
          print(csv, row);
        }
        after = page.next();
      } while (after != null);
    }
  }

  private static void print(CSVPrinter csv, Row row) throws IOException {
    csv.printRecord(
        row.number(),
        Texts.harmless(row.externalId()),
        row.channel(),
        row.placedAt(),
        Texts.harmless(row.buyer()),
        row.country(),
        Texts.harmless(row.postcode()),
        row.stage(),
        row.shipBy() == null ? "" : row.shipBy(),
        row.units(),
        Money.of(row.total(), row.currency()).toDecimal(),
        row.currency(),
        Texts.harmless(
            row.marks().stream().map(Worklist.Mark::text).collect(Collectors.joining("; "))));
  }
}
