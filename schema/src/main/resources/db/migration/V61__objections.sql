-- A channel is told that a change or a cancellation that it asked for is not followed.
alter table outbox
  modify column kind varchar(12) not null
    check (kind in ('WRITE_BACK', 'CANCELLATION', 'OBJECTION', 'REFUND', 'MAIL', 'BUYER', 'NOTICE'));
