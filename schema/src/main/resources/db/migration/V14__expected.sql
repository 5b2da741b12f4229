-- Goods that are expected, and what may be offered of them before they are there.

create table expected_supply (
  id         bigint auto_increment primary key,
  item_id    bigint       not null,
  node_id    bigint       not null,
  supplier   varchar(80)  not null,
  number     varchar(40)  not null default '' comment 'the supplier''s, or ours',
  quantity   bigint       not null comment 'still to come' check (quantity >= 0),
  due        date         not null,
  confidence int          not null default 100 comment 'per cent of it that is counted on' check (confidence between 0 and 100),
  slip_days  int          not null default 0 comment 'days that it is assumed to come late' check (slip_days >= 0),
  open       boolean      not null default true,
  noted_by   varchar(80)  not null,
  noted_at   datetime(3)  not null,
  key expected_supply_item (item_id, open, due),
  constraint expected_supply_of_item foreign key (item_id) references item (id),
  constraint expected_supply_node foreign key (node_id) references node (id)
);

alter table listing
  modify column feed_basis varchar(9) not null default 'AVAILABLE' check (feed_basis in ('AVAILABLE', 'ON_HAND', 'ATP')),
  add column feed_days int not null default 0 comment 'with ATP: within so many days';
