alter table outbox
  modify column kind varchar(12) not null
    check (kind in ('WRITE_BACK', 'CANCELLATION', 'OBJECTION', 'REFUND', 'MAIL', 'BUYER', 'NOTICE', 'VOID_LABEL'));

alter table consignment
  add column to_unpack boolean not null default false comment 'taken back when something of it was in a parcel already',
  add key consignment_to_unpack (to_unpack, node_id);
