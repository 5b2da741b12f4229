-- Items, and the stock ledger with its cached levels.

create table item (
  id               bigint auto_increment primary key,
  sku              varchar(60)  not null,
  name             varchar(200) not null,
  gtin             varchar(14)  null,
  category         varchar(60)  not null,
  weight           bigint       not null comment 'grams',
  volume           bigint       not null comment 'millilitres',
  hazard           varchar(10)  null,
  banned_countries varchar(200) not null default '' comment 'ISO 3166 codes, comma between',
  list_price       bigint       not null comment 'minor units of the base currency, tax included',
  unique key item_sku (sku),
  key item_gtin (gtin),
  key item_name (name),
  key item_category (category)
);

-- on_hand = sum of movements; allocated = sum of open allocations
create table stock_level (
  item_id   bigint not null,
  node_id   bigint not null,
  on_hand   bigint not null,
  allocated bigint not null default 0,
  safety    bigint not null default 0,
  primary key (item_id, node_id),
  key stock_level_node (node_id),
  constraint stock_level_item foreign key (item_id) references item (id),
  constraint stock_level_of_node foreign key (node_id) references node (id),
  constraint stock_level_sound check (allocated >= 0 and allocated <= on_hand and safety >= 0)
);

-- the ledger: only ever appended to
create table stock_movement (
  id             bigint auto_increment primary key,
  item_id        bigint       not null,
  node_id        bigint       not null,
  quantity       bigint       not null check (quantity <> 0),
  reason         varchar(12)  not null check (reason in ('RECEIPT', 'COUNT', 'HAND_OVER', 'SCRAP')),
  consignment_id bigint       null,
  actor          varchar(80)  not null,
  note           varchar(400) not null default '',
  at             datetime(3)  not null,
  key stock_movement_level (item_id, node_id, id),
  key stock_movement_consignment (consignment_id),
  constraint stock_movement_item foreign key (item_id) references item (id),
  constraint stock_movement_node foreign key (node_id) references node (id)
);

create trigger stock_movement_stays before update on stock_movement for each row
  signal sqlstate '45000' set message_text = 'the stock ledger is only appended to';

create trigger stock_movement_remains before delete on stock_movement for each row
  signal sqlstate '45000' set message_text = 'the stock ledger is only appended to';
