-- Whether a buyer ordered the same some hours before is asked of each order; some buyers have very many.
alter table sales_order
  drop key sales_order_email,
  add key sales_order_email (email, received_at);
