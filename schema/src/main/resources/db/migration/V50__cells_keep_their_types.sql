-- A cell that a spreadsheet holds as a number or a day is one; only texts have to be interpreted,
-- each column by what the whole of it shows.
alter table intake_row
  add column types varchar(101) not null default '' comment 'a letter for each cell: text, number, date, boolean, error; missing ones are texts' after cells,
  add column units bigint null comment 'of the row''s order, if it is its first and could be read',
  add column value bigint null comment 'likewise, minor units of the channel''s currency';
alter table intake_file
  add column styles longtext null comment 'JSON: how each column may be written; null: not known' after headers;
update intake_file set mapping = json_remove(mapping, '$.decimalComma', '$.days') where mapping is not null;
update column_mapping set body = json_remove(body, '$.decimalComma', '$.days');
