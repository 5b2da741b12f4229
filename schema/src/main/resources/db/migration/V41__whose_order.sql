-- Who looks after an order, and the list on which it stands for people to work off.
alter table sales_order
  add column assigned_to bigint      null,
  add column list_name   varchar(40) null,
  add key sales_order_assigned (assigned_to, open),
  add key sales_order_list (list_name, open),
  add constraint sales_order_assignee foreign key (assigned_to) references app_user (id);
