-- A consignment on which nobody goes on until a person has decided what becomes of it.
alter table consignment
  add stopped varchar(200) null comment 'why nobody may scan, label or hand it over; null: nothing is in the way';

alter table sales_order
  add channel_cancelled varchar(8) null
    comment 'the channel last said that the order is cancelled: before it was here, or afterwards; null: it did not'
    check (channel_cancelled in ('FIRST', 'AFTER_US'));
