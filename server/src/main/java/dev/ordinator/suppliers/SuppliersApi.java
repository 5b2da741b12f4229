package dev.ordinator.suppliers;

import dev.ordinator.access.Person;
import dev.ordinator.core.network.NodeKind;
import dev.ordinator.network.Nodes;
import dev.ordinator.sheets.SentFile;
import dev.ordinator.suppliers.SupplierOffers.Change;
import dev.ordinator.suppliers.SupplierOffers.Offer;
import dev.ordinator.suppliers.SupplierOffers.Refused;
import dev.ordinator.suppliers.SupplierOffers.Supplier;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpHeaders;
import org.springframework.http.HttpStatus;
import org.springframework.http.MediaType;
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
@RequestMapping("/api/suppliers")
@Tag(name = "Suppliers")
class SuppliersApi {
  private static final int MOST = 500;

  private final SupplierOffers offers;
  private final Nodes nodes;

  SuppliersApi(SupplierOffers offers, Nodes nodes) {
    this.offers = offers;
    this.nodes = nodes;
  }

  /**
   * @param currency ISO 4217, in which it says its prices
   */
  record NewSupplier(String code, String name, String currency) {}

  record Added(long id) {}

  /**
   * @param nodeId of kind SUPPLIER; null: it only sells to us
   * @param freshDays days after which what it said of its stock counts as none
   */
  record Sending(@Nullable Long nodeId, int freshDays) {}

  /** A node from which a supplier may send. */
  record Place(long id, String name) {}

  /**
   * @param rows that could be read
   */
  record Seen(int rows, List<Change> changes, List<Refused> refused) {}

  @Operation(summary = "Suppliers, by name")
  @GetMapping
  List<Supplier> suppliers() {
    return offers.all();
  }

  @Operation(summary = "Add a supplier")
  @PostMapping
  Added add(@RequestBody NewSupplier wanted) {
    return new Added(offers.add(wanted.code(), wanted.name(), wanted.currency(), who()));
  }

  @Operation(summary = "The nodes from which suppliers send")
  @GetMapping("/nodes")
  List<Place> places() {
    return nodes.all().stream()
        .filter(n -> n.kind() == NodeKind.SUPPLIER)
        .map(n -> new Place(n.id(), n.name()))
        .toList();
  }

  @Operation(summary = "Say from where a supplier sends by itself, and how long its word counts")
  @PutMapping("/{id}/sending")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void sending(@PathVariable long id, @RequestBody Sending sending) {
    offers.setSending(id, sending.nodeId(), sending.freshDays(), who());
  }

  @Operation(summary = "What a supplier offers; the first 500 that are called like that")
  @GetMapping("/{id}/offers")
  List<Offer> offers(@PathVariable long id, @RequestParam(defaultValue = "") String search) {
    return offers.of(offers.byId(id), search, MOST);
  }

  @Operation(summary = "A file of offers to fill in")
  @GetMapping(path = "/offers-template", produces = "text/csv")
  ResponseEntity<String> template() {
    return ResponseEntity.ok()
        .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"offers.csv\"")
        .contentType(MediaType.parseMediaType("text/csv;charset=UTF-8"))
        .body(OfferFile.TEMPLATE);
  }

  @Operation(summary = "What a supplier’s file would change; nothing is taken")
  @PostMapping(path = "/{id}/offers/check", consumes = "application/octet-stream")
  Seen check(@PathVariable long id, HttpServletRequest request) throws IOException {
    String currency = offers.byId(id).currency();
    OfferFile.Read read =
        SentFile.with(request.getInputStream(), file -> OfferFile.read(file, currency));
    return new Seen(read.rows().size(), offers.changes(id, read.rows()), read.refused());
  }

  @Operation(summary = "Take a supplier’s file; what is no longer in it counts as none")
  @PostMapping(path = "/{id}/offers", consumes = "application/octet-stream")
  SupplierOffers.Taken take(@PathVariable long id, HttpServletRequest request) throws IOException {
    String who = who();
    return SentFile.with(request.getInputStream(), file -> offers.takeFile(id, file, who));
  }

  private static String who() {
    return Person.current().displayName();
  }
}
