package dev.ordinator.intake;

import dev.ordinator.channels.Channel;
import dev.ordinator.channels.Connectors;
import dev.ordinator.channels.IncomingOrder;
import dev.ordinator.desk.FirstLook;
import dev.ordinator.intake.Intake.Source;
import dev.ordinator.intake.Intake.Taken;
import dev.ordinator.orders.NewOrder;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.ReadyOrder;
import dev.ordinator.platform.Transactions;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Takes many orders in at once, in one transaction. Those that are new and plain are written down
 * approved, in a few batches; all others go in one by one, by the same door as ever.
 */
@Service
public class BulkIntake {
  private final Transactions transactions;
  private final Connectors connectors;
  private final Intake intake;
  private final Recognition recognition;
  private final FirstLook firstLook;
  private final Orders orders;
  private final RefusedMessages refused;

  BulkIntake(
      Transactions transactions,
      Connectors connectors,
      Intake intake,
      Recognition recognition,
      FirstLook firstLook,
      Orders orders,
      RefusedMessages refused) {
    this.transactions = transactions;
    this.connectors = connectors;
    this.intake = intake;
    this.recognition = recognition;
    this.firstLook = firstLook;
    this.orders = orders;
    this.refused = refused;
  }

  /**
   * An order that could be read.
   *
   * @param message as it came
   * @param how how it came, for its timeline
   */
  public record Arrival(IncomingOrder order, String message, String how) {
    String externalId() {
      return order.header().externalId();
    }
  }

  /**
   * What became of an arrival.
   *
   * @param id ours; empty where the channel's terms leave it alone
   */
  public record Outcome(Taken taken, Optional<Long> id) {}

  /**
   * Takes a page of messages in. If that fails as a whole, or some can't be read or are of one
   * order, these go in one by one.
   *
   * @return how many brought news
   */
  int take(Channel channel, List<String> messages, Source source) {
    Map<String, Arrival> arrivals = new LinkedHashMap<>();
    List<String> oneByOne = new ArrayList<>();
    for (String message : messages) {
      try {
        Arrival arrival =
            new Arrival(connectors.of(channel).read(channel, message), message, source.words());
        if (arrivals.putIfAbsent(arrival.externalId(), arrival) != null) {
          oneByOne.add(message);
        }
      } catch (RuntimeException refusedAlone) {
        oneByOne.add(message);
      }
    }
    int news = 0;
    try {
      List<Arrival> all = List.copyOf(arrivals.values());
      news +=
          (int)
              transactions.get(() -> takeGood(channel, all)).stream()
                  .filter(o -> o.taken().isNews())
                  .count();
    } catch (RuntimeException notAsAWhole) {
      oneByOne.addAll(0, arrivals.values().stream().map(Arrival::message).toList());
    }
    for (String message : oneByOne) {
      if (intake.take(channel, message, source).isNews()) {
        news++;
      }
    }
    return news;
  }

  private List<Outcome> takeGood(Channel channel, List<Arrival> arrivals) {
    List<Outcome> outcomes = take(channel, arrivals);
    List<String> told = new ArrayList<>();
    for (int i = 0; i < outcomes.size(); i++) {
      if (outcomes.get(i).taken().isNews()) {
        told.add(arrivals.get(i).externalId());
      }
    }
    refused.overtaken(channel, told);
    return outcomes;
  }

  /**
   * @param arrivals all of different orders
   * @return what became of each, in their order
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public List<Outcome> take(Channel channel, List<Arrival> arrivals) {
    Set<String> known =
        orders.known(channel.id(), arrivals.stream().map(Arrival::externalId).toList());
    Map<String, Outcome> outcomes = new HashMap<>();
    List<Arrival> fresh = new ArrayList<>();
    for (Arrival arrival : arrivals) {
      boolean isPlain =
          !known.contains(arrival.externalId())
              && !arrival.order().cancelled()
              && arrival.order().parcels().isEmpty()
              && channel.terms().wants(arrival.order());
      if (isPlain) {
        fresh.add(arrival);
      } else {
        outcomes.put(arrival.externalId(), takeAlone(channel, arrival));
      }
    }
    takeFresh(channel, fresh, outcomes);
    return arrivals.stream()
        .map(a -> Objects.requireNonNull(outcomes.get(a.externalId())))
        .toList();
  }

  private void takeFresh(Channel channel, List<Arrival> fresh, Map<String, Outcome> outcomes) {
    List<NewOrder> recognised =
        recognition.of(channel, fresh.stream().map(Arrival::order).toList());
    List<Optional<ReadyOrder>> seen =
        firstLook.at(channel, recognised, fresh.stream().map(Arrival::how).toList());
    Iterator<Long> ready =
        orders.takeReady(channel.id(), seen.stream().flatMap(Optional::stream).toList()).iterator();
    for (int i = 0; i < fresh.size(); i++) {
      Arrival arrival = fresh.get(i);
      long id =
          seen.get(i).isPresent()
              ? ready.next()
              : orders.take(channel.id(), recognised.get(i), channel.name(), arrival.how());
      outcomes.put(arrival.externalId(), new Outcome(Taken.NEW, Optional.of(id)));
    }
  }

  private Outcome takeAlone(Channel channel, Arrival arrival) {
    Taken taken = intake.take(channel, arrival.order(), arrival.message(), arrival.how());
    return new Outcome(taken, intake.idOf(channel, arrival.externalId()));
  }
}
