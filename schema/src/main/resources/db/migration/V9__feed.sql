-- What channels are told is in stock.

alter table listing
  add column feed_basis varchar(9) not null default 'AVAILABLE' check (feed_basis in ('AVAILABLE', 'ON_HAND')),
  add column feed_buffer bigint not null default 0,
  add column feed_share int not null default 100,
  add column feed_cap bigint null,
  add column sold_out varchar(12) not null default 'STOP' check (sold_out in ('STOP', 'OVERSELL', 'WAITING_LIST')),
  add column oversell_to bigint not null default 0,
  add column pushed bigint null comment 'quantity that the channel was told last; null: never told',
  add column pushed_at datetime(3) null,
  add column refused_quantity bigint null comment 'what a person would not have told; not offered for telling again';

alter table channel
  add column guard_zeroed int not null default 20 comment 'per cent of live listings that one push may bring to zero',
  add column guard_drop int not null default 50 comment 'per cent that the sum may fall in one push',
  add column next_feed_at datetime(3) null,
  add column last_feed_at datetime(3) null,
  add column last_fed_at datetime(3) null comment 'when the last push went well',
  add column last_feed_error varchar(400) null,
  add column last_fed_lines int not null default 0;

-- a push that the guard held; a person lets it through or refuses it
create table feed_hold (
  id         bigint auto_increment primary key,
  channel_id bigint        not null,
  reasons    varchar(1000) not null,
  state      varchar(11)   not null check (state in ('HELD', 'LET_THROUGH', 'REFUSED')),
  held_at    datetime(3)   not null,
  settled_at datetime(3)   null,
  settled_by varchar(80)   null,
  held_key   bigint as (if(state = 'HELD', channel_id, null)) persistent,
  unique key feed_hold_one (held_key),
  key feed_hold_channel (channel_id, id),
  constraint feed_hold_of_channel foreign key (channel_id) references channel (id)
);

create table feed_hold_line (
  feed_hold_id bigint not null,
  listing_id   bigint not null,
  before_push  bigint null,
  after_push   bigint not null,
  primary key (feed_hold_id, listing_id),
  constraint feed_hold_line_of_hold foreign key (feed_hold_id) references feed_hold (id),
  constraint feed_hold_line_listing foreign key (listing_id) references listing (id)
);

-- who wants to hear when a listing can be had again; told once
create table waiting_list (
  id         bigint auto_increment primary key,
  listing_id bigint       not null,
  email      varchar(200) not null,
  since      datetime(3)  not null,
  told_at    datetime(3)  null,
  open_key   varchar(200) as (if(told_at is null, email, null)) persistent,
  unique key waiting_list_once (listing_id, open_key),
  constraint waiting_list_listing foreign key (listing_id) references listing (id)
);
