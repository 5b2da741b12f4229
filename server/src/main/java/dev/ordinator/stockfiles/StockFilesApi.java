package dev.ordinator.stockfiles;

import dev.ordinator.access.Person;
import dev.ordinator.sheets.Column;
import dev.ordinator.sheets.SentFile;
import dev.ordinator.sheets.SheetWriter;
import dev.ordinator.stockfiles.StockFiles.Seen;
import dev.ordinator.stockfiles.StockFiles.Taken;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.StreamingResponseBody;

@RestController
@RequestMapping("/api/stock/files/{kind}")
@Tag(name = "Stock files")
class StockFilesApi {
  private final StockFiles files;

  StockFilesApi(StockFiles files) {
    this.files = files;
  }

  @Operation(summary = "All of it, as CSV or XLSX; kind: items, levels, counts, inbound or kits")
  @GetMapping("/out")
  ResponseEntity<StreamingResponseBody> out(
      @PathVariable String kind, @RequestParam(defaultValue = "csv") String format) {
    StockFile file = files.kind(kind);
    return sheet(kind, format, writer -> file.write(writer::row));
  }

  @Operation(summary = "A file to fill in, with an example row")
  @GetMapping("/template")
  ResponseEntity<StreamingResponseBody> template(
      @PathVariable String kind, @RequestParam(defaultValue = "csv") String format) {
    List<Column> columns = files.kind(kind).columns();
    return sheet(
        kind + "-template",
        format,
        writer -> writer.row(columns.stream().map(Column::example).toList()));
  }

  @Operation(
      summary = "What a file would change, row by row; nothing is taken",
      description =
          "header: pairs of our column and the file’s header, as column=header; others are found"
              + " by their names, or as they were said the last time.")
  @PostMapping(path = "/check", consumes = "application/octet-stream")
  Seen check(
      @PathVariable String kind,
      @RequestParam(required = false) @Nullable List<String> header,
      HttpServletRequest request)
      throws IOException {
    return SentFile.with(request.getInputStream(), file -> files.look(kind, file, pairs(header)));
  }

  @Operation(summary = "Take a file, all of it or what is good of it")
  @PostMapping(consumes = "application/octet-stream")
  Taken take(
      @PathVariable String kind,
      @RequestParam(required = false) @Nullable List<String> header,
      @RequestParam(defaultValue = "false") boolean goodOnly,
      HttpServletRequest request)
      throws IOException {
    String who = Person.current().displayName();
    return SentFile.with(
        request.getInputStream(), file -> files.take(kind, file, pairs(header), goodOnly, who));
  }

  private static Map<String, String> pairs(@Nullable List<String> header) {
    Map<String, String> pairs = new HashMap<>();
    for (String pair : header == null ? List.<String>of() : header) {
      int at = pair.indexOf('=');
      if (at > 0) {
        pairs.put(pair.substring(0, at), pair.substring(at + 1));
      }
    }
    return pairs;
  }

  private ResponseEntity<StreamingResponseBody> sheet(
      String name, String format, Consumer<SheetWriter> rows) {
    boolean workbook = format.equals("xlsx");
    List<String> headers =
        files.kind(name.replace("-template", "")).columns().stream().map(Column::name).toList();
    return ResponseEntity.ok()
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            "attachment; filename=\"%s.%s\"".formatted(name, workbook ? "xlsx" : "csv"))
        .contentType(
            MediaType.parseMediaType(
                workbook
                    ? "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
                    : "text/csv;charset=UTF-8"))
        .body(out -> {
          try (SheetWriter writer =
              workbook ? SheetWriter.workbook(out, name, headers) : SheetWriter.csv(out, headers)) {
            rows.accept(writer);
          } catch (UncheckedIOException e) {
            throw e.getCause();
          }
        });
  }
}
