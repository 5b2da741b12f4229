-- What is known of customers beyond their orders; who has no row has nothing said of them.
create table customer (
  email      varchar(190) primary key comment 'in lower case',
  group_name varchar(40)  not null default '' comment 'empty: in none',
  as_ordered boolean      not null default false comment 'nothing else is sent instead, whatever channel and order say',
  changed_by varchar(80)  not null,
  changed_at datetime(3)  not null,
  key customer_group (group_name)
);
