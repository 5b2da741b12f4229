package dev.ordinator.standins;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * An order as the marketplace tells of it.
 *
 * @param state basket (not paid yet), offer_accepted (a price was agreed, payment follows), ready,
 *     sent, void
 * @param version counts its changes
 * @param fulfilment merchant or depot
 * @param depotParcels what the marketplace's own depot sent
 */
public record MarketOrder(
    String orderRef,
    String site,
    String state,
    long version,
    String created,
    String updated,
    String currency,
    Customer customer,
    Address deliverTo,
    Delivery delivery,
    String fulfilment,
    List<Item> items,
    String shippingPrice,
    String voucher,
    String grandTotal,
    String paidWith,
    List<Parcel> depotParcels) {

  public record Customer(String fullName, String mail, String telephone) {}

  public record Address(
      String addressee, String line1, String zip, String town, String countryCode) {}

  public record Delivery(String method, @Nullable String latest) {}

  public record Item(
      String itemRef,
      String offerRef,
      String merchantSku,
      String ean,
      String name,
      long count,
      long cancelledCount,
      String price,
      String reduction) {}

  public record Parcel(String parcel, String carrier, String sentAt, List<ParcelItem> items) {}

  public record ParcelItem(String itemRef, long count) {}

  public MarketOrder inState(String next) {
    return changed(next, items, depotParcels);
  }

  public MarketOrder withItems(List<Item> other) {
    return changed(state, other, depotParcels);
  }

  /** All of it left the marketplace's own depot. */
  public MarketOrder sentFromDepot(String parcel, Instant at) {
    return changed(
        "sent",
        items,
        List.of(
            new Parcel(
                parcel,
                "Heron",
                at.toString(),
                items.stream()
                    .map(i -> new ParcelItem(i.itemRef(), i.count() - i.cancelledCount()))
                    .toList())));
  }

  MarketOrder at(Instant change) {
    return new MarketOrder(
        orderRef,
        site,
        state,
        version,
        created,
        change.toString(),
        currency,
        customer,
        deliverTo,
        delivery,
        fulfilment,
        items,
        shippingPrice,
        voucher,
        grandTotal,
        paidWith,
        depotParcels);
  }

  private MarketOrder changed(String next, List<Item> newItems, List<Parcel> parcels) {
    return new MarketOrder(
        orderRef,
        site,
        next,
        version + 1,
        created,
        Instant.now().toString(),
        currency,
        customer,
        deliverTo,
        delivery,
        fulfilment,
        newItems,
        shippingPrice,
        voucher,
        grandTotal,
        paidWith,
        parcels);
  }
}
