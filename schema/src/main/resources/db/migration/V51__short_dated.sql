-- What lies there but would not last long enough, whoever were sent it, is not available.
alter table stock_level
  add short_dated bigint not null default 0
    comment 'units that nobody holds of lots that would last too short a time even if sent today to the nearest place';
