package dev.ordinator.demo;

import dev.ordinator.core.stock.LotPick;
import dev.ordinator.platform.OrdinatorSettings;
import dev.ordinator.stock.Condition;
import dev.ordinator.stock.Lots;
import dev.ordinator.stock.Lots.Tracked;
import dev.ordinator.stock.Lots.Tracking;
import dev.ordinator.stock.Receiving;
import dev.ordinator.stock.Receiving.Line;
import dev.ordinator.stock.Receiving.Part;
import java.time.Clock;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;

/** Which goods are tracked by lot, and the lots and bins of the opening stock. */
@Component
class DemoLots {
  private static final String BY = "Joss";

  /** Days for which goods of a category must be usable once they arrived. */
  private static final Map<String, Integer> MIN_LIFE =
      Map.of("feed", 60, "treatment", 90, "seeds", 30);

  /** Days until the three lots of an item expire: the first is soon too old to be sent. */
  private static final int[] LIVES = {80, 240, 460};

  private static final int BINS_IN_A_ROW = 24;

  private final Lots lots;
  private final Receiving receiving;
  private final OrdinatorSettings settings;
  private final Clock clock;

  DemoLots(Lots lots, Receiving receiving, OrdinatorSettings settings, Clock clock) {
    this.lots = lots;
    this.receiving = receiving;
    this.settings = settings;
    this.clock = clock;
  }

  /** An item of the opening stock. */
  record Opened(long itemId, String sku, String category, long units, int nth) {
    Tracked tracked() {
      if (category.equals("foundation")) {
        return Tracked.LOT;
      }
      // what counts mites keeps for ever
      return MIN_LIFE.containsKey(category) && !sku.equals("MITE-BOARD")
          ? Tracked.EXPIRY
          : Tracked.NOTHING;
    }
  }

  void track(Opened item) {
    if (item.tracked() != Tracked.NOTHING) {
      lots.setTracking(
          item.itemId(),
          new Tracking(
              item.tracked(), LotPick.Order.FEFO, false, MIN_LIFE.getOrDefault(item.category(), 0)),
          BY);
    }
  }

  /** The day of the opening: one for all nodes, or a lot would have two last days at midnight. */
  LocalDate today() {
    return LocalDate.ofInstant(clock.instant(), settings.timeZone());
  }

  /**
   * @param hasBins whether the node is large enough to say where things lie
   */
  void open(long nodeId, boolean hasBins, List<Opened> items, LocalDate today) {
    receiving.receive(
        new Receiving.Wish(
            nodeId,
            "opening stock",
            "",
            "",
            false,
            items.stream()
                .map(item -> new Line(item.itemId(), null, parts(item, hasBins, today)))
                .toList()),
        BY);
  }

  private static List<Part> parts(Opened item, boolean hasBins, LocalDate today) {
    String bin =
        hasBins
            ? "%c-%02d".formatted('A' + item.nth() / BINS_IN_A_ROW, 1 + item.nth() % BINS_IN_A_ROW)
            : "";
    if (item.tracked() == Tracked.NOTHING || item.units() < LIVES.length) {
      return List.of(
          part(item, bin, item.units(), item.tracked() == Tracked.NOTHING ? -1 : 1, today));
    }
    long third = item.units() / LIVES.length;
    return List.of(
        part(item, bin, third, 0, today),
        part(item, bin, third, 1, today),
        part(item, hasBins ? bin + ".2" : "", item.units() - 2 * third, 2, today));
  }

  /**
   * @param lot which of the three; -1: none
   */
  private static Part part(Opened item, String bin, long units, int lot, LocalDate today) {
    return new Part(
        units,
        bin,
        lot < 0 ? "" : "%s%d".formatted(item.sku().replaceAll("[^A-Z]", ""), 2601 + lot * 3),
        item.tracked() == Tracked.EXPIRY ? today.plusDays(LIVES[lot]) : null,
        Condition.SELLABLE);
  }
}
