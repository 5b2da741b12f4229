package dev.ordinator.doctor;

import java.util.List;

/**
 * What the design promises of the data, each as a question for what breaks it: a statement that
 * gives a text for every row that is wrong. They only read, and look at all orders by their indices
 * where they can.
 */
final class Invariants {
  private Invariants() {}

  /**
   * @param what holds
   * @param sql gives one text for each row of which it does not hold
   */
  record Invariant(String what, String sql) {}

  static final List<Invariant> ALL =
      List.of(
          new Invariant(
              "everything that is held or set aside has a level",
              """
              select concat('item ', held.item_id, ' at node ', held.node_id)
              from (select item_id, node_id from allocation where ended_at is null
                    union select item_id, node_id from earmark where closed_at is null) held
              left join stock_level l on l.item_id = held.item_id and l.node_id = held.node_id
              where l.item_id is null
              """),
          new Invariant(
              "no recalled or expired lot is on sale",
              """
              select concat('lot ', lot.code, ' at node ', p.node_id)
              from lot
              join stock_place p on p.lot_id = lot.id
              where p.state = 'SELLABLE' and p.on_hand > p.allocated
                and (lot.recalled_at is not null or lot.expires < date_sub(curdate(), interval 1 day))
              """),
          new Invariant(
              "each serial number is one unit in one place",
              """
              select concat('number ', lot.code, ' of item ', lot.item_id)
              from lot
              join item i on i.id = lot.item_id and i.tracked = 'SERIAL'
              join stock_place p on p.lot_id = lot.id
              group by lot.id, lot.code, lot.item_id
              having sum(p.on_hand) > 1
              """),
          new Invariant(
              "an order is cancelled exactly when none of its units is wanted",
              """
              select o.number
              from sales_order o
              where o.stage in ('RECEIVED', 'APPROVED', 'ROUTED', 'RELEASED', 'PACKED')
                and not exists (select 1 from order_line l where l.order_id = o.id and l.quantity > l.cancelled)
              union all
              select o.number
              from sales_order o
              join order_line l on l.order_id = o.id and l.quantity > l.cancelled
              where o.stage = 'CANCELLED'
              """),
          new Invariant(
              "of an order that is shipped nothing is left to send",
              """
              select concat(o.number, ', line ', l.line_no)
              from sales_order o
              join order_line l on l.order_id = o.id
              where o.stage in ('SHIPPED', 'DELIVERED') and o.fulfilled_by = 'US'
                and l.quantity - l.cancelled > (
                  select coalesce(sum(cl.ordered), 0)
                  from consignment_line cl
                  join consignment c on c.id = cl.consignment_id and c.handed_over_at is not null
                  where cl.order_line_id = l.id)
              """),
          new Invariant(
              "every open order has a next step, a snag, a hold, a queue, or somebody who works on it",
              """
              select o.number
              from sales_order o
              where o.stage in ('APPROVED', 'ROUTED') and o.next_step is null
                and not o.snagged and not o.held and not o.waiting and o.fulfilled_by = 'US'
              """),
          new Invariant(
              "only orders that wait are in queues",
              """
              select concat(o.number, ', item ', b.item_id)
              from backorder b
              join sales_order o on o.id = b.order_id
              where b.closed_at is null and not o.waiting and o.next_step is null and not o.snagged
              """),
          new Invariant(
              "what an order costs is what its parts add up to",
              """
              select o.number
              from sales_order o
              join (select order_id, sum(quantity > cancelled) > 0 as wanted,
                      sum(discount > 0 and cancelled > 0) as rounded,
                      sum(unit_price * (quantity - cancelled)
                        - if(cancelled = 0, discount, floor(discount * (quantity - cancelled) / quantity))
                        - order_discount) as goods
                    from order_line group by order_id) l on l.order_id = o.id
              where o.tax is not null and abs(o.total - greatest(0,
                l.goods + if(o.prices_with_tax, 0, o.tax)
                  + if(l.wanted, o.shipping_charge + coalesce(o.told_over, 0), 0))) > l.rounded
              """),
          new Invariant(
              "no more is paid back than came in",
              """
              select o.number
              from (select order_id, sum(amount) as amount from refund where state <> 'WITHDRAWN' group by order_id) r
              join sales_order o on o.id = r.order_id
              where r.amount > greatest(coalesce(o.told_total, 0), coalesce(o.captured, 0), o.total,
                (select coalesce(sum(p.amount), 0) from order_payment p where p.order_id = o.id),
                (select coalesce(sum(l.quantity * l.unit_price), 0) from order_line l where l.order_id = o.id)
                  + o.shipping_charge + coalesce(o.tax, 0))
              """),
          new Invariant(
              "no more comes back than was sent",
              """
              select concat('consignment line ', l.id)
              from consignment_line l
              join (select rl.consignment_line_id, sum(rl.units) as units
                    from rma_line rl
                    join rma on rma.id = rl.rma_id and rma.state <> 'CALLED_OFF'
                    group by rl.consignment_line_id) back on back.consignment_line_id = l.id
              where back.units > l.quantity
              """),
          new Invariant(
              "each node's day holds as many consignments as are planned for it",
              """
              select concat('node ', d.node_id, ' on ', d.day)
              from node_load d
              left join consignment c on c.node_id = d.node_id and c.hand_over_on = d.day
                and c.state not in ('RECALLED', 'REFUSED')
              where d.day >= curdate()
              group by d.node_id, d.day, d.consignments
              having d.consignments <> count(c.id)
              """),
          new Invariant(
              "no message waits for more than a day",
              """
              select concat('message ', id, ' of order ', order_id)
              from outbox
              where state = 'PENDING' and due_at < date_sub(now(3), interval 1 day)
              """),
          new Invariant(
              "no step of an order fails for good",
              """
              select concat(s.title, ': ', s.detail) from snag s where s.cause = 'STEP_FAILED' and s.closed_at is null
              """),
          new Invariant(
              "what is stopped at a bench waits for a person",
              """
              select c.number
              from consignment c
              where c.stopped is not null and not exists (
                select 1 from snag s where s.order_id = c.order_id and s.closed_at is null
                  and s.cause in ('CHANGED_BY_CHANNEL', 'CANCELLED_TOO_LATE'))
              """));
}
