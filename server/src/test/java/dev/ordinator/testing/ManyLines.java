package dev.ordinator.testing;

import org.jooq.DSLContext;

/** Many open lines of scarce items, written straight into the database. */
public final class ManyLines {
  private static final String GOODS =
      """
      create table bench_item as
      select row_number() over (order by id) - 1 as n, id from item
      where counted and id not in (select item_id from kit) limit 100
      """;

  private static final String ORDER_ROWS =
      """
      insert into sales_order (id, channel_id, external_id, external_rev, number, stage, placed_at,
        received_at, buyer_name, email, phone, ship_name, ship_street, ship_postcode, ship_city, ship_country,
        service_wording, level, payment_state, payment_method, currency, shipping_charge, discount, total,
        base_total, units, instructions, gift_message, approved_at, priority, next_step)
      select seq, 1, concat('R', seq), 1, concat('BR-', seq), 'APPROVED', date_sub(now(3), interval seq second),
        now(3), concat('Buyer ', seq), concat('b', seq, '@buyer.example'), '', 'B', 'Lindepad 1', '1012 AB', 'Stad',
        'NL', '', 'STANDARD', 'PAID', 'card', 'EUR', 0, 0, 1000, 1000 + seq * 31 %% 40000, 4, '', '', now(3),
        1 + seq %% 5, 'BATCH'
      from seq_1_to_%d
      """;

  private static final String LINE_ROWS =
      """
      insert into order_line (order_id, line_no, external_id, listing_id, item_id, title, quantity, unit_price, discount)
      select o.seq, l.seq, l.seq, 1, (select id from bench_item where n = (o.seq * 7 + l.seq * 13) %% 100),
        'a line', 1 + (o.seq + l.seq) %% 4, 1000, 0
      from seq_1_to_%d o join seq_1_to_2 l
      """;

  private ManyLines() {}

  /** Two lines for each order; of what they ask for, about a third is there for 50,000 orders. */
  public static void fill(DSLContext db, int orders) {
    db.execute(
        """
        insert ignore into listing (id, channel_id, external_id, title, first_seen)
        values (1, 1, 'bench', 'a line', now(3))
        """);
    db.execute(GOODS);
    db.execute(ORDER_ROWS.formatted(orders));
    db.execute(LINE_ROWS.formatted(orders));
    db.execute("analyze table sales_order, order_line");
    db.execute(
        """
        insert into stock_movement (item_id, node_id, place_id, quantity, reason, actor, note, at)
        select p.item_id, p.node_id, p.id, 600, 'RECEIPT', 'bench', '', now(3) from stock_place p
        join bench_item b on b.id = p.item_id where p.state = 'SELLABLE' and p.lot_id is null
        """);
    db.execute(
        """
        update stock_place p join bench_item b on b.id = p.item_id set p.on_hand = p.on_hand + 600
        where p.state = 'SELLABLE' and p.lot_id is null
        """);
    db.execute(
        """
        update stock_level l set on_hand = (select coalesce(sum(p.on_hand), 0) from stock_place p
          where p.item_id = l.item_id and p.node_id = l.node_id and p.state = 'SELLABLE')
        """);
  }
}
