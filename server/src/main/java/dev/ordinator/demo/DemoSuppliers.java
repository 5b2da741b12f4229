package dev.ordinator.demo;

import dev.ordinator.suppliers.SupplierOffers;
import org.springframework.stereotype.Component;

/** Suppliers, and the files in which they said what they offer. */
@Component
class DemoSuppliers {
  private static final String BY = "Mara";

  private static final String CANDLES =
      """
      code,title,gtin,price,available
      QC-101,"Beeswax candle, tall, pair",,4.80,120
      QC-102,"Beeswax candle, skep",,3.95,80
      QC-103,"Beeswax candle, hexagon, with text",,6.40,60
      QC-110,"Honey labels, personal, 100",,7.25,500
      QC-111,"Honey labels, personal, 500",,24.50,200
      QC-112,"Honey labels with logo, 500",,31.00,200
      QC-120,"Gift box for three jars",,1.35,900
      QC-121,"Gift box for six jars",,1.90,0
      """;

  private static final String HIVES =
      """
      code,title,gtin,price,available
      OJ-7,"Observation hive, oak",,148.00,6
      OJ-8,"Hive stand, larch",,23.50,40
      OJ-9,"Nucleus box, six frames",,27.00,25
      OJ-12,"Top bar hive, larch",,96.00,8
      """;

  private final SupplierOffers offers;

  DemoSuppliers(SupplierOffers offers) {
    this.offers = offers;
  }

  void install() {
    supplier("QUILL", "Quill & Comb", CANDLES);
    supplier("OAKUM", "Oakum Joinery", HIVES);
  }

  private void supplier(String code, String name, String file) {
    offers.takeFile(offers.add(code, name, "EUR", BY), file, BY);
  }
}
