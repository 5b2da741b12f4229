package dev.ordinator.bench;

import org.jooq.DSLContext;

/**
 * Fills the demo world with many past and open orders, in a few set-based statements. Of a hundred,
 * ninety are delivered and ten open; of those three wait at their node, three have left, one is
 * unpaid, one held, one snagged, one waiting for stock.
 */
final class ManyOrders {
  private static final String ORDERS =
      """
      insert into sales_order (id, channel_id, external_id, external_rev, number, stage, stage_since, placed_at,
        received_at, buyer_name, email, phone, ship_name, ship_street, ship_postcode, ship_city, ship_country,
        service_wording, level, payment_state, payment_method, currency, shipping_charge, discount, total, base_total, units,
        instructions, gift_message, approved_at, held, snagged, waiting, ship_by)
      select seq, 1, concat('M', seq), 1, concat('BM-', seq),
        case when seq %% 100 < 90 then 'DELIVERED' when seq %% 100 < 93 then 'RELEASED'
             when seq %% 100 < 96 then 'SHIPPED' when seq %% 100 < 98 then 'RECEIVED' else 'APPROVED' end,
        date_sub(now(3), interval (%2$d - seq) * 60 second), date_sub(now(3), interval (%2$d - seq) * 60 second),
        date_sub(now(3), interval (%2$d - seq) * 60 second),
        concat('Buyer ', seq * 7919 %% 100003), concat('buyer', seq, '@buyer.example'), '', 'B', 'Lindepad 1',
        '1012 AB', 'Stad', elt(1 + seq %% 4, 'NL', 'BE', 'DE', 'FR'), '', 'STANDARD',
        if(seq %% 100 = 96, 'UNPAID', 'PAID'), 'card', 'EUR', 0, 0, 500 + seq * 31 %% 40000,
        500 + seq * 31 %% 40000, 1 + seq %% 4, '', '',
        if(seq %% 100 in (96, 97), null, now(3)), seq %% 100 = 97, seq %% 100 in (98, 99), seq %% 100 = 99,
        if(seq %% 100 between 90 and 92, date_add(curdate(), interval cast(seq %% 5 as signed) - 1 day), null)
      from seq_%1$d_to_%2$d
      """;

  private static final String LINES =
      """
      insert into order_line (order_id, line_no, external_id, listing_id, item_id, title, quantity, unit_price, discount)
      select seq, 1, '1', 1, (select min(id) from item) + seq %% 100, 'a line', 1 + seq %% 4, 1000, 0
      from seq_%1$d_to_%2$d
      """;

  private static final String CONSIGNMENTS =
      """
      insert into consignment (order_id, node_id, number, state, carrier_id, service, hand_over_on, ship_by,
        arrival_on, billable, units, carriage, handling, released_at, handed_over_at, delivered_at)
      select seq, 1 + seq %% 3, concat('BM-', seq, '-1'),
        case when seq %% 100 < 90 then 'DELIVERED' when seq %% 100 < 93 then 'RELEASED' else 'IN_TRANSIT' end,
        1, 'STD', curdate(), date_add(curdate(), interval cast(seq %% 5 as signed) - 1 day), curdate(), 1000, 1 + seq %% 4, 500, 100,
        now(3), if(seq %% 100 between 90 and 92, null, date_sub(now(3), interval (%2$d - seq) * 60 second)),
        if(seq %% 100 < 90, date_sub(now(3), interval (%2$d - seq) * 60 second), null)
      from seq_%1$d_to_%2$d where seq %% 100 < 96
      """;

  private static final String SNAGS =
      """
      insert into snag (cause, subject, order_id, title, detail, opened_at)
      select 'BAD_ADDRESS', seq, seq, 'an address', 'the postcode is missing', now(3)
      from seq_%1$d_to_%2$d where seq %% 100 = 98
      """;

  private static final String SNAG_ORDERS =
      """
      insert into snag_order (snag_id, order_id)
      select id, order_id from snag where order_id between %1$d and %2$d
      """;

  private ManyOrders() {}

  /** Adds orders {@code from} to {@code to}, both included. */
  static void fill(DSLContext db, int from, int to) {
    db.execute(
        """
        insert ignore into listing (id, channel_id, external_id, title, first_seen)
        values (1, 1, 'bench', 'a line', now(3))
        """);
    for (String sql : new String[] {ORDERS, LINES, CONSIGNMENTS, SNAGS, SNAG_ORDERS}) {
      db.execute(sql.formatted(from, to));
    }
    db.execute("analyze table sales_order, order_line, consignment, snag, snag_order");
  }
}
