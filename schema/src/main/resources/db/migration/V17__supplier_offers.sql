-- What suppliers offer us, as their files say.

create table supplier (
  id       bigint auto_increment primary key,
  code     varchar(12) not null,
  name     varchar(80) not null,
  currency char(3)     not null comment 'in which it says its prices',
  read_at  datetime(3) null comment 'when its file was taken last',
  unique key supplier_code (code)
);

create table supplier_offer (
  id          bigint auto_increment primary key,
  supplier_id bigint       not null,
  code        varchar(60)  not null comment 'the supplier''s own',
  title       varchar(200) not null,
  gtin        varchar(14)  null,
  price       bigint       not null comment 'of a unit, without tax, minor units of the supplier''s currency' check (price >= 0),
  available   bigint       not null comment 'units; 0 once it is no longer in the file' check (available >= 0),
  item_id     bigint       null comment 'the item that we buy by it',
  changed_at  datetime(3)  not null,
  unique key supplier_offer_code (supplier_id, code),
  key supplier_offer_item (item_id),
  constraint supplier_offer_of_supplier foreign key (supplier_id) references supplier (id),
  constraint supplier_offer_of_item foreign key (item_id) references item (id)
);

-- an item that is no longer sold is taken off the channels on which it is offered from here
alter table item add column ended boolean not null default false comment 'no longer sold';

-- whether line prices are less the discounts already, and what a shop's pages are told of stock
update channel set terms = json_set(terms, '$.discountsWithin', false, '$.tellsUnits', true, '$.tellsNodes', false)
  where terms <> '{}';
