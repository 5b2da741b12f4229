package dev.ordinator.returns;

import dev.ordinator.access.Person;
import dev.ordinator.core.money.Money;
import dev.ordinator.core.returns.Bought;
import dev.ordinator.core.returns.Refund;
import dev.ordinator.dispatch.Outbox;
import dev.ordinator.returns.RefundStore.Line;
import dev.ordinator.returns.Refunds.Basis;
import io.swagger.v3.oas.annotations.Operation;
import io.swagger.v3.oas.annotations.tags.Tag;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

@RestController
@RequestMapping("/api/orders/{order}/refunds")
@Tag(name = "Refunds")
class RefundsApi {
  private final Refunds refunds;
  private final MoneyToReturn moneyToReturn;
  private final Outbox outbox;

  RefundsApi(Refunds refunds, MoneyToReturn moneyToReturn, Outbox outbox) {
    this.refunds = refunds;
    this.moneyToReturn = moneyToReturn;
    this.outbox = outbox;
  }

  /**
   * A line as refunds see it; amounts in minor units of the order's currency.
   *
   * @param instead name of what was ordered, if the item is sent in its place; null: it was
   * @param units as the channel counts them, {@code cancelled} of them no longer wanted
   * @param paid for all of them, after all discounts and with tax
   */
  record RefundLine(
      long id,
      String title,
      @Nullable String sku,
      @Nullable String instead,
      long units,
      long cancelled,
      long refundedUnits,
      long paid,
      long refunded) {}

  record RefundTender(String method, long captured, long refunded) {}

  /**
   * What can be paid back, and what was.
   *
   * @param next the number of the next refund
   * @param excess what came in beyond all that was bought
   * @param left what came in and was not paid back yet
   */
  record RefundSheet(
      String currency,
      int next,
      List<RefundLine> lines,
      long shipping,
      long shippingRefunded,
      List<RefundTender> tenders,
      long excess,
      long left,
      List<RefundCard> refunds) {}

  /**
   * @param units by line id, as the channel counts them
   * @param shipping minor units of the order's currency, as is the restocking {@code fee}
   * @param excess of what was paid too much, and belongs to no line; null: none of it
   */
  record RefundAsked(Map<Long, Long> units, long shipping, @Nullable Long excess, long fee) {
    Refund.Asked in(String currency) {
      Map<String, Long> byLine = new HashMap<>();
      units.forEach((line, some) -> byLine.put(Long.toString(line), some));
      return new Refund.Asked(
          byLine,
          Money.of(shipping, currency),
          Money.of(Objects.requireNonNullElse(excess, 0L), currency),
          Money.of(fee, currency));
    }
  }

  /**
   * @param no the number that it will have, as the sheet said
   * @param rma id of the return with which the goods came back; null: nothing did
   */
  record RefundOrder(int no, @Nullable Long rma, RefundAsked asked, String reason) {}

  /** What would be paid back; amounts in minor units. */
  record WorkedOut(Map<Long, Long> lines, List<Part> tenders, long total) {}

  record Part(String method, long amount) {}

  record Kept(String reason) {}

  @Operation(summary = "Say that what came in for cancelled units is not paid back, and why")
  @PostMapping("/kept")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void keep(@PathVariable long order, @RequestBody Kept kept) {
    moneyToReturn.keep(order, kept.reason(), Person.current().displayName());
  }

  @Operation(summary = "What can be paid back of an order, and what was")
  @GetMapping
  RefundSheet sheet(@PathVariable long order) {
    Basis basis = refunds.basis(order);
    Bought bought = basis.bought();
    List<RefundCard> before = refunds.ofOrder(order);
    List<RefundLine> lines = new ArrayList<>();
    for (int i = 0; i < basis.lines().size(); i++) {
      Line line = basis.lines().get(i);
      Bought.Line paid = bought.lines().get(i);
      lines.add(
          new RefundLine(
              line.id(),
              line.title(),
              line.sku(),
              line.instead(),
              line.units(),
              line.cancelled(),
              paid.unitsRefunded(),
              paid.paid().minor(),
              paid.refunded().minor()));
    }
    List<RefundTender> tenders = new ArrayList<>();
    bought
        .tenders()
        .forEach(t ->
            tenders.add(
                new RefundTender(
                    basis.methods().get(tenders.size()),
                    t.captured().minor(),
                    t.refunded().minor())));
    return new RefundSheet(
        basis.order().currency(),
        before.size() + 1,
        lines,
        bought.shipping().minor(),
        bought.shippingRefunded().minor(),
        tenders,
        bought.excess().minor(),
        bought.left().minor(),
        before);
  }

  @Operation(summary = "What a refund would pay back, and by which tender; nothing is changed")
  @PostMapping("/preview")
  WorkedOut preview(@PathVariable long order, @RequestBody RefundAsked asked) {
    Basis basis = refunds.basis(order);
    Refund refund = refunds.workOut(basis, asked.in(basis.order().currency()));
    Map<Long, Long> lines = new HashMap<>();
    refund.lines().forEach((line, amount) -> lines.put(Long.valueOf(line), amount.minor()));
    List<Part> parts = new ArrayList<>();
    refund
        .tenders()
        .forEach((tender, amount) ->
            parts.add(new Part(basis.methods().get(Integer.parseInt(tender) - 1), amount.minor())));
    return new WorkedOut(lines, parts, refund.total().minor());
  }

  @Operation(summary = "Ask for a refund; the order’s channel is told to pay it back")
  @PostMapping
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void ask(@PathVariable long order, @RequestBody RefundOrder wanted) {
    refunds.ask(
        order,
        wanted.no(),
        wanted.rma(),
        wanted.asked().in(refunds.basis(order).order().currency()),
        wanted.reason(),
        who());
    outbox.nudge();
  }

  @Operation(summary = "Say that a refund was paid back in another way")
  @PostMapping("/{refund}/settle")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void settle(@PathVariable long order, @PathVariable long refund) {
    refunds.settle(refunds.of(order, refund).id(), who(), "paid back in another way");
  }

  @Operation(summary = "Take back a refund that nobody was told of")
  @PostMapping("/{refund}/withdraw")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void withdraw(@PathVariable long order, @PathVariable long refund) {
    refunds.withdraw(refunds.of(order, refund).id(), who());
  }

  private static String who() {
    return Person.current().displayName();
  }
}
