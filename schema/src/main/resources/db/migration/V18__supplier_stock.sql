-- A supplier that sends by itself: what it has, by its file, stands at its node while its word is fresh.

alter table supplier
  add column node_id bigint null comment 'from which it sends; null: it only sells to us',
  add column fresh_days int not null default 7 comment 'days after which what it said no longer counts' check (fresh_days between 1 and 365),
  add unique key supplier_node (node_id),
  add constraint supplier_sends_from foreign key (node_id) references node (id);

alter table stock_movement
  modify column reason varchar(15) not null
    check (reason in ('RECEIPT', 'COUNT', 'HAND_OVER', 'SCRAP', 'CHANNEL_SHIPPED', 'ASSEMBLE', 'BREAK', 'SUPPLIER_SAID'));

-- a node's answer that it can't fill a consignment
create table refusal (
  consignment_id bigint       primary key,
  reason         varchar(10)  not null check (reason in ('NOT_THERE', 'DAMAGED', 'NO_TIME', 'OTHER')),
  note           varchar(400) not null,
  actor          varchar(80)  not null,
  at             datetime(3)  not null,
  constraint refusal_consignment foreign key (consignment_id) references consignment (id)
);
