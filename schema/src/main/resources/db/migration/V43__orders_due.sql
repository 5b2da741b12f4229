-- The desk takes the most urgent order that is due: one step into this index per class, however many
-- orders wait for their batch or for later.
update sales_order set next_step_at = null where next_step is null;

alter table sales_order
  drop key sales_order_work,
  add key sales_order_step (next_step, channel_id),
  add key sales_order_due (priority, next_step_at),
  add constraint sales_order_step_is_due check (next_step_at is null or next_step is not null);
