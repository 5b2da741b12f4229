-- Items made of other items.

create table kit (
  item_id bigint      not null primary key,
  explode varchar(10) not null check (explode in ('AT_INTAKE', 'AT_ROUTING', 'AT_BENCH')),
  pricing varchar(13) not null check (pricing in ('BY_LIST_PRICE', 'LIST_PRICES')),
  version int         not null default 0,
  constraint kit_item foreign key (item_id) references item (id)
);

create table kit_part (
  id       bigint auto_increment primary key,
  kit_id   bigint      not null,
  item_id  bigint      not null,
  quantity bigint      not null comment 'units in one kit' check (quantity > 0),
  choice   varchar(40) not null default '' comment 'parts with the same are alternatives, of which the order chooses one; empty: always in it',
  label    varchar(40) not null default '' comment 'how an order says that it chooses this one',
  unique key kit_part_once (kit_id, choice, item_id),
  key kit_part_item (item_id),
  constraint kit_part_kit foreign key (kit_id) references kit (item_id),
  constraint kit_part_of_item foreign key (item_id) references item (id)
);

-- what was chosen for a line's kits
create table order_choice (
  order_line_id bigint      not null,
  choice        varchar(40) not null,
  item_id       bigint      not null,
  primary key (order_line_id, choice),
  constraint order_choice_line foreign key (order_line_id) references order_line (id),
  constraint order_choice_item foreign key (item_id) references item (id)
);

-- the components of a line's kits, once they are taken apart
create table order_part (
  order_line_id bigint not null,
  item_id       bigint not null,
  quantity      bigint not null comment 'units for the whole line' check (quantity > 0),
  amount        bigint not null comment 'what of the line''s price it bears',
  primary key (order_line_id, item_id),
  key order_part_item (item_id),
  constraint order_part_line foreign key (order_line_id) references order_line (id),
  constraint order_part_of_item foreign key (item_id) references item (id)
);

alter table consignment_line
  add column ordered bigint not null default 0
    comment 'units of the line that go with this row, as the channel counts them; of a kit''s components only the first bears them',
  add unique key consignment_line_item_once (consignment_id, order_line_id, item_id);
alter table consignment_line drop key consignment_line_once;
update consignment_line join order_line on order_line.id = consignment_line.order_line_id
  set consignment_line.ordered = consignment_line.quantity div order_line.units_each;

alter table stock_movement
  modify column reason varchar(15) not null
    check (reason in ('RECEIPT', 'COUNT', 'HAND_OVER', 'SCRAP', 'CHANNEL_SHIPPED', 'ASSEMBLE', 'BREAK'));
