alter table node_closure
  add column lane_id bigint null comment 'only that lane of the node; null: all of it' after node_id,
  add constraint node_closure_of_lane foreign key (lane_id) references lane (id);
