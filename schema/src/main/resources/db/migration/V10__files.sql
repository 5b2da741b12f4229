-- Orders that come in files: every row is seen before anything is taken.

create table column_mapping (
  id         bigint auto_increment primary key,
  channel_id bigint       not null,
  headers    varchar(700) not null comment 'the header row of the files it is for, cells parted by tabs',
  body       longtext     not null comment 'JSON: which column is which field, and how numbers and days are written',
  saved_by   varchar(80)  not null,
  saved_at   datetime(3)  not null,
  unique key column_mapping_once (channel_id, headers),
  constraint column_mapping_channel foreign key (channel_id) references channel (id)
);

create table intake_file (
  id          bigint auto_increment primary key,
  channel_id  bigint       not null,
  name        varchar(200) not null,
  headers     longtext     not null comment 'JSON',
  mapping     longtext     null comment 'JSON; null: nobody has said yet',
  state       varchar(9)   not null check (state in ('UPLOADED', 'CHECKED', 'TAKEN', 'UNDONE', 'DISCARDED')),
  row_count   int          not null default 0,
  uploaded_by varchar(80)  not null,
  uploaded_at datetime(3)  not null,
  key intake_file_channel (channel_id, id),
  constraint intake_file_of_channel foreign key (channel_id) references channel (id)
);

create table intake_row (
  file_id   bigint       not null,
  row_no    int          not null comment 'as a person counts them: the header is row 1',
  cells     text         not null comment 'JSON',
  order_ref varchar(100) not null default '',
  state     varchar(9)   not null check (state in ('UNCHECKED', 'NEW', 'CHANGED', 'SAME', 'REFUSED', 'TAKEN')),
  column_no int          null comment 'the column at fault, from 0',
  problem   varchar(400) not null default '',
  order_id  bigint       null,
  primary key (file_id, row_no),
  key intake_row_order_ref (file_id, order_ref, row_no),
  key intake_row_state (file_id, state, row_no),
  key intake_row_order (order_id),
  constraint intake_row_file foreign key (file_id) references intake_file (id),
  constraint intake_row_of_order foreign key (order_id) references sales_order (id)
);
