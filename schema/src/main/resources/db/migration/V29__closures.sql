-- Days on which a node sends nothing, beside its holidays.
create table node_closure (
  id        bigint auto_increment primary key,
  node_id   bigint       not null,
  first_day date         not null comment 'in the node''s time zone, as is the last',
  last_day  date         not null,
  reason    varchar(200) not null,
  made_by   varchar(80)  not null,
  made_at   datetime(3)  not null,
  key node_closure_node (node_id, last_day),
  check (first_day <= last_day),
  constraint node_closure_of_node foreign key (node_id) references node (id)
);
