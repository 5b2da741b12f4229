-- What channels are told: also cancellations, each channel on its own, in order.

alter table outbox
  modify column kind varchar(12) not null check (kind in ('WRITE_BACK', 'CANCELLATION', 'MAIL')),
  modify column state varchar(7) not null
    check (state in ('PENDING', 'WAITING', 'DONE', 'DEAD', 'SKIPPED', 'SETTLED')),
  modify column consignment_id bigint null,
  add column channel_id bigint null comment 'null: it is not for a channel',
  add column body longtext null comment 'JSON, where what is told is not what stands in the database',
  add column claimed_until datetime(3) null,
  add key outbox_channel (channel_id, state, claimed_until),
  add key outbox_of_order (order_id, state, id),
  add constraint outbox_of_channel foreign key (channel_id) references channel (id);
update outbox join sales_order on sales_order.id = outbox.order_id
  set outbox.channel_id = sales_order.channel_id where outbox.kind = 'WRITE_BACK';
