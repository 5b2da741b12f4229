package dev.ordinator.machines;

import static dev.ordinator.schema.Tables.ITEM;

import dev.ordinator.channels.Channel;
import dev.ordinator.channels.ChannelKind;
import dev.ordinator.channels.Connector;
import dev.ordinator.channels.IncomingOrder;
import dev.ordinator.channels.MachineReader;
import dev.ordinator.core.money.Money;
import dev.ordinator.machines.Hooks.Kind;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;

/**
 * A channel that comes to us. It is offered all our items under our own SKUs, and told what is in
 * stock through its webhooks.
 */
@Component
class MachineConnector implements Connector, Connector.ListingSource, Connector.QuantitySink {
  private static final Profile PROFILE =
      new Profile(List.of(), Map.of(), List.of(), false, false, true);
  private static final int LARGEST_BATCH = 500;

  private final DSLContext db;
  private final Hooks hooks;

  MachineConnector(DSLContext db, Hooks hooks) {
    this.db = db;
    this.hooks = hooks;
  }

  @Override
  public ChannelKind kind() {
    return ChannelKind.MACHINE;
  }

  @Override
  public Profile profile() {
    return PROFILE;
  }

  @Override
  public IncomingOrder read(Channel channel, String message) {
    return MachineReader.read(channel, message);
  }

  @Override
  public String externalId(String message) {
    return MachineReader.externalId(message);
  }

  @Override
  public List<ListingData> listings(Channel channel) {
    return db.select(ITEM.SKU, ITEM.GTIN, ITEM.NAME, ITEM.LIST_PRICE)
        .from(ITEM)
        .orderBy(ITEM.SKU)
        .fetch(r ->
            new ListingData(
                r.value1(),
                r.value1(),
                r.value2() == null ? "" : r.value2(),
                r.value3(),
                "",
                Money.of(r.value4(), channel.currency())));
  }

  @Override
  public int largestBatch() {
    return LARGEST_BATCH;
  }

  /** Only those whose webhooks listen hear of it. */
  @Override
  public void pushQuantities(Channel channel, List<ListedQuantity> quantities) {
    hooks.tell(
        channel.id(),
        Kind.STOCK_CHANGED,
        null,
        Map.of(
            "items",
            quantities.stream()
                .map(q -> Map.of("sku", q.externalId(), "quantity", q.quantity()))
                .collect(Collectors.toList())));
  }
}
