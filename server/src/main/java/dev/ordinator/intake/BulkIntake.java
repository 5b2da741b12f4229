package dev.ordinator.intake;

import dev.ordinator.channels.Channel;
import dev.ordinator.channels.IncomingOrder;
import dev.ordinator.desk.FirstLook;
import dev.ordinator.orders.NewOrder;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.ReadyOrder;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
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
  private final Intake intake;
  private final Recognition recognition;
  private final FirstLook firstLook;
  private final Orders orders;

  BulkIntake(Intake intake, Recognition recognition, FirstLook firstLook, Orders orders) {
    this.intake = intake;
    this.recognition = recognition;
    this.firstLook = firstLook;
    this.orders = orders;
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
   * @param arrivals all of different orders
   * @return our id of each, in their order; empty where the channel's terms leave it alone
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public List<Optional<Long>> take(Channel channel, List<Arrival> arrivals) {
    Set<String> known =
        orders.known(channel.id(), arrivals.stream().map(Arrival::externalId).toList());
    List<Optional<Long>> ids =
        new ArrayList<>(Collections.nCopies(arrivals.size(), Optional.empty()));
    List<Integer> fresh = new ArrayList<>();
    for (int i = 0; i < arrivals.size(); i++) {
      Arrival arrival = arrivals.get(i);
      boolean isPlain =
          !known.contains(arrival.externalId())
              && !arrival.order().cancelled()
              && arrival.order().parcels().isEmpty()
              && channel.terms().wants(arrival.order());
      if (isPlain) {
        fresh.add(i);
      } else {
        ids.set(i, takeAlone(channel, arrival));
      }
    }
    takeFresh(channel, arrivals, fresh, ids);
    return ids;
  }

  private void takeFresh(
      Channel channel, List<Arrival> arrivals, List<Integer> fresh, List<Optional<Long>> ids) {
    List<NewOrder> recognised =
        recognition.of(channel, fresh.stream().map(i -> arrivals.get(i).order()).toList());
    List<Optional<ReadyOrder>> seen =
        firstLook.at(channel, recognised, fresh.stream().map(i -> arrivals.get(i).how()).toList());
    List<ReadyOrder> ready = seen.stream().flatMap(Optional::stream).toList();
    var readyIds = orders.takeReady(channel.id(), ready).iterator();
    for (int n = 0; n < fresh.size(); n++) {
      int i = fresh.get(n);
      ids.set(
          i,
          Optional.of(
              seen.get(n).isPresent()
                  ? readyIds.next()
                  : orders.take(
                      channel.id(), recognised.get(n), channel.name(), arrivals.get(i).how())));
    }
  }

  private Optional<Long> takeAlone(Channel channel, Arrival arrival) {
    intake.take(channel, arrival.order(), arrival.message(), arrival.how());
    return intake.idOf(channel, arrival.externalId());
  }
}
