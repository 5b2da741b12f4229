package dev.ordinator.channels;

import dev.ordinator.channels.Connector.ListingDraft;
import java.util.List;

/** An offer as web shop and marketplace both take it. */
record OfferBody(
    String gtin,
    String title,
    String text,
    List<String> pictures,
    String group,
    String price,
    boolean draft) {

  static OfferBody of(ListingDraft draft) {
    return new OfferBody(
        draft.gtin(),
        draft.title(),
        draft.text(),
        draft.pictures(),
        draft.family(),
        draft.price().toDecimal().toPlainString(),
        !draft.published());
  }
}
