package dev.ordinator.standins;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Objects;

/** What the shop sells. */
record Product(String id, String sku, String gtin, String title, String price) {

  /** The catalogue that ships with the stand-in. */
  static List<Product> catalogue() {
    try (BufferedReader in =
        new BufferedReader(
            new InputStreamReader(
                Objects.requireNonNull(
                    Product.class.getResourceAsStream("/standins/catalogue.csv")),
                StandardCharsets.UTF_8))) {
      return in.lines().skip(1).map(Product::parse).toList();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** Titles may be quoted, for their commas; nothing else is. */
  private static Product parse(String line) {
    String[] cells = line.split(",(?=(?:[^\"]*\"[^\"]*\")*[^\"]*$)", -1);
    return new Product(cells[0], cells[1], cells[2], cells[3].replace("\"", ""), cells[4]);
  }
}
