package dev.ordinator.orders;

import dev.ordinator.core.money.ExchangeRate;
import dev.ordinator.core.network.ServiceLevel;
import dev.ordinator.platform.Events.Fact;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * An order that was looked at before it is written down: nothing is wrong with it.
 *
 * @param approved it may be routed; else it waits for its payment or a person
 * @param traces which rules looked at it
 * @param facts its timeline so far
 */
public record ReadyOrder(
    NewOrder order,
    boolean approved,
    Figures figures,
    ServiceLevel level,
    Optional<Integer> priority,
    Set<String> tags,
    Set<String> excludedNodes,
    List<Trace> traces,
    List<Fact> facts) {

  /**
   * @param event what made rules look
   * @param tried JSON: the rules' ids with whether they held
   */
  public record Trace(long editionId, String event, String tried) {}

  /**
   * What it costs.
   *
   * @param tax of lines and shipping; {@code total} and it are minor units of its currency
   * @param units open units of the items
   * @param baseTotal minor units of the base currency
   * @param toldOver the channel's total less what the parts add up to; null: it tells none
   * @param notes what a person should know of it
   */
  public record Figures(
      List<LineFigures> lines,
      long tax,
      long units,
      long total,
      ExchangeRate rate,
      long baseTotal,
      @Nullable Long toldOver,
      List<Fact> notes) {}

  /**
   * @param orderDiscount the line's share of the order's discount
   * @param taxRate hundredths of a per cent; null: the channel sent the tax
   */
  public record LineFigures(
      long itemId, long unitsEach, long orderDiscount, long tax, @Nullable Integer taxRate) {}
}
