-- How the network was from a moment on, so that past orders are rehearsed on the network of their day.
create table network_state (
  since datetime(3) not null primary key,
  body  mediumtext  not null comment 'nodes, lanes, zones and usual capacities, as JSON'
) comment 'one row for each change';
