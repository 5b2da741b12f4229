alter table consignment
  modify column carrier_id bigint null comment 'null: the buyer collects it at the node';
