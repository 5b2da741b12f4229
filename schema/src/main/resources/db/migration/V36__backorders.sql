-- Who waits for what, in which order, and until when.
create table backorder (
  id            bigint auto_increment primary key,
  order_id      bigint      not null,
  order_line_id bigint      not null,
  item_id       bigint      not null comment 'of a kit, a component',
  units         bigint      not null check (units > 0),
  lacking       boolean     not null comment 'false: it could be had, but goes with the rest of its order',
  place         bigint      not null comment 'in the item''s queue; who has the smaller is served first',
  since         datetime(3) not null,
  ready_on      date        null comment 'when it will be there, as things stand; null: no day in sight',
  stuck         boolean     not null default false comment 'there is enough, but no rung of the ladder finds a way',
  closed_at     datetime(3) null,
  closed_how    varchar(9)  null check (closed_how in ('SERVED', 'CANCELLED', 'REPLACED', 'LEFT')),
  open_key      varchar(45) as (if(closed_at is null, concat(order_line_id, ':', item_id), null)) persistent,
  unique key backorder_open (open_key),
  key backorder_queue (item_id, closed_at, place),
  key backorder_order (order_id, closed_at),
  constraint backorder_of_order foreign key (order_id) references sales_order (id),
  constraint backorder_line foreign key (order_line_id) references order_line (id),
  constraint backorder_item foreign key (item_id) references item (id)
);

-- What is to be looked at: somebody joined or left, stock came or went, a supply moved.
create table item_queue (
  item_id       bigint      primary key,
  marks         bigint      not null default 0 comment 'how often something of it changed',
  looked        bigint      not null default 0 comment 'marks when it was last looked at',
  tried         bigint      not null default 0 comment 'the last mark for which those who are stuck are to be tried again',
  stale         boolean as (marks > looked) persistent,
  claimed_until datetime(3) null,
  key item_queue_stale (stale, claimed_until),
  constraint item_queue_of foreign key (item_id) references item (id)
);

-- What buyers were told, and what was told before.
alter table sales_order
  add column promised_on date null comment 'when it arrives, as the buyer was told',
  add column expected_on date null comment 'when it arrives, as things stand; null: not known';

create table promise (
  id         bigint auto_increment primary key,
  order_id   bigint      not null,
  arrives_on date        not null,
  why        varchar(9)  not null check (why in ('ROUTED', 'WAITS', 'RENEWED')),
  actor      varchar(80) not null,
  at         datetime(3) not null,
  key promise_order (order_id, id),
  constraint promise_of_order foreign key (order_id) references sales_order (id)
);

-- WAITING: kept at a node for those who wait for the item; ORDER: for one order.
alter table earmark
  modify column kind varchar(8) not null check (kind in ('CHANNEL', 'CUSTOMER', 'CAMPAIGN', 'WAITING', 'ORDER'));

-- Those who wait already take their places.
update sales_order set next_step = 'ROUTE', next_step_at = utc_timestamp(3)
where waiting and open and not held and next_step is null and stage = 'APPROVED';
update sales_order set waiting = false where waiting and not open;
