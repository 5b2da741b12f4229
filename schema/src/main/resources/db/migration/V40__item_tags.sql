-- Words by which people sort items, and rules ask for them.
create table item_tag (
  item_id bigint      not null,
  tag     varchar(40) not null,
  primary key (item_id, tag),
  key item_tag_tag (tag),
  constraint item_tag_of foreign key (item_id) references item (id)
);
