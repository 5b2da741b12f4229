package dev.ordinator.network;

import static dev.ordinator.schema.Tables.ZONE;
import static dev.ordinator.schema.Tables.ZONE_MATCH;
import static org.jooq.impl.DSL.coalesce;
import static org.jooq.impl.DSL.max;
import static org.jooq.impl.DSL.val;

import dev.ordinator.platform.Problem;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.jooq.DSLContext;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Zones: which destinations are in each. */
@Service
public class Zones {
  private final DSLContext db;

  Zones(DSLContext db) {
    this.db = db;
  }

  /**
   * Destinations of a zone.
   *
   * @param country ISO 3166-1, two letters
   * @param postcode a prefix; empty: the whole country
   */
  public record Part(String country, String postcode) implements Comparable<Part> {
    @Override
    public int compareTo(Part other) {
      int byCountry = country.compareTo(other.country);
      return byCountry != 0 ? byCountry : postcode.compareTo(other.postcode);
    }
  }

  /** By code, in listed order. */
  public Map<String, Set<Part>> all() {
    Map<String, Set<Part>> all = new LinkedHashMap<>();
    db.select(ZONE.CODE, ZONE_MATCH.COUNTRY, ZONE_MATCH.POSTCODE)
        .from(ZONE)
        .join(ZONE_MATCH)
        .on(ZONE_MATCH.ZONE_ID.eq(ZONE.ID))
        .orderBy(ZONE.POSITION)
        .forEach(r ->
            all.computeIfAbsent(r.value1(), z -> new TreeSet<>())
                .add(new Part(r.value2(), r.value3())));
    return all;
  }

  /**
   * @throws Problem if a country or postcode is none
   */
  public static void check(String code, Set<Part> parts) {
    if (!code.matches("[A-Za-z0-9._-]{1,20}")) {
      throw Problem.invalid("zone", "1 to 20 letters, digits, dots, dashes");
    }
    for (Part part : parts) {
      if (!part.country().matches("[A-Z]{2}")) {
        throw Problem.invalid("country", "two letters, such as NL: " + part.country());
      }
      if (!part.postcode().matches("[A-Za-z0-9 -]{0,12}")) {
        throw Problem.invalid("postcode", "a prefix of at most 12 characters");
      }
    }
  }

  /** Makes a zone, or changes what is in it. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void put(String code, Set<Part> parts) {
    check(code, parts);
    int position =
        db.select(coalesce(max(ZONE.POSITION), val(0))).from(ZONE).fetchSingle().value1();
    db.insertInto(ZONE)
        .set(ZONE.CODE, code)
        .set(ZONE.POSITION, position + 1)
        .onDuplicateKeyIgnore()
        .execute();
    long zone = db.select(ZONE.ID).from(ZONE).where(ZONE.CODE.eq(code)).fetchSingle().value1();
    db.deleteFrom(ZONE_MATCH).where(ZONE_MATCH.ZONE_ID.eq(zone)).execute();
    parts.forEach(part ->
        db.insertInto(ZONE_MATCH)
            .set(ZONE_MATCH.ZONE_ID, zone)
            .set(ZONE_MATCH.COUNTRY, part.country())
            .set(ZONE_MATCH.POSTCODE, part.postcode())
            .execute());
  }
}
