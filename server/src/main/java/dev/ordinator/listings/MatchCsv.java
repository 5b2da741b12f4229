package dev.ordinator.listings;

import static dev.ordinator.schema.Tables.ITEM;
import static dev.ordinator.schema.Tables.LISTING;

import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import java.io.IOException;
import java.io.StringReader;
import java.io.StringWriter;
import java.util.ArrayList;
import java.util.List;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.apache.commons.csv.CSVRecord;
import org.jooq.DSLContext;
import org.jooq.Record2;
import org.springframework.stereotype.Component;

/** A channel's match table as CSV: out, filled in, and in again. */
@Component
class MatchCsv {
  private static final String ID = "listing";
  private static final String OURS = "our sku";
  private static final String EACH = "units each";

  private final DSLContext db;
  private final Listings listings;

  MatchCsv(DSLContext db, Listings listings) {
    this.db = db;
    this.listings = listings;
  }

  record Refused(long row, String why) {}

  /**
   * @param unchanged rows without one of our SKUs, or matched so already
   */
  record Read(int matched, int unchanged, List<Refused> refused) {}

  String write(long channelId) {
    StringWriter text = new StringWriter();
    CSVFormat format =
        CSVFormat.RFC4180.builder().setHeader(ID, "its sku", "title", OURS, EACH).get();
    try (CSVPrinter csv = new CSVPrinter(text, format)) {
      var rows =
          db.select(LISTING.EXTERNAL_ID, LISTING.SKU, LISTING.TITLE, ITEM.SKU, LISTING.UNITS_EACH)
              .from(LISTING)
              .leftJoin(ITEM)
              .on(ITEM.ID.eq(LISTING.ITEM_ID))
              .where(LISTING.CHANNEL_ID.eq(channelId))
              .orderBy(LISTING.ID)
              .fetch();
      for (var r : rows) {
        csv.printRecord(
            Texts.harmless(r.value1()),
            Texts.harmless(r.value2()),
            Texts.harmless(r.value3()),
            r.value4() == null ? "" : r.value4(),
            r.value5());
      }
    } catch (IOException e) {
      throw new IllegalStateException("a text in memory can be written", e);
    }
    return text.toString();
  }

  /** Matches what has no match yet; each row on its own, a bad one stops no other. */
  Read read(long channelId, String text, String actor) {
    int matched = 0;
    int unchanged = 0;
    List<Refused> refused = new ArrayList<>();
    CSVFormat format =
        CSVFormat.RFC4180.builder().setHeader().setSkipHeaderRecord(true).setTrim(true).get();
    try (var rows = format.parse(new StringReader(text))) {
      for (String column : List.of(ID, OURS)) {
        if (!rows.getHeaderMap().containsKey(column)) {
          throw Problem.invalid("file", "the first row must name the columns listing and our sku");
        }
      }
      for (CSVRecord row : rows) {
        try {
          if (match(channelId, row, actor)) {
            matched++;
          } else {
            unchanged++;
          }
        } catch (Problem e) {
          refused.add(new Refused(row.getRecordNumber() + 1, Texts.of(e)));
        }
      }
    } catch (IOException | IllegalStateException e) {
      throw Problem.invalid("file", "this can’t be read as CSV: " + Texts.of(e));
    }
    return new Read(matched, unchanged, refused);
  }

  private boolean match(long channelId, CSVRecord row, String actor) {
    String sku = row.get(OURS);
    if (sku.isEmpty()) {
      return false;
    }
    String external = row.get(ID).replaceFirst("^'", "");
    Record2<Long, Long> listing =
        db.select(LISTING.ID, LISTING.ITEM_ID)
            .from(LISTING)
            .where(LISTING.CHANNEL_ID.eq(channelId))
            .and(LISTING.EXTERNAL_ID.eq(external))
            .fetchOptional()
            .orElseThrow(() -> Problem.notFound("listing " + external));
    if (listing.value2() != null) {
      return false;
    }
    String each = row.isMapped(EACH) && row.isSet(EACH) ? row.get(EACH) : "";
    if (!each.matches("\\d{0,5}")) {
      throw Problem.invalid(EACH, "‘" + each + "’ is not a number of units");
    }
    listings.match(listing.value1(), sku, each.isEmpty() ? 1 : Long.parseLong(each), actor);
    return true;
  }
}
