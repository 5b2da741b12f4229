package dev.ordinator.machines;

import dev.ordinator.access.Machine;
import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Channels;
import dev.ordinator.channels.Terms;
import dev.ordinator.core.network.Destination;
import dev.ordinator.platform.Problem;
import dev.ordinator.routing.Promises;
import dev.ordinator.routing.Promises.Promised;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.media.Content;
import io.swagger.v3.oas.annotations.media.ExampleObject;
import io.swagger.v3.oas.annotations.media.Schema;
import io.swagger.v3.oas.annotations.security.SecurityRequirement;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** What a shop's pages ask before there is an order. */
@RestController
@RequestMapping("/api")
@Tag(name = "For machines")
@SecurityRequirement(name = "token")
class CheckoutApi {
  private static final int MOST = 200;
  private static final long MOST_UNITS = 100_000;

  private final Promises promises;
  private final Channels channels;

  CheckoutApi(Promises promises, Channels channels) {
    this.promises = promises;
    this.channels = channels;
  }

  /**
   * @param units null: the connection is told only whether there are any
   * @param nodes empty: the connection is not told where they are
   */
  record Availability(
      String sku, boolean known, boolean inStock, @Nullable Long units, List<AtNode> nodes) {}

  record AtNode(String node, @Nullable Long units) {}

  record Basket(To to, List<Line> lines) {
    static final String EXAMPLE =
        """
        {
          "to": {"country": "NL", "postcode": "1012 AB"},
          "lines": [{"sku": "TOOL-J", "quantity": 2}]
        }
        """;
  }

  record To(String country, @Nullable String postcode) {}

  /**
   * @param chosen SKUs by choice, where it is a kit that leaves any
   */
  record Line(String sku, long quantity, @Nullable Map<String, String> chosen) {}

  /**
   * @param services empty: it can’t be promised
   */
  record Offer(List<Promised> services) {}

  @Operation(
      summary = "What can be had now",
      description =
          "For up to 200 SKUs, over the nodes that serve the connection; with “to” (a country, or"
              + " country and postcode: NL-1012AB) over those that can send it there. Units and nodes"
              + " are told as the connection’s terms allow. Needs the scope AVAILABILITY.")
  @GetMapping("/availability")
  List<Availability> availability(
      @RequestParam List<String> sku, @RequestParam(required = false) @Nullable String to) {
    if (sku.isEmpty() || sku.size() > MOST) {
      throw Problem.invalid("sku", "name 1 to 200 SKUs");
    }
    Channel channel = channels.byId(Machine.current().channelId());
    Terms terms = channel.terms();
    Map<String, Map<String, Long>> found =
        promises.available(channel, sku, to == null ? null : destination(to));
    return sku.stream()
        .map(s -> {
          Map<String, Long> byNode = found.getOrDefault(s, Map.of());
          long units = byNode.values().stream().mapToLong(Long::longValue).sum();
          List<AtNode> nodes = new ArrayList<>();
          if (terms.tellsNodes()) {
            byNode.forEach(
                (node, some) -> nodes.add(new AtNode(node, terms.tellsUnits() ? some : null)));
          }
          return new Availability(
              s, found.containsKey(s), units > 0, terms.tellsUnits() ? units : null, nodes);
        })
        .toList();
  }

  @Operation(
      summary = "By which services a basket would come, and when",
      description =
          "Each service level with carrier, day of hand-over and arrival, and what it costs us"
              + " (carriage and handling, minor units of the base currency). What is not in stock is"
              + " promised by what is expected. Nothing is reserved. Needs the scope AVAILABILITY.")
  @io.swagger.v3.oas.annotations.parameters.RequestBody(
      required = true,
      content =
          @Content(
              schema = @Schema(implementation = Basket.class),
              examples = @ExampleObject(name = "basket", value = Basket.EXAMPLE)))
  @PostMapping("/promises")
  Offer promise(@RequestBody Basket basket) {
    if (basket.lines().isEmpty() || basket.lines().size() > MOST) {
      throw Problem.invalid("lines", "1 to 200 lines");
    }
    List<Promises.Line> lines = new ArrayList<>();
    for (Line line : basket.lines()) {
      if (line.quantity() < 1 || line.quantity() > MOST_UNITS) {
        throw Problem.invalid("lines[%d].quantity".formatted(lines.size()), "1 to 100,000 units");
      }
      Map<String, String> chosen = line.chosen();
      lines.add(new Promises.Line(line.sku(), line.quantity(), chosen == null ? Map.of() : chosen));
    }
    String postcode = basket.to().postcode();
    return new Offer(
        promises.of(
            channels.byId(Machine.current().channelId()),
            new Destination(basket.to().country(), postcode == null ? "" : postcode),
            lines));
  }

  private static Destination destination(String to) {
    if (!to.matches("[A-Z]{2}(-.{1,20})?")) {
      throw Problem.invalid("to", "a country, or country and postcode: NL-1012AB");
    }
    return new Destination(to.substring(0, 2), to.length() > 3 ? to.substring(3) : "");
  }
}
