-- While there is a row that names a node, nothing new is planned there.
alter table routing_pause
  drop key routing_pause_once,
  drop column what;
alter table routing_pause
  add column node_id bigint null after channel_id,
  add column what    varchar(24) generated always as (coalesce(concat('channel ', channel_id), concat('node ', node_id), 'all')) stored
    comment 'so that each is paused once' after node_id,
  add unique key routing_pause_once (what),
  add constraint routing_pause_of_node foreign key (node_id) references node (id);
