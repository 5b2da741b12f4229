-- Who can send where, how fast, at what carriage. Money is in minor units of the base currency.

create table node (
  id                       bigint auto_increment primary key,
  code                     varchar(12)  not null,
  name                     varchar(80)  not null,
  kind                     varchar(14)  not null,
  street                   varchar(120) not null,
  postcode                 varchar(12)  not null,
  city                     varchar(80)  not null,
  country                  char(2)      not null,
  time_zone                varchar(40)  not null,
  workdays                 varchar(40)  not null comment 'such as MON-FRI,SUN',
  cut_off                  time         not null comment 'local time; a release until then leaves that day',
  processing_days          int          not null,
  capacity_per_day         int          null comment 'consignments handed over in a day; null: no limit',
  handling_per_consignment bigint       not null,
  handling_per_line        bigint       not null,
  handling_per_unit        bigint       not null,
  hazards                  varchar(120) not null default '' comment 'hazard classes, comma between',
  position                 int          not null comment 'listed order; breaks ties',
  unique key node_code (code)
);

alter table app_user add constraint app_user_node foreign key (node_id) references node (id);

create table node_holiday (
  node_id bigint not null,
  day     date   not null,
  primary key (node_id, day),
  constraint node_holiday_node foreign key (node_id) references node (id)
);

-- consignments planned for a node's day; the row is locked to keep to the capacity
create table node_load (
  node_id      bigint not null,
  day          date   not null,
  consignments int    not null check (consignments >= 0),
  primary key (node_id, day),
  constraint node_load_node foreign key (node_id) references node (id)
);

create table zone (
  id       bigint auto_increment primary key,
  code     varchar(20) not null,
  position int         not null,
  unique key zone_code (code)
);

create table zone_match (
  id       bigint auto_increment primary key,
  zone_id  bigint      not null,
  country  char(2)     not null,
  postcode varchar(12) not null default '' comment 'a prefix; empty: the whole country',
  unique key zone_match_once (zone_id, country, postcode),
  constraint zone_match_zone foreign key (zone_id) references zone (id)
);

create table carrier (
  id           bigint auto_increment primary key,
  code         varchar(20)  not null,
  name         varchar(80)  not null,
  tracking_url varchar(200) not null comment '{tracking} stands for the number',
  unique key carrier_code (code)
);

create table lane (
  id           bigint auto_increment primary key,
  node_id      bigint       not null,
  zone_id      bigint       not null,
  carrier_id   bigint       not null,
  service      varchar(20)  not null,
  level        varchar(10)  not null check (level in ('STANDARD', 'EXPRESS')),
  workdays     varchar(40)  not null,
  transit_days int          not null,
  hazards      varchar(120) not null default '',
  position     int          not null,
  unique key lane_once (node_id, zone_id, carrier_id, service),
  constraint lane_node foreign key (node_id) references node (id),
  constraint lane_zone foreign key (zone_id) references zone (id),
  constraint lane_carrier foreign key (carrier_id) references carrier (id)
);

create table lane_rate (
  lane_id bigint not null,
  up_to   bigint not null comment 'grams, inclusive',
  price   bigint not null,
  primary key (lane_id, up_to),
  constraint lane_rate_lane foreign key (lane_id) references lane (id)
);

-- rules and ladders, in numbered editions; the live one decides
create table edition (
  id           bigint auto_increment primary key,
  number       int          not null,
  state        varchar(5)   not null check (state in ('DRAFT', 'LIVE', 'OLD')),
  note         varchar(400) not null,
  published_by varchar(80)  not null,
  published_at datetime(3)  not null,
  body         longtext     not null comment 'JSON: policy, ladder, rule groups',
  unique key edition_number (number)
);
