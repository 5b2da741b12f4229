-- Consignments on their way out.

create table consignment (
  id             bigint auto_increment primary key,
  order_id       bigint      not null,
  node_id        bigint      not null,
  number         varchar(34) not null,
  state          varchar(11) not null,
  carrier_id     bigint      not null,
  service        varchar(20) not null,
  hand_over_on   date        not null comment 'planned, in the node''s time zone',
  ship_by        date        not null,
  arrival_on     date        not null,
  billable       bigint      not null comment 'grams',
  units          bigint      not null,
  carriage       bigint      not null,
  handling       bigint      not null,
  released_at    datetime(3) null,
  packed_at      datetime(3) null,
  handed_over_at datetime(3) null,
  delivered_at   datetime(3) null,
  version        int         not null default 0,
  unique key consignment_number (number),
  key consignment_order (order_id),
  key consignment_due (node_id, state, ship_by, id),
  key consignment_state (state, ship_by, id),
  key consignment_handed_over (node_id, handed_over_at),
  constraint consignment_of_order foreign key (order_id) references sales_order (id),
  constraint consignment_node foreign key (node_id) references node (id),
  constraint consignment_carrier foreign key (carrier_id) references carrier (id)
);

create table consignment_line (
  id             bigint auto_increment primary key,
  consignment_id bigint not null,
  order_line_id  bigint not null,
  item_id        bigint not null,
  quantity       bigint not null check (quantity > 0),
  packed         bigint not null default 0,
  unique key consignment_line_once (consignment_id, order_line_id),
  key consignment_line_order_line (order_line_id),
  key consignment_line_item (item_id),
  constraint consignment_line_consignment foreign key (consignment_id) references consignment (id),
  constraint consignment_line_of_line foreign key (order_line_id) references order_line (id),
  constraint consignment_line_of_item foreign key (item_id) references item (id),
  constraint consignment_line_packed check (packed >= 0 and packed <= quantity)
);

-- stock held for a line at a node
create table allocation (
  id                  bigint auto_increment primary key,
  consignment_line_id bigint      not null,
  item_id             bigint      not null,
  node_id             bigint      not null,
  quantity            bigint      not null check (quantity > 0),
  made_at             datetime(3) not null,
  ended_at            datetime(3) null,
  key allocation_line (consignment_line_id),
  key allocation_level (item_id, node_id, ended_at),
  constraint allocation_of_line foreign key (consignment_line_id) references consignment_line (id),
  constraint allocation_item foreign key (item_id) references item (id),
  constraint allocation_node foreign key (node_id) references node (id)
);

create table parcel (
  id             bigint auto_increment primary key,
  consignment_id bigint      not null,
  sscc           char(18)    not null,
  tracking       varchar(60) not null,
  label          mediumblob  not null comment 'PDF',
  next_track_at  datetime(3) null comment 'when to ask the carrier again; null: no more',
  last_scan_at   datetime(3) null,
  unique key parcel_sscc (sscc),
  key parcel_tracking (tracking),
  key parcel_next_track (next_track_at),
  key parcel_consignment (consignment_id),
  constraint parcel_of_consignment foreign key (consignment_id) references consignment (id)
);

create table parcel_scan (
  id        bigint auto_increment primary key,
  parcel_id bigint       not null,
  code      varchar(20)  not null,
  place     varchar(120) not null,
  at        datetime(3)  not null,
  unique key parcel_scan_once (parcel_id, code, at),
  constraint parcel_scan_parcel foreign key (parcel_id) references parcel (id)
);

alter table stock_movement add constraint stock_movement_of_consignment
  foreign key (consignment_id) references consignment (id);
