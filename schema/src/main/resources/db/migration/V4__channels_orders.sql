-- Channels and what comes from them.

create table channel (
  id                  bigint auto_increment primary key,
  code                varchar(12)    not null,
  name                varchar(80)    not null,
  kind                varchar(20)    not null check (kind in ('WEB_SHOP')),
  prefix              varchar(10)    not null comment 'of our order numbers',
  listen_only         boolean        not null default true,
  paused              boolean        not null default false,
  base_url            varchar(200)   not null,
  api_key             varbinary(400) not null comment 'encrypted',
  webhook_secret      varbinary(400) not null comment 'encrypted',
  currency            char(3)        not null,
  approval            varchar(16)    not null check (approval in ('WHEN_AUTHORISED', 'WHEN_PAID', 'BY_HAND')),
  match_by            varchar(4)     not null check (match_by in ('SKU', 'GTIN')),
  interval_seconds    int            not null default 300,
  intake_cursor       varchar(100)   not null default '',
  next_pull_at        datetime(3)    not null,
  last_pull_at        datetime(3)    null,
  last_success_at     datetime(3)    null,
  last_error          varchar(400)   null,
  last_taken          int            not null default 0 comment 'orders that the last pull brought',
  version             int            not null default 0,
  unique key channel_code (code)
);

-- beside the channel, not in it: foreign keys to a channel share-lock its row, and who then wants to
-- count up there would wait for all others who want the same
create table order_number (
  channel_id bigint not null primary key,
  last_given bigint not null,
  constraint order_number_channel foreign key (channel_id) references channel (id)
);

create table listing (
  id          bigint auto_increment primary key,
  channel_id  bigint       not null,
  external_id varchar(100) not null,
  sku         varchar(100) not null default '',
  gtin        varchar(40)  not null default '',
  title       varchar(400) not null,
  item_id     bigint       null comment 'the match; null: unmatched',
  matched_by  varchar(80)  null,
  first_seen  datetime(3)  not null,
  unique key listing_external (channel_id, external_id),
  key listing_item (item_id),
  key listing_unmatched (channel_id, item_id, id),
  constraint listing_channel foreign key (channel_id) references channel (id),
  constraint listing_of_item foreign key (item_id) references item (id)
);

create table service_word (
  id         bigint auto_increment primary key,
  channel_id bigint       not null,
  how        varchar(11)  not null check (how in ('EXACT', 'BEGINS_WITH', 'CONTAINS')),
  wording    varchar(120) not null,
  level      varchar(10)  not null check (level in ('STANDARD', 'EXPRESS')),
  unique key service_word_once (channel_id, how, wording),
  constraint service_word_channel foreign key (channel_id) references channel (id)
);

create table sales_order (
  id              bigint auto_increment primary key,
  channel_id      bigint        not null,
  external_id     varchar(100)  not null,
  external_rev    bigint        not null comment 'the channel''s revision last taken in',
  digest          char(64)      not null comment 'SHA-256 of the content last taken in',
  number          varchar(30)   not null,
  stage           varchar(9)    not null comment 'cache of what core derives from the lines',
  open            boolean as (stage not in ('DELIVERED', 'CANCELLED')) persistent,
  next_step       varchar(7)    null check (next_step in ('CHECK', 'APPROVE', 'ROUTE', 'RELEASE')),
  next_step_at    datetime(3)   null,
  placed_at       datetime(3)   not null,
  received_at     datetime(3)   not null,
  buyer_name      varchar(200)  not null,
  email           varchar(200)  not null,
  phone           varchar(40)   not null,
  ship_name       varchar(200)  not null,
  ship_street     varchar(200)  not null,
  ship_postcode   varchar(20)   not null,
  ship_city       varchar(120)  not null,
  ship_country    varchar(2)    not null,
  service_wording varchar(120)  not null,
  level           varchar(10)   null,
  arrive_by       date          null,
  priority        int           not null default 5,
  payment_state   varchar(13)   not null,
  payment_method  varchar(60)   not null,
  currency        char(3)       not null,
  shipping_charge bigint        not null,
  discount        bigint        not null,
  total           bigint        not null,
  units           bigint        not null,
  instructions    varchar(1000) not null,
  gift_message    varchar(1000) not null,
  approved_at     datetime(3)   null,
  held            boolean       not null default false,
  snagged         boolean       not null default false,
  waiting         boolean       not null default false comment 'for stock',
  part_shipped    boolean       not null default false,
  ship_by         date          null comment 'the earliest of what has not been handed over',
  version         int           not null default 0,
  unique key sales_order_external (channel_id, external_id),
  unique key sales_order_number (number),
  key sales_order_open (open, id),
  key sales_order_stage (stage, id),
  key sales_order_work (next_step, next_step_at, priority, id),
  key sales_order_ship_by (open, ship_by, id),
  key sales_order_held (held, id),
  key sales_order_snagged (snagged, id),
  key sales_order_waiting (waiting, id),
  key sales_order_buyer (buyer_name),
  key sales_order_email (email),
  key sales_order_their_id (external_id),
  constraint sales_order_channel foreign key (channel_id) references channel (id)
);

create table order_tag (
  order_id bigint      not null,
  tag      varchar(40) not null,
  primary key (order_id, tag),
  key order_tag_tag (tag, order_id),
  constraint order_tag_order foreign key (order_id) references sales_order (id)
);

create table order_excluded_node (
  order_id bigint      not null,
  node     varchar(12) not null,
  primary key (order_id, node),
  constraint order_excluded_node_order foreign key (order_id) references sales_order (id)
);

create table order_line (
  id          bigint auto_increment primary key,
  order_id    bigint       not null,
  line_no     int          not null,
  external_id varchar(100) not null,
  listing_id  bigint       not null,
  item_id     bigint       null,
  title       varchar(400) not null,
  quantity    bigint       not null check (quantity > 0),
  unit_price  bigint       not null,
  discount    bigint       not null,
  unique key order_line_no (order_id, line_no),
  key order_line_listing (listing_id),
  key order_line_item (item_id),
  constraint order_line_order foreign key (order_id) references sales_order (id),
  constraint order_line_of_listing foreign key (listing_id) references listing (id),
  constraint order_line_of_item foreign key (item_id) references item (id)
);

create table order_hold (
  id          bigint auto_increment primary key,
  order_id    bigint       not null,
  reason      varchar(200) not null,
  placed_by   varchar(80)  not null,
  placed_at   datetime(3)  not null,
  released_by varchar(80)  null,
  released_at datetime(3)  null,
  key order_hold_order (order_id, released_at),
  constraint order_hold_of_order foreign key (order_id) references sales_order (id)
);

-- what could not be read, kept as it came
create table refused_message (
  id          bigint auto_increment primary key,
  channel_id  bigint       not null,
  external_id varchar(100) not null comment 'empty if it could not be read either',
  source      varchar(7)   not null check (source in ('PULL', 'WEBHOOK')),
  state       varchar(9)   not null check (state in ('REFUSED', 'CORRECTED', 'DISCARDED')),
  place       varchar(200) not null,
  problem     varchar(400) not null,
  body        mediumtext   not null,
  digest      char(64)     not null,
  received_at datetime(3)  not null,
  unique key refused_message_once (channel_id, digest),
  key refused_message_state (state, id),
  constraint refused_message_channel foreign key (channel_id) references channel (id)
);

create table webhook_seen (
  channel_id bigint       not null,
  message_id varchar(100) not null,
  at         datetime(3)  not null,
  primary key (channel_id, message_id),
  constraint webhook_seen_channel foreign key (channel_id) references channel (id)
);

create table snag (
  id          bigint auto_increment primary key,
  cause       varchar(20)  not null,
  subject     varchar(120) not null comment 'what it is about; one open snag per cause and subject',
  channel_id  bigint       null,
  listing_id  bigint       null,
  item_id     bigint       null,
  order_id    bigint       null,
  refused_id  bigint       null,
  outbox_id   bigint       null,
  title       varchar(400) not null,
  detail      varchar(400) not null,
  opened_at   datetime(3)  not null,
  closed_at   datetime(3)  null,
  closed_by   varchar(80)  null,
  open_key    varchar(150) as (if(closed_at is null, concat(cause, ':', subject), null)) persistent,
  unique key snag_open (open_key),
  key snag_closed (closed_at, cause),
  constraint snag_channel foreign key (channel_id) references channel (id),
  constraint snag_listing foreign key (listing_id) references listing (id),
  constraint snag_item foreign key (item_id) references item (id),
  constraint snag_of_order foreign key (order_id) references sales_order (id),
  constraint snag_refused foreign key (refused_id) references refused_message (id)
);

create table snag_order (
  snag_id  bigint not null,
  order_id bigint not null,
  primary key (snag_id, order_id),
  key snag_order_order (order_id),
  constraint snag_order_snag foreign key (snag_id) references snag (id),
  constraint snag_order_of_order foreign key (order_id) references sales_order (id)
);

create table decision (
  id         bigint auto_increment primary key,
  order_id   bigint      not null,
  edition_id bigint      not null,
  rung       int         null comment '0-based; null: no rung could',
  rung_name  varchar(80) not null,
  rungs      int         not null,
  cost       bigint      not null,
  grounds    longtext    not null comment 'JSON',
  actor      varchar(80) not null,
  at         datetime(3) not null,
  key decision_order (order_id, id),
  constraint decision_of_order foreign key (order_id) references sales_order (id),
  constraint decision_edition foreign key (edition_id) references edition (id)
);
