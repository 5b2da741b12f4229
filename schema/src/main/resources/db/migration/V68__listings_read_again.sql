-- What a channel offers is read again each day.
alter table channel
  add column listings_read_at datetime(3) null comment 'null: never read';
