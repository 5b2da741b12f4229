-- What anybody could have had of each item at each node when a day began. A level has a row only on days on which it
-- differs from the day before that was kept.
create table level_snapshot (
  day      date        primary key comment 'in the merchant''s time zone',
  taken_at datetime(3) not null
);

create table level_day (
  item_id bigint not null,
  node_id bigint not null,
  day     date   not null,
  free    bigint not null comment 'sellable on hand - allocated - safety - earmarked',
  primary key (item_id, node_id, day),
  key level_day_of_day (day),
  constraint level_day_item foreign key (item_id) references item (id),
  constraint level_day_node foreign key (node_id) references node (id)
);

alter table stock_movement add key stock_movement_time (at);
alter table decision add key decision_at (at);

-- Past orders routed again under a draft.
create table rehearsal (
  id         bigint auto_increment primary key,
  edition_id bigint       not null comment 'the draft; its row stays when it is made live',
  changes    int          not null comment 'of the draft, when this was begun',
  body       longtext     not null comment 'what the draft said then',
  against_id bigint       not null comment 'the edition that was live then',
  days       int          not null,
  state      varchar(9)   not null check (state in ('WAITING', 'RUNNING', 'DONE', 'CANCELLED', 'FAILED')),
  orders     int          not null default 0 comment 'to be routed again',
  done       int          not null default 0,
  begun_by   varchar(80)  not null,
  begun_at   datetime(3)  not null,
  beat_at    datetime(3)  not null comment 'when its worker was last heard of',
  ended_at   datetime(3)  null,
  problem    varchar(400) not null default '',
  result     longtext     null comment 'JSON',
  key rehearsal_state (state, id),
  constraint rehearsal_edition foreign key (edition_id) references edition (id) on delete cascade,
  constraint rehearsal_against foreign key (against_id) references edition (id)
);

-- Orders whose outcome would change.
create table rehearsal_order (
  rehearsal_id bigint      not null,
  order_id     bigint      not null,
  decision_id  bigint      not null comment 'what was really decided',
  by_draft     boolean     not null comment 'false: the live edition would now decide otherwise as well',
  was_cost     bigint      null comment 'null: nothing could send it',
  would_cost   bigint      null,
  was_nodes    varchar(400) not null comment 'codes, in listed order',
  would_nodes  varchar(400) not null,
  rung         int         null,
  rung_name    varchar(80) not null,
  rungs        int         not null,
  grounds      longtext    not null comment 'JSON',
  primary key (rehearsal_id, order_id),
  constraint rehearsal_order_of foreign key (rehearsal_id) references rehearsal (id) on delete cascade,
  constraint rehearsal_order_order foreign key (order_id) references sales_order (id),
  constraint rehearsal_order_decision foreign key (decision_id) references decision (id)
);
