-- What a channel says that the buyer owes, apart from what the order's parts add up to.
alter table sales_order
  add column told_total bigint null comment 'minor units; null: the channel tells none' after total,
  add column told_over bigint null comment 'told_total less what its parts added up to then; null: not known yet' after told_total,
  add column total_stands boolean not null default false comment 'a person said so though its parts add up to something else' after told_over;
