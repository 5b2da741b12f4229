-- An edition has several ladders, of which the first is for every order that no rule sends to another.
update edition
set body = json_set(
  json_remove(body, '$.ladder'), '$.ladders', json_array(json_extract(body, '$.ladder')));

-- The draft is the edition of the highest number; it changes until it is made live.
alter table edition
  add column changes int not null default 0 comment 'how often the draft was changed' after body,
  add column begun_from int null comment 'number of the edition that the draft began as' after changes;

-- What rules said of how an order is to be sent.
alter table sales_order
  add column ladder varchar(80) null comment 'null: the first' after priority,
  add column may_split boolean null comment 'null: as the ladder allows' after ladder,
  add column stage_since datetime(3) null after stage,
  add key sales_order_stays (stage, stage_since, id),
  add key sales_order_received (received_at, id);
update sales_order set stage_since = received_at;
alter table sales_order
  modify column stage_since datetime(3) not null default current_timestamp(3);

create table order_preferred_node (
  order_id bigint      not null,
  node     varchar(12) not null,
  primary key (order_id, node),
  constraint order_preferred_node_order foreign key (order_id) references sales_order (id)
);

-- A hold that a rule placed may be ended by a rule.
alter table order_hold add column by_rule boolean not null default false;

-- Which rules looked at an order, and which of them held; their words are in the edition.
create table rule_trace (
  id         bigint auto_increment primary key,
  order_id   bigint      not null,
  edition_id bigint      not null,
  event      varchar(10) not null,
  at         datetime(3) not null,
  tried      text        not null comment 'JSON: rule ids with whether they held, in order',
  key rule_trace_order (order_id, id),
  constraint rule_trace_of_order foreign key (order_id) references sales_order (id),
  constraint rule_trace_edition foreign key (edition_id) references edition (id)
);

alter table outbox
  modify column kind varchar(12) not null
    check (kind in ('WRITE_BACK', 'CANCELLATION', 'REFUND', 'MAIL', 'NOTICE'));

-- Rules for orders that stay look at each order once.
create table rule_stay (
  rule     varchar(40) not null,
  order_id bigint      not null,
  primary key (rule, order_id),
  constraint rule_stay_order foreign key (order_id) references sales_order (id)
);
