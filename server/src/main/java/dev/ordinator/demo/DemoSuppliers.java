package dev.ordinator.demo;

import dev.ordinator.network.Nodes;
import dev.ordinator.sheets.SentFile;
import dev.ordinator.suppliers.SupplierOffers;
import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
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
      QC-200,"Tea lights, beeswax, 12",8712340051391,5.70,90
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

  private static final int COUNTS_FOR_DAYS = 90;

  private final SupplierOffers offers;
  private final Nodes nodes;

  DemoSuppliers(SupplierOffers offers, Nodes nodes) {
    this.offers = offers;
    this.nodes = nodes;
  }

  void install() {
    supplier("QUILL", "Quill & Comb", CANDLES, "QUI");
    supplier("OAKUM", "Oakum Joinery", HIVES, "OAK");
  }

  /** Wax got dearer, and with it what is made of it. */
  void raisePrices() {
    long quill =
        offers.all().stream()
            .filter(s -> s.code().equals("QUILL"))
            .mapToLong(SupplierOffers.Supplier::id)
            .findFirst()
            .orElseThrow();
    take(
        quill,
        CANDLES
            .replace(",5.70,", ",6.65,")
            .replace(",4.80,", ",5.40,")
            .replace(",3.95,", ",4.55,")
            .replace(",6.40,", ",7.10,"));
  }

  private void supplier(String code, String name, String file, String node) {
    long id = offers.add(code, name, "EUR", BY);
    offers.setSending(id, nodes.byCode(node).id(), COUNTS_FOR_DAYS, BY);
    take(id, file);
  }

  private void take(long supplierId, String csv) {
    SentFile.with(
        new ByteArrayInputStream(csv.getBytes(StandardCharsets.UTF_8)),
        file -> offers.takeFile(supplierId, file, BY));
  }
}
