package dev.ordinator.core.orders;

import static org.assertj.core.api.Assertions.assertThat;

import dev.ordinator.core.orders.Amendment.Ours;
import dev.ordinator.core.orders.Amendment.Parcel;
import dev.ordinator.core.orders.OrderContent.Account;
import dev.ordinator.core.orders.OrderContent.Change;
import dev.ordinator.core.orders.OrderContent.Line;
import dev.ordinator.core.orders.OrderContent.Part;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;

class AmendmentTest {
  private static final Address HOME = new Address("Ilse", "Lindepad 12", "1012 AB", "Ede", "NL");
  private static final Address AWAY = new Address("Ilse", "Molenkade 3", "9711 AA", "Assen", "NL");

  @Test
  void onlyParcelsThatAChangeTouchesAreTakenBack() {
    OrderContent said = order(HOME, "", Map.of("1", 2L, "2", 1L));
    Ours ours =
        ours(
            Map.of("1", 2L, "2", 1L),
            Map.of(),
            new Parcel(7, true, Set.of("1")),
            new Parcel(8, false, Set.of("2")));
    Amendment gift = Amendment.of(said, order(HOME, "Enjoy", Map.of("1", 2L, "2", 1L)), ours);
    assertThat(gift.ask()).isEmpty();
    assertThat(gift.follow()).extracting(Change::part).containsExactly(Part.GIFT_MESSAGE);
    assertThat(gift.recalled()).as("no parcel has to do with it").isEmpty();

    Amendment planned = Amendment.of(said, order(HOME, "", Map.of("1", 2L)), ours);
    assertThat(planned.ask()).isEmpty();
    assertThat(planned.recalled()).containsExactly(8L);

    Amendment packed = Amendment.of(said, order(HOME, "", Map.of("1", 1L, "2", 1L)), ours);
    assertThat(packed.ask()).extracting(Change::part).containsExactly(Part.LINE_QUANTITY);
    assertThat(packed.stopped()).containsExactly(7L);

    Amendment moved = Amendment.of(said, order(AWAY, "", Map.of("1", 2L, "2", 1L)), ours);
    assertThat(moved.stopped()).containsExactlyInAnyOrder(7L, 8L);
  }

  @Test
  void whatPeopleHereChangedIsAskedAndWhatTheyAloneChangedStays() {
    OrderContent said = order(HOME, "", Map.of("1", 3L));
    Ours corrected = new Ours(AWAY, Map.of("1", 2L), Map.of("1", 2L), Map.of(), List.of());
    Amendment gift = Amendment.of(said, order(HOME, "Enjoy", Map.of("1", 3L)), corrected);
    assertThat(gift.follow()).extracting(Change::part).containsExactly(Part.GIFT_MESSAGE);
    assertThat(gift.ask()).as("the corrected address and the cancelled unit stay").isEmpty();
    Address third = new Address("Ilse", "Kerkstraat 1", "1012 AB", "Ede", "NL");
    assertThat(Amendment.of(said, order(third, "", Map.of("1", 3L)), corrected).ask())
        .extracting(Change::part)
        .containsExactly(Part.ADDRESS);
    assertThat(Amendment.of(said, order(AWAY, "", Map.of("1", 2L)), corrected))
        .as("the channel has followed us")
        .satisfies(a -> assertThat(a.follow()).isEmpty())
        .satisfies(a -> assertThat(a.ask()).isEmpty());
  }

  @Test
  void fewerOfWhatOnlyWaitsTouchesNoParcel() {
    OrderContent said = order(HOME, "", Map.of("1", 5L));
    Ours ours = ours(Map.of("1", 5L), Map.of("1", 3L), new Parcel(7, true, Set.of("1")));
    Amendment fewer = Amendment.of(said, order(HOME, "", Map.of("1", 2L)), ours);
    assertThat(fewer.ask()).isEmpty();
    assertThat(fewer.recalled()).isEmpty();
    assertThat(Amendment.of(said, order(HOME, "", Map.of("1", 1L)), ours).stopped())
        .containsExactly(7L);
  }

  @Test
  void whatHasLeftIsNotUnordered() {
    OrderContent said = order(HOME, "", Map.of("1", 3L));
    OrderContent says = order(HOME, "", Map.of("1", 1L));
    Ours ours = new Ours(HOME, Map.of("1", 3L), Map.of(), Map.of("1", 3L), List.of());
    Amendment fewer = Amendment.of(said, says, ours);
    assertThat(fewer.ask()).isEmpty();
    assertThat(Amendment.sentUnwanted(fewer.follow(), says, ours.left()))
        .containsExactly(Map.entry("1", 2L));
    assertThat(Amendment.of(said, order(AWAY, "", Map.of("1", 3L)), ours).ask())
        .as("nothing is left to send there: a person sees it")
        .hasSize(1);
  }

  @Test
  void followedAndTakenChangesLeadWhereverTheChannelGoes() {
    Random random = new Random(17);
    for (int i = 0; i < 5_000; i++) {
      OrderContent said = random(random);
      OrderContent says = random(random);
      Map<String, Long> wanted = new HashMap<>();
      said.lines().forEach(line -> wanted.put(line.id(), line.quantity()));
      List<Parcel> parcels = new ArrayList<>();
      for (int p = random.nextInt(3); p > 0; p--) {
        parcels.add(
            new Parcel(p, random.nextBoolean(), Set.of(Integer.toString(random.nextInt(4)))));
      }
      Ours ours = new Ours(said.shipTo(), wanted, Map.of(), Map.of(), parcels);
      Amendment amendment = Amendment.of(said, says, ours);
      OrderContent followed = said.with(amendment.follow(), says);
      assertThat(followed.with(amendment.ask(), says).changesTo(says))
          .as("case %d: followed and taken, it is what the channel says", i)
          .isEmpty();
      assertThat(followed.changesTo(says))
          .as("case %d: what is asked is all that is left", i)
          .containsExactlyInAnyOrderElementsOf(amendment.ask());
      parcels.stream()
          .filter(Parcel::withNode)
          .forEach(p -> assertThat(amendment.recalled()).doesNotContain(p.id()));
    }
  }

  private static OrderContent random(Random random) {
    Map<String, Long> lines = new LinkedHashMap<>();
    for (int line = 0; line < 4; line++) {
      if (random.nextInt(3) > 0) {
        lines.put(Integer.toString(line), (long) random.nextInt(4));
      }
    }
    return order(random.nextBoolean() ? HOME : AWAY, random.nextBoolean() ? "" : "Hi", lines);
  }

  private static Ours ours(Map<String, Long> wanted, Map<String, Long> waiting, Parcel... parcels) {
    return new Ours(HOME, wanted, waiting, Map.of(), List.of(parcels));
  }

  private static OrderContent order(Address to, String gift, Map<String, Long> lines) {
    return new OrderContent(
        to,
        "Home delivery",
        null,
        null,
        "",
        gift,
        "",
        lines.entrySet().stream()
            .map(l ->
                new Line(
                    l.getKey(), "L" + l.getKey(), "Smoker", l.getValue(), "1.00 EUR", "", "0 EUR"))
            .toList(),
        new Account("Ilse", "ilse@buyer.example", "", "", "0.00 EUR", "0.00 EUR", "EUR"));
  }
}
