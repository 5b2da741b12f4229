-- What is set aside in advance, and the limits of a level.

alter table stock_level
  add column earmarked bigint not null default 0 comment 'what is left of the open earmarks' check (earmarked >= 0),
  add column most      bigint null comment 'more than this is a surplus; null: no limit' check (most >= 0);

create table earmark (
  id        bigint auto_increment primary key,
  item_id   bigint       not null,
  node_id   bigint       not null,
  quantity  bigint       not null comment 'units set aside at first' check (quantity > 0),
  units     bigint       not null comment 'units that nobody has taken yet' check (units >= 0),
  kind      varchar(8)   not null check (kind in ('CHANNEL', 'CUSTOMER', 'CAMPAIGN')),
  who       varchar(190) not null comment 'a channel''s code, a customer''s mail address, or the tag of a campaign''s orders',
  until     date         null comment 'last day; null: until somebody releases it',
  note      varchar(400) not null default '',
  noted_by  varchar(80)  not null,
  noted_at  datetime(3)  not null,
  closed_at datetime(3)  null,
  key earmark_item (item_id, closed_at),
  key earmark_until (closed_at, until),
  constraint earmark_of_item foreign key (item_id) references item (id),
  constraint earmark_node foreign key (node_id) references node (id)
);

-- units of an allocation that came out of an earmark
create table earmark_use (
  allocation_id bigint not null,
  earmark_id    bigint not null,
  units         bigint not null check (units > 0),
  primary key (allocation_id, earmark_id),
  constraint earmark_use_allocation foreign key (allocation_id) references allocation (id),
  constraint earmark_use_of foreign key (earmark_id) references earmark (id)
);
