-- Goods on their way from one of our nodes to another are expected there.

alter table expected_supply
  add column from_node bigint null comment 'a transfer: the node that sent it' after node_id,
  add column lot_id    bigint null comment 'known of what one of our nodes sent' after item_id,
  add constraint expected_supply_from foreign key (from_node) references node (id),
  add constraint expected_supply_lot foreign key (lot_id) references lot (id);

create table transfer_number (
  id bigint auto_increment primary key
);
