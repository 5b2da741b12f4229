-- Files are checked and taken in the background, a batch of orders at a time.

alter table intake_file
  modify column state varchar(9) not null
    check (state in ('UPLOADED', 'CHECKING', 'CHECKED', 'TAKING', 'TAKEN', 'UNDONE', 'DISCARDED')),
  add column acting varchar(80) not null default '' comment 'on whose behalf it is worked on',
  add column worked_to int not null default 0 comment 'first row of the last order that was worked on',
  add key intake_file_state (state, id);

-- rows are worked on in the order of their orders; to look for others one file's rows are few enough;
-- which order was made of a row is told by its name
alter table intake_row
  add column first_row int not null default 0 comment 'the first row of the same order',
  drop foreign key intake_row_of_order,
  drop key intake_row_order,
  drop column order_id,
  drop key intake_row_state,
  drop key intake_row_order_ref,
  add key intake_row_first (file_id, first_row, row_no);

update intake_row r
  join (select file_id, order_ref, min(row_no) as first_row from intake_row group by file_id, order_ref) f
    on f.file_id = r.file_id and f.order_ref = r.order_ref
  set r.first_row = f.first_row;
