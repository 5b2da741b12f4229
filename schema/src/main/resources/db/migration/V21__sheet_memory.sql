-- Which header of a file held which of our columns the last time.

create table sheet_memory (
  kind    varchar(20) primary key comment 'items, levels, counts, inbound or kits',
  headers text        not null comment 'JSON: header by column'
);
