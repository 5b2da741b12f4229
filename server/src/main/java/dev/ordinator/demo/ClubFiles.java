package dev.ordinator.demo;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.List;

/** What the bee clubs sent by mail: a sheet now and then, one line per row. */
final class ClubFiles {
  private static final List<String> CLUBS =
      List.of(
          "Imkerverein Ulm,kasse@ulm.example,Donauweg 18,89073,Ulm,DE",
          "Bijenvrienden Zwolle,bestel@zwolle.example,Honingpad 4,8011 BC,Zwolle,NL",
          "Rucher de Nancy,commande@nancy.example,Rue des Tilleuls 7,54000,Nancy,FR",
          "Bieenclub Gent,info@gent.example,Lindestraat 22,9000,Gent,BE");
  private static final List<String> GOODS =
      List.of("TOOL-J,3,11.50", "BRUSH,6,5.20", "SMOKER-L,2,36.00", "TOOL-J,12,10.90");

  private ClubFiles() {}

  /**
   * @param waits it lies there with its rows checked, one of them wrong, and nobody has taken it
   */
  record ClubFile(String name, Instant at, String csv, boolean waits) {}

  /**
   * @param days how long the past is that ends then
   */
  static List<ClubFile> before(Instant end, int days) {
    return List.of(
        file("clubs-first.csv", end.minus(Duration.ofDays(days * 4L / 5)), 4, false),
        file("clubs-second.csv", end.minus(Duration.ofDays(days * 2L / 5)), 6, false),
        file("clubs-latest.csv", end.minus(Duration.ofHours(3)), 5, true));
  }

  private static ClubFile file(String name, Instant at, int orders, boolean waits) {
    LocalDate day = LocalDate.ofInstant(at, ZoneOffset.UTC);
    StringBuilder rows =
        new StringBuilder(
            "order,placed,buyer,email,street,postcode,city,country,sku,quantity,price,payment\n");
    for (int i = 0; i < orders; i++) {
      for (int line = 0; line <= i % 2; line++) {
        String goods = GOODS.get((i + line) % GOODS.size());
        boolean wrong = waits && i == 2;
        rows.append(
            "C-%s-%d,%s,%s,%s,paid%n"
                .formatted(
                    day.toString().substring(5),
                    i + 1,
                    day,
                    CLUBS.get(i % CLUBS.size()),
                    wrong ? goods.replaceFirst(",\\d+,", ",a dozen,") : goods));
      }
    }
    return new ClubFile(name, at, rows.toString(), waits);
  }
}
