package dev.ordinator.files;

import dev.ordinator.access.Person;
import dev.ordinator.channels.Channels;
import dev.ordinator.files.FileStore.FileHead;
import dev.ordinator.files.FileStore.FileRow;
import dev.ordinator.files.FileStore.RowState;
import dev.ordinator.platform.Slice;
import dev.ordinator.sheets.SentFile;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import jakarta.servlet.http.HttpServletRequest;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/intake/files")
@Tag(name = "Order files")
class FilesApi {

  /** What each column of the template holds, as an example. */
  private static final List<String> EXAMPLE =
      List.of(
          "C-101",
          "2026-11-24",
          "Imkerverein Ulm",
          "kasse@ulm.example",
          "+49 731 555 0140",
          "Donauweg 18",
          "89073",
          "Ulm",
          "DE",
          "TOOL-J",
          "Hive tool",
          "3",
          "12.50",
          "5.90",
          "0.00",
          "",
          "2026-12-10",
          "paid",
          "");

  private final FileStore store;
  private final FileIntake files;
  private final Channels channels;

  FilesApi(FileStore store, FileIntake files, Channels channels) {
    this.store = store;
    this.files = files;
    this.channels = channels;
  }

  record Field(SheetField field, String title, boolean required) {}

  /**
   * @param guess what the headers say, until a person has said which column is which
   * @param orders taken in from it
   * @param asks what a person must say before its rows can be read
   * @param sums of the orders that could be read
   * @param currency of its amounts
   */
  record FileCard(
      FileHead file,
      SheetMapping guess,
      Map<RowState, Integer> counts,
      int orders,
      List<Field> fields,
      List<FileStyles.Ask> asks,
      FileStore.Sums sums,
      String currency) {}

  record Cells(List<String> cells) {}

  @Operation(summary = "Files of a channel, newest first")
  @GetMapping
  List<FileCard> files(@RequestParam long channel) {
    return store.filesOf(channel).stream().map(this::file).toList();
  }

  @Operation(summary = "Read a CSV or XLSX file of orders in; nothing is taken yet")
  @PostMapping(consumes = "application/octet-stream")
  FileCard upload(@RequestParam long channel, @RequestParam String name, HttpServletRequest request)
      throws IOException {
    String who = who();
    return SentFile.with(
        request.getInputStream(), content -> file(files.upload(channel, name, content, who)));
  }

  @Operation(summary = "A file, how it is read, and how many rows are how")
  @GetMapping("/{id}")
  FileCard file(@PathVariable long id) {
    FileHead file = store.file(id);
    SheetMapping mapping = file.mapping();
    return new FileCard(
        file,
        mapping == null ? SheetMapping.guess(file.headers()) : mapping,
        store.counts(id),
        store.ordersOf(id),
        Arrays.stream(SheetField.values())
            .map(f -> new Field(f, f.title(), f.isRequired()))
            .toList(),
        file.fields().map(FileStyles::asks).orElse(List.of()),
        store.sums(id),
        channels.byId(file.channelId()).currency());
  }

  @Operation(summary = "Say which column is which; every row is checked, and it is remembered")
  @PutMapping("/{id}/mapping")
  FileCard map(@PathVariable long id, @RequestBody SheetMapping mapping) {
    files.map(id, mapping, who());
    return file(id);
  }

  @Operation(summary = "Rows of a file")
  @GetMapping("/{id}/rows")
  Slice<FileRow> rows(
      @PathVariable long id,
      @RequestParam(required = false) @Nullable RowState state,
      @RequestParam(required = false) @Nullable Integer after) {
    return store.rows(id, state, after);
  }

  @Operation(summary = "Correct a row; its order is checked again")
  @PutMapping("/{id}/rows/{row}")
  FileCard correct(@PathVariable long id, @PathVariable int row, @RequestBody Cells cells) {
    files.correct(id, row, cells.cells());
    return file(id);
  }

  @Operation(summary = "Take every order in whose rows are all good; many go on in the background")
  @PostMapping("/{id}/take")
  FileCard take(@PathVariable long id) {
    files.take(id, who());
    return file(id);
  }

  @Operation(summary = "Take back what a file brought, while none of it was released")
  @PostMapping("/{id}/undo")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void undo(@PathVariable long id) {
    files.undo(id, who());
  }

  @Operation(summary = "Discard a file; its rows are kept")
  @PostMapping("/{id}/discard")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void discard(@PathVariable long id) {
    files.discard(id);
  }

  @Operation(summary = "An empty order file to fill in, as CSV or XLSX, with one example row")
  @GetMapping("/template")
  ResponseEntity<byte[]> template(@RequestParam(defaultValue = "csv") String format)
      throws IOException {
    List<String> headers = Arrays.stream(SheetField.values()).map(SheetField::title).toList();
    boolean csv = !format.equals("xlsx");
    return ResponseEntity.ok()
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            "attachment; filename=\"orders-template." + (csv ? "csv" : "xlsx") + "\"")
        .header(
            HttpHeaders.CONTENT_TYPE,
            csv
                ? "text/csv;charset=utf-8"
                : "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet")
        .body(csv ? csv(headers) : xlsx(headers));
  }

  private static byte[] csv(List<String> headers) {
    return List.of(headers, EXAMPLE).stream()
        .map(row -> String.join(",", row) + "\r\n")
        .collect(Collectors.joining())
        .getBytes(StandardCharsets.UTF_8);
  }

  private static byte[] xlsx(List<String> headers) throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    try (Workbook workbook = new Workbook(out, "Ordinator", "1.0")) {
      Worksheet sheet = workbook.newWorksheet("Orders");
      for (int i = 0; i < headers.size(); i++) {
        sheet.value(0, i, headers.get(i));
        sheet.value(1, i, EXAMPLE.get(i));
      }
    }
    return out.toByteArray();
  }

  private static String who() {
    return Person.current().displayName();
  }
}
