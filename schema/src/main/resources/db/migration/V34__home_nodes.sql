alter table item
  add column home_node_id bigint null comment 'tried first for orders with it',
  add constraint item_home_node foreign key (home_node_id) references node (id);
