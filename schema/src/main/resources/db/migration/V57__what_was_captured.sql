-- What an order costs may change after it was paid; what came in doesn't.
alter table sales_order
  add column captured bigint null
    comment 'minor units that had come in when the order was changed; null: it was not. Where its channel names tenders, these count instead'
    check (captured >= 0);
