-- Items offered on channels from here: what they cost, how that becomes a price, and what was made.

alter table item
  add column cost bigint null comment 'of a unit, without tax, minor units of the base currency; null: nobody has said',
  add column description text not null default '',
  add column pictures text not null default '[]' comment 'JSON: addresses',
  add column family varchar(60) not null default '' comment 'of which it is a variant';

alter table listing
  add column pictures text not null default '[]' comment 'JSON: addresses, as the channel has them',
  add column ours boolean not null default false comment 'made from here, and kept at its price from here',
  add column published boolean not null default true comment 'false: the channel keeps it as a draft';

create table price_rule (
  channel_id bigint      not null primary key,
  markup     int         not null comment 'hundredths of a per cent',
  plus       bigint      not null comment 'minor units of the channel''s currency',
  ending     varchar(11) not null,
  floor      int         not null comment 'hundredths of a per cent',
  country    char(2)     not null comment 'whose tax the channel''s prices contain',
  set_by     varchar(80) not null,
  set_at     datetime(3) not null,
  constraint price_rule_channel foreign key (channel_id) references channel (id)
);
