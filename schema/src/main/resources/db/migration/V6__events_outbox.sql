-- What happened, and what others have yet to be told.

create table event (
  id             bigint auto_increment primary key,
  at             datetime(3)   not null,
  kind           varchar(24)   not null,
  actor          varchar(80)   not null comment 'a person, or the part of the system',
  order_id       bigint        null,
  consignment_id bigint        null,
  text           varchar(1000) not null comment 'what happened, as a sentence',
  why            varchar(1000) not null default '',
  key event_order (order_id, id),
  key event_at (at)
);

create table outbox (
  id             bigint auto_increment primary key,
  kind           varchar(12)  not null check (kind in ('WRITE_BACK', 'MAIL')),
  once_key       varchar(100) not null comment 'also sent along, so that the other side can tell a repeat',
  order_id       bigint       not null,
  consignment_id bigint       not null,
  state          varchar(7)   not null check (state in ('PENDING', 'DONE', 'DEAD', 'SKIPPED')),
  attempts       int          not null default 0,
  due_at         datetime(3)  not null,
  last_error     varchar(400) null,
  done_at        datetime(3)  null,
  unique key outbox_once (once_key),
  key outbox_due (state, due_at),
  key outbox_order (order_id),
  constraint outbox_of_order foreign key (order_id) references sales_order (id),
  constraint outbox_consignment foreign key (consignment_id) references consignment (id)
);

alter table snag add constraint snag_outbox foreign key (outbox_id) references outbox (id);
