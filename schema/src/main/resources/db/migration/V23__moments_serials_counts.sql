-- When stock leaves a node's books, items that nobody counts, serial numbers, and counts by list.

alter table node
  add column stock_leaves varchar(9) not null default 'HAND_OVER'
    check (stock_leaves in ('RELEASE', 'PACK', 'LABEL', 'HAND_OVER'));

alter table item
  add column counted boolean not null default true comment 'false: there is always enough of it',
  modify column tracked varchar(8) not null default 'NOTHING'
    check (tracked in ('NOTHING', 'LOT', 'EXPIRY', 'SERIAL'));

-- goods are counted by list: a line for each place that should be looked at, or that was found
create table stock_count (
  id            bigint auto_increment primary key,
  node_id       bigint       not null,
  name          varchar(80)  not null,
  blind         boolean      not null comment 'who counts is not told what is on record',
  approve_above bigint       null comment 'differences of a higher value wait for a manager, minor units of the base currency; null: none do',
  made_by       varchar(80)  not null,
  made_at       datetime(3)  not null,
  closed_by     varchar(80)  null,
  closed_at     datetime(3)  null,
  key stock_count_open (closed_at, node_id),
  constraint stock_count_node foreign key (node_id) references node (id)
);

create table stock_count_line (
  id         bigint auto_increment primary key,
  count_id   bigint       not null,
  item_id    bigint       not null,
  bin        varchar(20)  not null,
  lot        varchar(40)  not null comment 'its code; empty: of none',
  expires    date         null comment 'of a lot that was found and is not known yet',
  state      varchar(8)   not null default 'OPEN' check (state in ('OPEN', 'COUNTED', 'WAITING', 'POSTED', 'REFUSED')),
  book       bigint       null comment 'units on record when it was counted',
  counted    bigint       null comment 'units found',
  reason     varchar(10)  not null default '',
  note       varchar(400) not null default '',
  counted_by varchar(80)  not null default '',
  counted_at datetime(3)  null,
  settled_by varchar(80)  not null default '' comment 'who let the difference in, or refused it',
  unique key stock_count_line_once (count_id, item_id, bin, lot),
  key stock_count_line_item (item_id),
  constraint stock_count_line_of foreign key (count_id) references stock_count (id),
  constraint stock_count_line_item foreign key (item_id) references item (id)
);

drop trigger stock_movement_stays;

alter table stock_movement
  add column allocation_id bigint null comment 'of what left, or came back, for a consignment' after consignment_id,
  add column count_id bigint null after receipt_id,
  modify column reason varchar(15) not null
    check (reason in ('RECEIPT', 'COUNT', 'PICK', 'PUT_BACK', 'HAND_OVER', 'SCRAP', 'CHANNEL_SHIPPED', 'ASSEMBLE', 'BREAK',
                      'SUPPLIER_SAID', 'QUARANTINE', 'TRANSFER_OUT', 'TRANSFER_IN', 'MOVE')),
  add key stock_movement_actor (actor, id),
  add constraint stock_movement_of_allocation foreign key (allocation_id) references allocation (id),
  add constraint stock_movement_of_count foreign key (count_id) references stock_count (id);

create trigger stock_movement_stays before update on stock_movement for each row
  signal sqlstate '45000' set message_text = 'the stock ledger is only appended to';

-- what a person looks at again and again in a view
create table saved_view (
  id       bigint auto_increment primary key,
  view     varchar(20)  not null comment 'orders or stock',
  name     varchar(60)  not null,
  query    varchar(400) not null comment 'as in the address',
  made_by  varchar(80)  not null,
  unique key saved_view_name (view, name)
);
