package dev.ordinator.stock;

import dev.ordinator.platform.Slice;
import dev.ordinator.sheets.SheetWriter;
import dev.ordinator.stock.Movements.Movement;
import dev.ordinator.stock.Movements.Which;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.io.UncheckedIOException;
import java.util.List;
import java.util.Objects;
import org.springdoc.core.annotations.ParameterObject;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.StreamingResponseBody;

@RestController
@RequestMapping("/api/stock")
@Tag(name = "Stock")
class MovementsApi {
  private static final List<String> HEADERS =
      List.of(
          "at",
          "sku",
          "item",
          "node",
          "bin",
          "lot",
          "state",
          "units",
          "reason",
          "by",
          "note",
          "order",
          "delivery",
          "count");

  private final Movements movements;

  MovementsApi(Movements movements) {
    this.movements = movements;
  }

  @Operation(summary = "The stock ledger, newest first, paged")
  @GetMapping("/movements")
  Slice<Movement> page(
      @ParameterObject Which which, @RequestParam(defaultValue = "") String after) {
    return movements.page(which, after);
  }

  @Operation(summary = "The stock ledger as CSV")
  @GetMapping(path = "/movements.csv", produces = "text/csv")
  ResponseEntity<StreamingResponseBody> csv(@ParameterObject Which which) {
    StreamingResponseBody body =
        out -> {
          try (SheetWriter sheet = SheetWriter.csv(out, HEADERS)) {
            movements.all(which, m -> sheet.row(cells(m)));
          } catch (UncheckedIOException e) {
            throw e.getCause();
          }
        };
    return ResponseEntity.ok()
        .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"stock-ledger.csv\"")
        .contentType(MediaType.parseMediaType("text/csv;charset=UTF-8"))
        .body(body);
  }

  @Operation(summary = "A delivery that came: what was expected and what came of it")
  @GetMapping("/receipts/{id}")
  Movements.ReceiptSheet receipt(@PathVariable long id) {
    return movements.receipt(id);
  }

  private static List<String> cells(Movement m) {
    return List.of(
        m.at().toString(),
        m.sku(),
        m.item(),
        m.node(),
        m.bin(),
        Objects.requireNonNullElse(m.lot(), ""),
        m.state().name(),
        String.valueOf(m.quantity()),
        m.reason().name(),
        m.actor(),
        m.note(),
        Objects.requireNonNullElse(m.order(), ""),
        Objects.requireNonNullElse(m.receipt(), ""),
        Objects.requireNonNullElse(m.count(), ""));
  }
}
