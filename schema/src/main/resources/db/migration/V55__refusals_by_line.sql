-- A node that lacked one line is asked for the others; it is asked again when goods came, or a person says so.
alter table refusal
  add lifted_at datetime(3) null comment 'since when the node may be asked again; null: it may not',
  add lifted_by varchar(80) null;

create table refusal_line (
  consignment_id bigint not null,
  item_id        bigint not null,
  units          bigint not null comment 'that were not there, or damaged' check (units > 0),
  primary key (consignment_id, item_id),
  constraint refusal_line_of foreign key (consignment_id) references refusal (consignment_id),
  constraint refusal_line_item foreign key (item_id) references item (id)
);

insert into refusal_line (consignment_id, item_id, units)
  select r.consignment_id, l.item_id, sum(l.quantity)
  from refusal r
  join consignment_line l on l.consignment_id = r.consignment_id
  where r.reason in ('NOT_THERE', 'DAMAGED')
  group by r.consignment_id, l.item_id;
