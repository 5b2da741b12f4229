-- What is paid back to buyers.

create table refund (
  id         bigint auto_increment primary key,
  order_id   bigint       not null,
  no         int          not null comment 'of the order''s refunds',
  amount     bigint       not null comment 'minor units of the order''s currency' check (amount > 0),
  shipping   bigint       not null comment 'of it, for shipping' check (shipping >= 0),
  fee        bigint       not null comment 'kept back for restocking' check (fee >= 0),
  reason     varchar(200) not null,
  state      varchar(9)   not null check (state in ('ASKED', 'SETTLED', 'WITHDRAWN')),
  asked_by   varchar(80)  not null,
  asked_at   datetime(3)  not null,
  settled_at datetime(3)  null,
  unique key refund_no (order_id, no),
  constraint refund_of_order foreign key (order_id) references sales_order (id)
);

create table refund_line (
  refund_id     bigint not null,
  order_line_id bigint not null,
  units         bigint not null comment 'as the channel counts them' check (units > 0),
  amount        bigint not null,
  primary key (refund_id, order_line_id),
  key refund_line_order_line (order_line_id),
  constraint refund_line_of_refund foreign key (refund_id) references refund (id),
  constraint refund_line_of_line foreign key (order_line_id) references order_line (id)
);

create table refund_tender (
  refund_id  bigint      not null,
  tender_no  int         not null comment 'of the order''s tenders, as they came',
  method     varchar(60) not null,
  amount     bigint      not null check (amount > 0),
  primary key (refund_id, tender_no),
  constraint refund_tender_of_refund foreign key (refund_id) references refund (id)
);

alter table outbox
  modify column kind varchar(12) not null check (kind in ('WRITE_BACK', 'CANCELLATION', 'REFUND', 'MAIL'));
