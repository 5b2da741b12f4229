-- A receipt can be taken back: what it moved is moved back, and what was expected is expected again.
alter table receipt
  add column reversed_at   datetime(3)  null,
  add column reversed_by   varchar(80)  null,
  add column reversal_note varchar(200) not null default '' comment 'why';

alter table receipt_line
  add column expected_supply_id bigint null comment 'of which it came',
  add column settled bigint not null default 0
    comment 'units that it took off what was expected: those that came, and those that will not',
  add constraint receipt_line_of_supply foreign key (expected_supply_id) references expected_supply (id);
