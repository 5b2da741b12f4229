-- Goods between two of our nodes lie at the one they go to, in transit, until they come, come back, or are booked lost.
alter table stock_place
  modify column state varchar(10) not null default 'SELLABLE'
    check (state in ('SELLABLE', 'QUARANTINE', 'DAMAGED', 'IN_TRANSIT'));

alter table stock_movement
  modify column reason varchar(15) not null
    check (reason in ('RECEIPT', 'COUNT', 'ADJUST', 'RETURN', 'PICK', 'PUT_BACK', 'HAND_OVER', 'SCRAP', 'TO_SUPPLIER',
                      'CHANNEL_SHIPPED', 'ASSEMBLE', 'BREAK', 'SUPPLIER_SAID', 'QUARANTINE', 'TRANSFER_OUT',
                      'TRANSFER_IN', 'TRANSFER_LOST', 'MOVE'));

insert into stock_place (item_id, node_id, lot_id, state, on_hand)
  select item_id, node_id, lot_id, 'IN_TRANSIT', sum(quantity)
  from expected_supply
  where open and from_node is not null and quantity > 0
  group by item_id, node_id, lot_id;

insert into stock_movement (item_id, node_id, place_id, quantity, reason, actor, note, at)
  select item_id, node_id, id, on_hand, 'TRANSFER_OUT', 'stock', 'was under way already', now(3)
  from stock_place
  where state = 'IN_TRANSIT';
