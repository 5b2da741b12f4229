package dev.ordinator.stock;

import dev.ordinator.access.Person;
import dev.ordinator.core.stock.Atp;
import dev.ordinator.stock.Expected.Card;
import dev.ordinator.stock.Expected.Wish;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.IntStream;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/stock")
@Tag(name = "Stock")
class ExpectedApi {
  private static final int DAYS = 61;

  private final Expected expected;
  private final Receiving receiving;
  private final Items items;
  private final StockGrid grid;
  private final KitsAhead kitsAhead;
  private final ShelfLife shelfLife;
  private final Transfers transfers;

  ExpectedApi(
      Expected expected,
      Receiving receiving,
      Items items,
      StockGrid grid,
      KitsAhead kitsAhead,
      ShelfLife shelfLife,
      Transfers transfers) {
    this.expected = expected;
    this.receiving = receiving;
    this.items = items;
    this.grid = grid;
    this.kitsAhead = kitsAhead;
    this.shelfLife = shelfLife;
    this.transfers = transfers;
  }

  /**
   * @param today the merchant's
   * @param promisable units that can be promised for today and each of the sixty days after it
   */
  record Ahead(List<Card> expected, LocalDate today, List<Long> promisable) {}

  record Slip(LocalDate due) {}

  record Receipt(long quantity) {}

  @Operation(
      summary = "What of an item is expected, and what can be promised, day by day",
      description =
          "node: the code of one; empty: over all of them. What orders wait for is taken off in"
              + " either case, as it is not known which node will send it.")
  @GetMapping("/items/{id}/expected")
  Ahead ahead(@PathVariable long id, @RequestParam(defaultValue = "") String node) {
    Set<String> serving = node.isEmpty() ? Set.of() : Set.of(node);
    StockGrid.ItemSheet sheet = grid.sheet(id);
    long waitedFor = expected.waitedFor(List.of(id)).getOrDefault(id, 0L);
    if (sheet.item().isKit()) {
      return new Ahead(
          expected.of(id),
          expected.today(),
          kitsAhead.promisable(sheet.item().sku(), serving, waitedFor, DAYS));
    }
    Atp atp =
        Atp.of(
            items.free(List.of(id), serving).getOrDefault(id, 0L),
            ShelfLife.overAllNodes(
                shelfLife.runningOut(List.of(id), serving).getOrDefault(id, Map.of())),
            expected.supplies(serving).getOrDefault(id, List.of()),
            List.of(new Atp.Commitment(0, waitedFor)),
            DAYS);
    return new Ahead(
        expected.of(id),
        expected.today(),
        IntStream.range(0, DAYS).mapToObj(day -> atp.at(day)).toList());
  }

  @Operation(summary = "Note that units of an item are expected")
  @PostMapping("/items/{id}/expected")
  @ResponseStatus(HttpStatus.CREATED)
  void note(@PathVariable long id, @RequestBody Wish wish) {
    expected.note(id, wish, who());
  }

  @Operation(summary = "An expected supply comes on another day")
  @PostMapping("/expected/{id}/slip")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void slip(@PathVariable long id, @RequestBody Slip slip) {
    expected.slip(id, slip.due(), who());
  }

  @Operation(summary = "Units of an expected supply have come; orders that waited are routed")
  @PostMapping("/expected/{id}/receive")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void receive(@PathVariable long id, @RequestBody Receipt receipt) {
    receiving.receive(id, receipt.quantity(), who());
  }

  @Operation(summary = "An expected supply will not come")
  @PostMapping("/expected/{id}/drop")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void drop(@PathVariable long id) {
    expected.drop(id, who());
  }

  record Loss(String reason) {}

  @Operation(summary = "What is under way of a transfer comes back to the node that sent it")
  @PostMapping("/expected/{id}/come-back")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void comeBack(@PathVariable long id) {
    transfers.comeBack(id, who());
  }

  @Operation(summary = "What is under way of a transfer is lost")
  @PostMapping("/expected/{id}/lost")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void lost(@PathVariable long id, @RequestBody Loss loss) {
    transfers.lost(id, loss.reason(), who());
  }

  private static String who() {
    return Person.current().displayName();
  }
}
