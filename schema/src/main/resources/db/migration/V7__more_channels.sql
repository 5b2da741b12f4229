-- Several kinds of channel, and all that their orders bring: sites, currencies, tax, tenders, texts.

alter table channel
  modify column kind varchar(12) not null
    check (kind in ('WEB_SHOP', 'MARKETPLACE', 'WHOLESALE', 'SPREADSHEET', 'MACHINE', 'BY_HAND')),
  modify column match_by varchar(13) not null check (match_by in ('SKU', 'GTIN', 'SUPPLIER_CODE')),
  rename column api_key to secret,
  add column client_id varchar(100) not null default '' comment 'who we are there, beside the secret',
  add column writes_back boolean not null default false comment 'told what becomes of its orders',
  add column feeds boolean not null default false comment 'told what is in stock',
  add column terms longtext not null default '{}' comment 'JSON: which orders are taken, and with what defaults',
  add column setup varchar(11) null comment 'the step at which connecting stands; null: connected';
update channel set writes_back = not listen_only;
alter table channel drop column listen_only;

alter table item
  add column tax_class varchar(10) not null default 'STANDARD' check (tax_class in ('STANDARD', 'REDUCED', 'ZERO')),
  add column supplier_code varchar(60) null,
  add key item_supplier_code (supplier_code);

alter table listing
  add column price bigint null comment 'minor units of currency',
  add column currency char(3) null,
  add column units_each bigint not null default 1 comment 'units of the item in one of it: a case of 12' check (units_each > 0),
  add column family varchar(100) not null default '' comment 'the listing of which it is a variant';

alter table sales_order
  add column site varchar(20) not null default '' comment 'the channel''s country site',
  add column external_state varchar(40) not null default '' comment 'in the channel''s own words',
  add column fulfilled_by varchar(7) not null default 'US' check (fulfilled_by in ('US', 'CHANNEL')),
  add column pick_up_node varchar(12) null comment 'where the buyer collects it',
  add column team varchar(40) not null default '',
  add column bill_to text null comment 'JSON; null: as ship-to',
  add column pay_within_days int null,
  add column prices_with_tax boolean not null default true,
  add column tax bigint null comment 'of lines and shipping; null: not known yet',
  add column rate decimal(18, 8) null comment 'base currency for one unit of currency; null: not known yet',
  add column rate_day date null,
  add column content longtext null comment 'JSON: what of it the channel may change, as last taken in',
  add column base_total bigint not null default 0 comment 'minor units of the base currency; 0 while the rate is not known';
update sales_order set base_total = total, rate = 1, rate_day = date(placed_at);
alter table sales_order drop column digest;

alter table order_line
  add column cancelled bigint not null default 0,
  add column units_each bigint not null default 1 comment 'units of the item in one that was ordered',
  add column order_discount bigint not null default 0 comment 'share of the order''s discount',
  add column tax bigint null,
  add column tax_rate int null comment 'hundredths of a per cent',
  add column personalisation text null comment 'JSON: name, text and file of each wish',
  add constraint order_line_cancelled check (cancelled between 0 and quantity);

-- several tenders may pay for one order
create table order_payment (
  id        bigint auto_increment primary key,
  order_id  bigint       not null,
  method    varchar(60)  not null,
  amount    bigint       not null comment 'minor units of the order''s currency',
  reference varchar(100) not null default '',
  key order_payment_order (order_id),
  constraint order_payment_of_order foreign key (order_id) references sales_order (id)
);

create table exchange_rate (
  currency char(3)        not null,
  day      date           not null,
  rate     decimal(18, 8) not null comment 'base currency for one unit' check (rate > 0),
  source   varchar(80)    not null,
  primary key (currency, day)
);

create table tax_rate (
  country char(2)     not null,
  class   varchar(10) not null check (class in ('STANDARD', 'REDUCED', 'ZERO')),
  rate    int         not null comment 'hundredths of a per cent',
  primary key (country, class)
);
-- to start with: standard rates, and the reduced rate that covers food, as of 2026; a country that is
-- not here is outside our tax area, and goods leave for it untaxed
insert into tax_rate (country, class, rate) values
  ('AT', 'STANDARD', 2000), ('AT', 'REDUCED', 1000), ('BE', 'STANDARD', 2100), ('BE', 'REDUCED', 600),
  ('BG', 'STANDARD', 2000), ('CY', 'STANDARD', 1900), ('CZ', 'STANDARD', 2100), ('CZ', 'REDUCED', 1200),
  ('DE', 'STANDARD', 1900), ('DE', 'REDUCED', 700), ('DK', 'STANDARD', 2500), ('EE', 'STANDARD', 2400),
  ('ES', 'STANDARD', 2100), ('ES', 'REDUCED', 1000), ('FI', 'STANDARD', 2550), ('FR', 'STANDARD', 2000),
  ('FR', 'REDUCED', 550), ('GB', 'STANDARD', 2000), ('GB', 'REDUCED', 0), ('GR', 'STANDARD', 2400),
  ('HR', 'STANDARD', 2500), ('HU', 'STANDARD', 2700), ('IE', 'STANDARD', 2300), ('IT', 'STANDARD', 2200),
  ('IT', 'REDUCED', 1000), ('LT', 'STANDARD', 2100), ('LU', 'STANDARD', 1700), ('LU', 'REDUCED', 300),
  ('LV', 'STANDARD', 2100), ('MT', 'STANDARD', 1800), ('NL', 'STANDARD', 2100), ('NL', 'REDUCED', 900),
  ('PL', 'STANDARD', 2300), ('PL', 'REDUCED', 500), ('PT', 'STANDARD', 2300), ('RO', 'STANDARD', 2100),
  ('SE', 'STANDARD', 2500), ('SE', 'REDUCED', 1200), ('SI', 'STANDARD', 2200), ('SK', 'STANDARD', 2300);

alter table stock_movement
  modify column reason varchar(15) not null
    check (reason in ('RECEIPT', 'COUNT', 'HAND_OVER', 'SCRAP', 'CHANNEL_SHIPPED'));

-- parcels of which only the channel knows who carries them
insert into carrier (code, name, tracking_url) values ('CHANNEL', 'The channel''s own carrier', '');

-- a change that came when its order had been released; a person says what becomes of it
create table amendment (
  id         bigint auto_increment primary key,
  order_id   bigint      not null,
  message    mediumtext  not null comment 'as it came',
  changes    longtext    not null comment 'JSON: what it changes, each with before and after',
  state      varchar(8)  not null check (state in ('OPEN', 'TAKEN', 'REFUSED')),
  came_at    datetime(3) not null,
  settled_by varchar(80) null,
  key amendment_order (order_id, state),
  constraint amendment_of_order foreign key (order_id) references sales_order (id)
);

-- each request to a channel and its answer, without what proves who we are
create table exchange (
  id         bigint auto_increment primary key,
  channel_id bigint       not null,
  at         datetime(3)  not null,
  purpose    varchar(20)  not null,
  method     varchar(6)   not null,
  address    varchar(400) not null,
  request    text         not null,
  status     int          null comment 'HTTP; null: no answer came',
  answer     text         not null,
  millis     int          not null,
  key exchange_channel (channel_id, id),
  key exchange_at (at),
  constraint exchange_of_channel foreign key (channel_id) references channel (id)
);

-- the names by which channels know carriers
create table carrier_word (
  channel_id bigint      not null,
  carrier_id bigint      not null,
  name       varchar(80) not null,
  primary key (channel_id, carrier_id),
  constraint carrier_word_channel foreign key (channel_id) references channel (id),
  constraint carrier_word_carrier foreign key (carrier_id) references carrier (id)
);

-- parcels that channels sent from their own depots; recorded as consignments once all lines are matched
create table depot_parcel (
  id             bigint auto_increment primary key,
  order_id       bigint      not null,
  tracking       varchar(60) not null,
  units          longtext    not null comment 'JSON: units by the channel''s id of the line',
  consignment_id bigint      null,
  unique key depot_parcel_once (order_id, tracking),
  constraint depot_parcel_of_order foreign key (order_id) references sales_order (id),
  constraint depot_parcel_consignment foreign key (consignment_id) references consignment (id)
);
