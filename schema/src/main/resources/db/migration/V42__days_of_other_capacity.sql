-- Days on which a node can hand over another number of consignments than usually.
create table node_capacity (
  node_id      bigint not null,
  day          date   not null,
  consignments int    null comment 'null: no limit on that day' check (consignments >= 0),
  primary key (node_id, day),
  constraint node_capacity_node foreign key (node_id) references node (id)
);
