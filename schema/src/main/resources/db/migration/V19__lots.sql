-- Lots with expiry, bins, and the state of goods. A level is what is sellable over its places.

alter table item
  add column tracked  varchar(8) not null default 'NOTHING' check (tracked in ('NOTHING', 'LOT', 'EXPIRY')),
  add column pick     varchar(4) not null default 'FEFO' check (pick in ('FEFO', 'FIFO')),
  add column one_lot  boolean    not null default false comment 'one lot for a line rather than several',
  add column min_life int        not null default 0 comment 'days that it must last after it arrived' check (min_life >= 0);

create table lot (
  id          bigint auto_increment primary key,
  item_id     bigint       not null,
  code        varchar(40)  not null,
  expires     date         null comment 'last day on which it may be used',
  came_at     datetime(3)  not null comment 'when the first of it came',
  recalled_at datetime(3)  null,
  recall_note varchar(400) not null default '',
  unique key lot_code (item_id, code),
  key lot_by_code (code),
  constraint lot_item foreign key (item_id) references item (id)
);

-- units of an item that lie together: in one bin, of one lot, in one state; rows are never deleted
create table stock_place (
  id        bigint auto_increment primary key,
  item_id   bigint      not null,
  node_id   bigint      not null,
  bin       varchar(20) not null default '' comment 'empty: nobody said where',
  lot_id    bigint      null comment 'null: not known, or not tracked',
  state     varchar(10) not null default 'SELLABLE' check (state in ('SELLABLE', 'QUARANTINE', 'DAMAGED')),
  lot_key   bigint      as (coalesce(lot_id, 0)) persistent,
  on_hand   bigint      not null default 0,
  allocated bigint      not null default 0 comment 'of the allocations that name this place',
  unique key stock_place_once (item_id, node_id, bin, lot_key, state),
  key stock_place_lot (lot_id),
  constraint stock_place_item foreign key (item_id) references item (id),
  constraint stock_place_node foreign key (node_id) references node (id),
  constraint stock_place_of_lot foreign key (lot_id) references lot (id),
  constraint stock_place_sound check (allocated >= 0 and allocated <= on_hand)
);

insert into stock_place (item_id, node_id, on_hand) select item_id, node_id, on_hand from stock_level;

-- a delivery that came
create table receipt (
  id       bigint auto_increment primary key,
  node_id  bigint       not null,
  supplier varchar(80)  not null,
  number   varchar(40)  not null default '' comment 'the supplier''s, or ours',
  note     varchar(400) not null default '',
  actor    varchar(80)  not null,
  at       datetime(3)  not null,
  key receipt_number (number),
  constraint receipt_node foreign key (node_id) references node (id)
);

create table receipt_line (
  receipt_id bigint not null,
  line       int    not null,
  item_id    bigint not null,
  expected   bigint not null comment 'units; 0: nobody expected it',
  came       bigint not null comment 'units, damaged ones among them',
  damaged    bigint not null,
  primary key (receipt_id, line),
  constraint receipt_line_of foreign key (receipt_id) references receipt (id),
  constraint receipt_line_item foreign key (item_id) references item (id)
);

drop trigger stock_movement_stays;

alter table stock_movement
  add column place_id bigint null after node_id,
  add column receipt_id bigint null after consignment_id,
  modify column reason varchar(15) not null
    check (reason in ('RECEIPT', 'COUNT', 'HAND_OVER', 'SCRAP', 'CHANNEL_SHIPPED', 'ASSEMBLE', 'BREAK',
                      'SUPPLIER_SAID', 'QUARANTINE', 'TRANSFER_OUT', 'TRANSFER_IN', 'MOVE'));

update stock_movement m
  join stock_place p on p.item_id = m.item_id and p.node_id = m.node_id
  set m.place_id = p.id;

alter table stock_movement
  modify column place_id bigint not null,
  add key stock_movement_place (place_id),
  add constraint stock_movement_at foreign key (place_id) references stock_place (id),
  add constraint stock_movement_receipt foreign key (receipt_id) references receipt (id);

create trigger stock_movement_stays before update on stock_movement for each row
  signal sqlstate '45000' set message_text = 'the stock ledger is only appended to';

alter table allocation
  add column place_id bigint null comment 'null: by quantity only' after node_id,
  add key allocation_place (place_id, ended_at),
  add constraint allocation_at foreign key (place_id) references stock_place (id);
