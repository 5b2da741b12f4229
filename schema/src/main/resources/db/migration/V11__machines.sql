-- Systems that call us: their tokens, what they asked once already, and what they are told.

create table machine_token (
  id           bigint auto_increment primary key,
  channel_id   bigint       not null,
  name         varchar(80)  not null,
  digest       char(64)     not null comment 'SHA-256; the token itself is nowhere',
  hint         varchar(8)   not null comment 'how it ends, so that a person can tell it from others',
  scopes       varchar(200) not null comment 'parted by spaces',
  created_by   varchar(80)  not null,
  created_at   datetime(3)  not null,
  last_used_at datetime(3)  null,
  revoked_at   datetime(3)  null,
  unique key machine_token_digest (digest),
  key machine_token_channel (channel_id),
  constraint machine_token_of_channel foreign key (channel_id) references channel (id)
);

-- a request that is sent again gets the answer that it got
create table idempotency_key (
  channel_id bigint       not null,
  given      varchar(100) not null,
  digest     char(64)     not null comment 'SHA-256 of the request',
  status     int          null comment 'null: it is being worked on',
  answer     longtext     null,
  at         datetime(3)  not null,
  primary key (channel_id, given),
  key idempotency_key_at (at),
  constraint idempotency_key_channel foreign key (channel_id) references channel (id)
);

create table hook (
  id         bigint auto_increment primary key,
  channel_id bigint         not null,
  address    varchar(400)   not null,
  secret     varbinary(400) not null comment 'encrypted',
  kinds      varchar(200)   not null comment 'parted by spaces',
  active     boolean        not null default true,
  stopped    varchar(400)   null comment 'why it was stopped by itself',
  created_by varchar(80)    not null,
  created_at datetime(3)    not null,
  key hook_channel (channel_id),
  constraint hook_of_channel foreign key (channel_id) references channel (id)
);

create table hook_delivery (
  id            bigint auto_increment primary key,
  hook_id       bigint        not null,
  message_id    varchar(40)   not null comment 'the same for every attempt',
  kind          varchar(20)   not null,
  order_id      bigint        null,
  body          longtext      not null,
  state         varchar(7)    not null check (state in ('PENDING', 'DONE', 'DEAD')),
  attempts      int           not null default 0,
  due_at        datetime(3)   not null,
  claimed_until datetime(3)   null,
  status        int           null comment 'HTTP, of the last attempt; null: no answer came',
  answer        varchar(1000) not null default '',
  created_at    datetime(3)   not null,
  done_at       datetime(3)   null,
  key hook_delivery_due (state, due_at),
  key hook_delivery_hook (hook_id, id),
  key hook_delivery_claimed (hook_id, state, claimed_until),
  key hook_delivery_at (created_at),
  constraint hook_delivery_of_hook foreign key (hook_id) references hook (id),
  constraint hook_delivery_order foreign key (order_id) references sales_order (id)
);
