package dev.ordinator.standins;

import java.text.Normalizer;
import java.util.List;
import java.util.Locale;
import java.util.Random;

/** Invented people and where they live, the same for the same source of chance. */
final class Buyers {
  private record Place(
      String country,
      List<String> first,
      List<String> last,
      List<String> streets,
      List<String> towns,
      String pattern) {}

  private static final List<Place> PLACES =
      List.of(
          new Place(
              "NL",
              List.of("Ilse", "Harm", "Sanne", "Piet", "Wies", "Tineke", "Noor", "Joris"),
              List.of("Verbruggen", "de Wit", "Okker", "Lanting", "Kamphuis", "Haitink", "Bos"),
              List.of("Lindepad", "Molenkade", "Veenweg", "Bijenhof", "Klaverlaan"),
              List.of("Amsterdam", "Utrecht", "Zwolle", "Groningen", "Breda"),
              "#### @@"),
          new Place(
              "DE",
              List.of("Anton", "Lukas", "Jörg", "Heike", "Greta", "Ulrich"),
              List.of("Richter", "Brandt", "Ammann", "Vogelsang", "Lindner"),
              List.of("Wiesenweg", "Imkergasse", "Kleeweg", "Am Anger"),
              List.of("Köln", "Bremen", "Kassel", "Ulm", "Jena"),
              "#####"),
          new Place(
              "BE",
              List.of("Maud", "Bram", "Lotte", "Gilles"),
              List.of("Terlinden", "Soetens", "Claessen", "Dewael"),
              List.of("Heidestraat", "Korenbloemlaan", "Rue du Rucher"),
              List.of("Gent", "Antwerpen", "Namur", "Brugge"),
              "####"),
          new Place(
              "FR",
              List.of("Colette", "Elodie", "Bastien", "Hugo"),
              List.of("Marchand", "Pascal", "Lemoine", "Garnier"),
              List.of("Rue des Tilleuls", "Chemin du Trèfle", "Impasse du Miel"),
              List.of("Lille", "Lyon", "Reims", "Tours"),
              "#####"),
          new Place(
              "GB",
              List.of("Edith", "Rowan", "Callum", "Imogen"),
              List.of("Ashdown", "Thackray", "Penhallow", "Quill"),
              List.of("Apiary Lane", "Orchard Row", "Heather Bank"),
              List.of("Leeds", "Exeter", "Norwich"),
              "@@# #@@"));

  private static final List<Integer> WEIGHTS = List.of(50, 25, 15, 10);

  private final Random random;

  Buyers(Random random) {
    this.random = random;
  }

  record Buyer(
      String name,
      String mail,
      String phone,
      String street,
      String postcode,
      String town,
      String country) {}

  /** Somebody from one of the shop's countries. */
  Buyer next() {
    int dice = random.nextInt(WEIGHTS.stream().mapToInt(Integer::intValue).sum());
    int place = 0;
    while (dice >= WEIGHTS.get(place)) {
      dice -= WEIGHTS.get(place++);
    }
    return from(PLACES.get(place));
  }

  /** Somebody from a given country. */
  Buyer from(String country) {
    return from(PLACES.stream().filter(p -> p.country().equals(country)).findFirst().orElseThrow());
  }

  private Buyer from(Place place) {
    String name = one(place.first()) + " " + one(place.last());
    return new Buyer(
        name,
        mail(name),
        "+31 20 555 " + (1000 + random.nextInt(9000)),
        one(place.streets()) + " " + (1 + random.nextInt(120)),
        postcode(place.pattern()),
        one(place.towns()),
        place.country());
  }

  private String postcode(String pattern) {
    StringBuilder code = new StringBuilder();
    for (char c : pattern.toCharArray()) {
      code.append(
          switch (c) {
            case '#' -> (char) ('1' + random.nextInt(9));
            case '@' -> (char) ('A' + random.nextInt(26));
            default -> c;
          });
    }
    return code.toString();
  }

  private static String mail(String name) {
    return Normalizer.normalize(name, Normalizer.Form.NFD)
            .replaceAll("[^A-Za-z ]", "")
            .toLowerCase(Locale.ROOT)
            .replace(' ', '.')
        + "@buyer.example";
  }

  private <T> T one(List<T> of) {
    return of.get(random.nextInt(of.size()));
  }
}
