package dev.ordinator.intake;

import static dev.ordinator.schema.Tables.DEPOT_PARCEL;

import dev.ordinator.channels.IncomingOrder.DepotParcel;
import dev.ordinator.channels.IncomingOrder.Sent;
import dev.ordinator.orders.Orders;
import dev.ordinator.orders.Step;
import java.util.List;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** What a channel's own depot sent of our stock: noted here, and recorded by the desk. */
@Service
class DepotShipments {
  private final DSLContext db;
  private final Orders orders;
  private final JsonMapper json;

  DepotShipments(DSLContext db, Orders orders, JsonMapper json) {
    this.db = db;
    this.orders = orders;
    this.json = json;
  }

  /** Notes each parcel once, however often the channel tells of it. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void sent(long orderId, List<DepotParcel> parcels) {
    int isNew = 0;
    for (DepotParcel parcel : parcels) {
      isNew +=
          db.insertInto(DEPOT_PARCEL)
              .set(DEPOT_PARCEL.ORDER_ID, orderId)
              .set(DEPOT_PARCEL.TRACKING, parcel.tracking())
              .set(
                  DEPOT_PARCEL.UNITS,
                  json.writeValueAsString(
                      parcel.units().stream()
                          .collect(Collectors.toMap(Sent::line, Sent::quantity, Long::sum))))
              .onDuplicateKeyIgnore()
              .execute();
    }
    if (isNew > 0) {
      orders.setNext(orderId, Step.CHECK);
    }
  }
}
