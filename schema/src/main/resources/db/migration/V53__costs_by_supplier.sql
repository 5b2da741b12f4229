-- What an item costs is a matter of who sells it; codes are the supplier's own.
alter table supplier_offer
  add cost bigint null comment 'the price in minor units of the base currency, at the rate of the day on which it was said';

update supplier_offer o
  join item i on i.id = o.item_id
  set o.cost = i.cost
  where o.item_id in (
    select item_id from (
      select item_id from supplier_offer where item_id is not null group by item_id having count(*) = 1
    ) alone
  );
