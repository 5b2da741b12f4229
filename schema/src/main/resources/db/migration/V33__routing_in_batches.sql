-- An order that waits for its channel's next batch has the step BATCH and no time: the desk leaves it alone.
alter table sales_order
  modify column next_step varchar(7) null check (next_step in ('CHECK', 'APPROVE', 'ROUTE', 'BATCH', 'RELEASE'));

alter table channel
  add column batch_minutes int         null comment 'orders are routed together so often; null: each at once' check (batch_minutes between 1 and 1440),
  add column next_batch_at datetime(3) null;
