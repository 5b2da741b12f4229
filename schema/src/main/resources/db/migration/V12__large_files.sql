-- Files are checked and taken in the background, a batch of orders at a time.

alter table intake_file
  modify column state varchar(9) not null
    check (state in ('UPLOADED', 'CHECKING', 'CHECKED', 'TAKING', 'TAKEN', 'UNDONE', 'DISCARDED')),
  add column acting varchar(80) not null default '' comment 'on whose behalf it is worked on',
  add key intake_file_state (state, id);

alter table intake_row
  add column first_row int not null default 0 comment 'the first row of the same order',
  drop key intake_row_state,
  add key intake_row_state (file_id, state, first_row, row_no),
  add key intake_row_first (file_id, first_row, row_no);

update intake_row r
  join (select file_id, order_ref, min(row_no) as first_row from intake_row group by file_id, order_ref) f
    on f.file_id = r.file_id and f.order_ref = r.order_ref
  set r.first_row = f.first_row;
