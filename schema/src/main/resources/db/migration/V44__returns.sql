-- What buyers send back.

alter table node
  add column returns_to bigint null comment 'where what it sent comes back to; null: to itself',
  add constraint node_returns_to foreign key (returns_to) references node (id);

create table rma (
  id        bigint auto_increment primary key,
  order_id  bigint       not null,
  no        int          not null comment 'of the order''s returns',
  number    varchar(60)  not null comment 'what the buyer writes on the parcel',
  node_id   bigint       not null comment 'where it comes back to',
  reason    varchar(16)  not null
    check (reason in ('DAMAGED', 'FAULTY', 'WRONG_ITEM', 'NOT_AS_DESCRIBED', 'UNWANTED', 'TOO_LATE', 'OTHER')),
  note      varchar(400) not null default '',
  state     varchar(10)  not null check (state in ('AWAITED', 'ARRIVED', 'CLOSED', 'CALLED_OFF')),
  opened_by varchar(80)  not null,
  opened_at datetime(3)  not null,
  ended_at  datetime(3)  null comment 'when it was closed or called off',
  ended_why varchar(200) not null default '' comment 'why nothing was paid back for it',
  unique key rma_no (order_id, no),
  unique key rma_number (number),
  key rma_state (state, id),
  constraint rma_of_order foreign key (order_id) references sales_order (id),
  constraint rma_at foreign key (node_id) references node (id)
);

create table rma_line (
  id                  bigint auto_increment primary key,
  rma_id              bigint not null,
  consignment_line_id bigint not null,
  units               bigint not null comment 'of the item, that are to come' check (units > 0),
  unique key rma_line_once (rma_id, consignment_line_id),
  key rma_line_of_sent (consignment_line_id),
  constraint rma_line_rma foreign key (rma_id) references rma (id),
  constraint rma_line_sent foreign key (consignment_line_id) references consignment_line (id)
);

-- units that came, and what became of them
create table rma_arrival (
  id          bigint auto_increment primary key,
  rma_line_id bigint       not null,
  units       bigint       not null check (units > 0),
  disposition varchar(10)  not null check (disposition in ('RESTOCK', 'QUARANTINE', 'SCRAP', 'SUPPLIER')),
  lot_id      bigint       null,
  actor       varchar(80)  not null,
  at          datetime(3)  not null,
  key rma_arrival_line (rma_line_id),
  constraint rma_arrival_of_line foreign key (rma_line_id) references rma_line (id),
  constraint rma_arrival_lot foreign key (lot_id) references lot (id)
);

alter table refund
  add column rma_id bigint null comment 'for what came back with it' after order_id,
  add constraint refund_for_rma foreign key (rma_id) references rma (id);

alter table stock_movement
  modify column reason varchar(15) not null
    check (reason in ('RECEIPT', 'COUNT', 'ADJUST', 'RETURN', 'PICK', 'PUT_BACK', 'HAND_OVER', 'SCRAP', 'TO_SUPPLIER',
                      'CHANNEL_SHIPPED', 'ASSEMBLE', 'BREAK', 'SUPPLIER_SAID', 'QUARANTINE', 'TRANSFER_OUT',
                      'TRANSFER_IN', 'MOVE'));

alter table rule_trace modify column event varchar(16) not null;
