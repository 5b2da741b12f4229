-- Why a line got nothing is said as it is.
alter table allocation_run_line
  modify column why varchar(15) not null check (why in ('FULL', 'PART', 'SHARE', 'NONE_LEFT', 'TOO_SHORT_LIVED', 'LOT_EXCLUDED', 'TOO_FEW', 'ORDER_NOT_WHOLE', 'KIT', 'CHANGED'));
