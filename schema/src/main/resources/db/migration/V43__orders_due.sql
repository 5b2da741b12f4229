-- The desk takes the most urgent order that is due: one step into this index per class, however many
-- orders wait for their batch or for later.
alter table sales_order
  drop key sales_order_work,
  add key sales_order_step (next_step, channel_id),
  add key sales_order_due (priority, next_step_at);
