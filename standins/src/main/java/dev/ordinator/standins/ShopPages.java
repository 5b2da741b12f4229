package dev.ordinator.standins;

import static dev.ordinator.standins.Web.escape;

import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/** The shop's pages: place an order, see an order as its buyer does, set faults. */
final class ShopPages {
  private static final String NAV =
      "<nav><a href='/'>Shop</a><a href='/orders'>Orders</a><a href='/settings'>Rate and faults</a></nav>";
  private static final int LATEST = 60;

  private final Shop shop;

  ShopPages(Shop shop) {
    this.shop = shop;
  }

  Web.Answer handle(Web.Request request) {
    if (request.is("GET", "/")) {
      return page("Brackenholt web shop", orderForm());
    }
    if (request.is("POST", "/place")) {
      ShopOrder order = order(request.form());
      shop.place(order);
      return Web.Answer.seeOther("/orders/" + order.id());
    }
    if (request.is("GET", "/orders")) {
      return page("Orders", orderList());
    }
    if (request.is("GET", "/orders/[^/]+")) {
      return order(request.part(1));
    }
    if (request.is("POST", "/orders/[^/]+/pay")) {
      shop.pay(request.part(1));
      return Web.Answer.seeOther("/orders/" + request.part(1));
    }
    if (request.is("POST", "/orders/[^/]+/cancel")) {
      shop.change(request.part(1), ShopOrder::cancelled);
      return Web.Answer.seeOther("/orders/" + request.part(1));
    }
    if (request.is("GET", "/settings")) {
      return page("Rate and faults", settings());
    }
    if (request.is("POST", "/settings")) {
      set(request.form());
      return Web.Answer.seeOther("/settings");
    }
    if (request.is("POST", "/history")) {
      shop.generator().history(Past.of(request.json()));
      return Web.Answer.json(200, Map.of("orders", shop.orders().size()));
    }
    if (request.is("POST", "/raw")) {
      // anything at all, as a broken shop would send it
      shop.webhooks().send(new String(request.body(), StandardCharsets.UTF_8));
      return Web.Answer.json(202, Map.of("ok", true));
    }
    return Web.Answer.notFound();
  }

  private static Web.Answer page(String title, String body) {
    return Web.Answer.html(title, NAV + body);
  }

  private String orderForm() {
    String options =
        shop.catalogue().stream()
            .map(p ->
                "<option value='%s'>%s · %s EUR</option>"
                    .formatted(p.id(), escape(p.title()), p.price()))
            .collect(Collectors.joining());
    return """
    <form method="post" action="/place"><p><label>Item <select name="product">%s</select></label>
    <label>Units <input name="quantity" value="1" size="4"></label></p>
    <p><label>Name <input name="name" value="Ilse Verbruggen"></label>
    <label>Mail <input name="email" value="ilse@buyer.example"></label></p>
    <p><label>Street <input name="street" value="Lindepad 12"></label>
    <label>Postcode <input name="postcode" value="1012 AB" size="8"></label>
    <label>Town <input name="city" value="Amsterdam"></label>
    <label>Country <input name="country" value="NL" size="3"></label></p>
    <p><label>Service <select name="service"><option>Home delivery</option><option>Express before noon</option>
    <option>Bicycle messenger</option></select></label>
    <label>Payment <select name="payment"><option value="paid">paid</option><option value="unpaid">by transfer</option>
    <option value="on_delivery">on delivery</option></select></label></p>
    <p><button>Place the order</button></p></form>
    """
        .formatted(options);
  }

  private ShopOrder order(Map<String, String> form) {
    Product product =
        shop.catalogue().stream()
            .filter(p -> p.id().equals(form.getOrDefault("product", "")))
            .findFirst()
            .orElseThrow();
    long quantity = Long.parseLong(form.getOrDefault("quantity", "1"));
    String name = form.getOrDefault("name", "");
    return new ShopOrder(
        shop.nextId(),
        1,
        Shop.now(),
        "EUR",
        new ShopOrder.Buyer(name, form.getOrDefault("email", ""), ""),
        new ShopOrder.ShipTo(
            name,
            form.getOrDefault("street", ""),
            form.getOrDefault("postcode", ""),
            form.getOrDefault("city", ""),
            form.getOrDefault("country", "")),
        form.getOrDefault("service", ""),
        null,
        new ShopOrder.Payment(form.getOrDefault("payment", "paid"), "card"),
        "0.00",
        "0.00",
        new BigDecimal(product.price()).multiply(BigDecimal.valueOf(quantity)).toPlainString(),
        "",
        "",
        List.of(
            new ShopOrder.Line(
                "1",
                product.id(),
                product.sku(),
                product.gtin(),
                product.title(),
                quantity,
                product.price(),
                "0.00")));
  }

  private String orderList() {
    List<ShopOrder> all = shop.orders();
    return "<table><tr><th>Order<th>Placed<th>Buyer<th>Total<th>Payment<th>Status</tr>"
        + all.reversed().stream()
            .limit(LATEST)
            .map(o ->
                "<tr><td><a href='/orders/%1$s'>%1$s</a><td>%2$s<td>%3$s<td>%4$s<td>%5$s<td>%6$s</tr>"
                    .formatted(
                        o.id(),
                        o.placedAt(),
                        escape(o.buyer().name()),
                        o.total(),
                        o.payment().state(),
                        shipmentsOf(o.id()).isEmpty() ? "in preparation" : "shipped"))
            .collect(Collectors.joining())
        + "</table>";
  }

  private Web.Answer order(String id) {
    return shop.orders().stream()
        .filter(o -> o.id().equals(id))
        .findFirst()
        .map(o -> page("Your order " + o.id(), orderSheet(o)))
        .orElseGet(Web.Answer::notFound);
  }

  private String orderSheet(ShopOrder order) {
    List<Told.Shipment> shipments = shipmentsOf(order.id());
    String status =
        shipments.isEmpty()
            ? "<p>We are preparing your order.</p>"
            : shipments.stream()
                .map(s ->
                    "<p>On its way with %s: <a href='%s'><code>%s</code></a></p>"
                        .formatted(
                            escape(s.carrier()),
                            escape(s.trackingUrl()),
                            escape(String.join(", ", s.trackingNumbers()))))
                .collect(Collectors.joining());
    String pay =
        order.payment().state().equals("unpaid")
            ? "<form method='post' action='/orders/%s/pay'><button>Pay</button></form>"
                .formatted(order.id())
            : "";
    String cancel =
        order.status().equals("open")
            ? "<form method='post' action='/orders/%s/cancel'><button>Cancel the order</button></form>"
                .formatted(order.id())
            : "<p>Cancelled.</p>";
    return status
        + "<p>Payment: "
        + order.payment().state()
        + "</p>"
        + pay
        + cancel
        + "<table><tr><th>Item<th>Units<th>Price</tr>"
        + order.lines().stream()
            .map(l ->
                "<tr><td>%s<td>%d<td>%s</tr>"
                    .formatted(escape(l.title()), l.quantity(), l.unitPrice()))
            .collect(Collectors.joining())
        + "</table>";
  }

  private String settings() {
    return """
    <form method="post"><p><label>Orders a minute <input name="rate" value="%s" size="5"></label></p>
    <p>API: <label>answer 500 to the next <input name="fail" value="0" size="4"></label>
    <label>cut off the next <input name="garble" value="0" size="4"></label>
    <label>answer 429 to the next <input name="limit" value="0" size="4"></label>
    <label>answer late by ms <input name="delay" value="0" size="6"></label></p>
    <p>Webhooks: <label>sent twice, %% <input name="twice" value="0" size="4"></label>
    <label>out of order, %% <input name="shuffled" value="0" size="4"></label>
    <label>failing the first time, %% <input name="failing" value="0" size="4"></label></p>
    <p><button>Set</button></p></form>
    """
        .formatted(shop.generator().ordersPerMinute());
  }

  private void set(Map<String, String> form) {
    shop.generator().ordersPerMinute(Double.parseDouble(form.getOrDefault("rate", "0")));
    shop.faults().set(form);
    shop.webhooks()
        .faults(
            Integer.parseInt(form.getOrDefault("twice", "0")),
            Integer.parseInt(form.getOrDefault("shuffled", "0")),
            Integer.parseInt(form.getOrDefault("failing", "0")));
  }

  private List<Told.Shipment> shipmentsOf(String id) {
    return shop.told().shipmentsOf(id);
  }
}
