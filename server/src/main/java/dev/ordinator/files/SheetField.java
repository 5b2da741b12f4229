package dev.ordinator.files;

import java.util.List;
import java.util.Locale;

/** What a column of an order file can hold. The first name is the template's own. */
enum SheetField {
  ORDER("order", true, "order no", "order number", "bestellung", "bestellnummer", "auftrag"),
  PLACED("placed", false, "date", "order date", "datum", "bestelldatum"),
  BUYER("buyer", true, "name", "customer", "kunde", "besteller"),
  EMAIL("email", false, "mail", "e-mail"),
  PHONE("phone", false, "telephone", "telefon"),
  STREET("street", true, "address", "straße", "strasse", "anschrift"),
  POSTCODE("postcode", true, "zip", "plz"),
  CITY("city", true, "town", "ort", "stadt"),
  COUNTRY("country", false, "land"),
  SKU("sku", true, "article", "item", "artikel", "artikelnummer"),
  TITLE("title", false, "description", "bezeichnung"),
  QUANTITY("quantity", true, "units", "qty", "menge", "anzahl"),
  PRICE("price", true, "unit price", "preis", "einzelpreis"),
  SHIPPING("shipping", false, "versand", "versandkosten"),
  DISCOUNT("discount", false, "rabatt"),
  SERVICE("service", false, "delivery", "versandart"),
  ARRIVE_BY("arrive by", false, "wanted on", "wunschtermin"),
  PAYMENT("payment", false, "payment state", "zahlung"),
  INSTRUCTIONS("instructions", false, "remarks", "bemerkung", "hinweis");

  private final String title;
  private final boolean required;
  private final List<String> alsoCalled;

  SheetField(String title, boolean required, String... alsoCalled) {
    this.title = title;
    this.required = required;
    this.alsoCalled = List.of(alsoCalled);
  }

  /** As the template names it. */
  String title() {
    return title;
  }

  boolean isRequired() {
    return required;
  }

  boolean isCalled(String header) {
    String name = header.strip().toLowerCase(Locale.ROOT);
    return name.equals(title) || alsoCalled.contains(name);
  }
}
