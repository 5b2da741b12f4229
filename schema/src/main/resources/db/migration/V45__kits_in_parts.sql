-- a kit whose components may come from several nodes, in parcels of their own
alter table kit
  modify column explode varchar(10) not null check (explode in ('AT_INTAKE', 'IN_PARTS', 'AT_ROUTING', 'AT_BENCH'));

alter table consignment_line
  modify column ordered bigint not null default 0
    comment 'units of the line that go with this row, as the channel counts them; of a kit''s components only the first bears them, or, if they come in parts, those that complete it';

alter table order_part
  add column loose_in_one bigint null comment 'units in one of what was ordered, as the channel counts it, if it may come from another node than the line''s other components';
