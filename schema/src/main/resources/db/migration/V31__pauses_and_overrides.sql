-- While there is a row, nothing of its channel is routed; of none at all if it names none.
create table routing_pause (
  id         bigint auto_increment primary key,
  channel_id bigint       null,
  what       bigint       generated always as (coalesce(channel_id, 0)) stored comment 'so that each is paused once',
  reason     varchar(200) not null,
  made_by    varchar(80)  not null,
  made_at    datetime(3)  not null,
  unique key routing_pause_once (what),
  constraint routing_pause_of_channel foreign key (channel_id) references channel (id)
);

-- Decisions that people made against the router's, to be counted by their reason.
alter table decision add key decision_override (override_reason, at);
