package dev.ordinator.publishing;

import static dev.ordinator.schema.Tables.NODE;
import static dev.ordinator.schema.Tables.PRICE_RULE;

import dev.ordinator.core.catalog.PriceRule;
import dev.ordinator.platform.Problem;
import dev.ordinator.platform.Texts;
import java.time.Clock;
import org.jooq.DSLContext;
import org.springframework.stereotype.Service;

/** Each channel's price rule. */
@Service
class PriceRules {
  private final DSLContext db;
  private final Clock clock;

  PriceRules(DSLContext db, Clock clock) {
    this.db = db;
    this.clock = clock;
  }

  /**
   * A channel's rule as a person sets it.
   *
   * @param country whose tax the channel's prices contain, if they contain any
   */
  record Set(
      int markupHundredths,
      long plus,
      PriceRule.Ending ending,
      int floorHundredths,
      String country) {

    /**
     * @throws Problem if the rule is none
     */
    PriceRule rule() {
      try {
        return new PriceRule(markupHundredths, plus, ending, floorHundredths);
      } catch (IllegalArgumentException e) {
        throw Problem.invalid("rule", Texts.of(e));
      }
    }
  }

  /** As it was set; until then a markup of a half, and tax as where the first node stands. */
  Set of(long channelId) {
    return db.select(
            PRICE_RULE.MARKUP,
            PRICE_RULE.PLUS,
            PRICE_RULE.ENDING,
            PRICE_RULE.FLOOR,
            PRICE_RULE.COUNTRY)
        .from(PRICE_RULE)
        .where(PRICE_RULE.CHANNEL_ID.eq(channelId))
        .fetchOptional(r ->
            new Set(
                r.value1(),
                r.value2(),
                PriceRule.Ending.valueOf(r.value3()),
                r.value4(),
                r.value5()))
        .orElseGet(() -> new Set(5_000, 0, PriceRule.Ending.NINETY_FIVE, 1_500, home()));
  }

  void set(long channelId, Set set, String actor) {
    set.rule();
    if (!set.country().matches("[A-Z]{2}")) {
      throw Problem.invalid("country", "a country has two capital letters (ISO 3166)");
    }
    db.insertInto(PRICE_RULE)
        .set(PRICE_RULE.CHANNEL_ID, channelId)
        .set(PRICE_RULE.MARKUP, set.markupHundredths())
        .set(PRICE_RULE.PLUS, set.plus())
        .set(PRICE_RULE.ENDING, set.ending().name())
        .set(PRICE_RULE.FLOOR, set.floorHundredths())
        .set(PRICE_RULE.COUNTRY, set.country())
        .set(PRICE_RULE.SET_BY, actor)
        .set(PRICE_RULE.SET_AT, clock.instant())
        .onDuplicateKeyUpdate()
        .setAllToExcluded()
        .execute();
  }

  private String home() {
    return db.select(NODE.COUNTRY)
        .from(NODE)
        .orderBy(NODE.ID)
        .limit(1)
        .fetchOptional(NODE.COUNTRY)
        .orElse("NL");
  }
}
