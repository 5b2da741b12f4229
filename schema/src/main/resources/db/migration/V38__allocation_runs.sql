-- Many lines allocated at once: seen first, then done; what is given is set aside for its order.
create table allocation_plan (
  id         bigint auto_increment primary key,
  name       varchar(80)  not null,
  settings   longtext     not null comment 'JSON',
  every_minutes int       null comment 'run and committed so often; null: by hand' check (every_minutes between 5 and 10080),
  next_at    datetime(3)  null,
  made_by    varchar(80)  not null,
  unique key allocation_plan_name (name),
  key allocation_plan_due (next_at)
);

create table allocation_run (
  id           bigint auto_increment primary key,
  name         varchar(80)  not null,
  settings     longtext     not null comment 'JSON',
  state        varchar(10)  not null check (state in ('PREVIEW', 'COMMITTING', 'COMMITTED', 'UNDONE')),
  made_by      varchar(80)  not null,
  made_at      datetime(3)  not null,
  committed_by varchar(80)  null,
  committed_at datetime(3)  null,
  undone_by    varchar(80)  null,
  undone_at    datetime(3)  null,
  claimed_until datetime(3) null,
  orders_in    int          not null comment 'orders looked at',
  lines_in     int          not null,
  asked        bigint       not null comment 'units',
  given        bigint       not null comment 'units, as seen',
  short_orders int          not null comment 'orders that would not get all they ask for',
  done         int          not null default 0 comment 'lines carried out',
  changed      int          not null default 0 comment 'lines that got less than was seen',
  routed_to    int          not null default 0 comment 'lines whose orders have been routed',
  key allocation_run_work (state, claimed_until)
);

create table allocation_run_line (
  run_id        bigint      not null,
  no            int         not null comment 'the order of service',
  order_id      bigint      not null,
  order_line_id bigint      not null,
  item_id       bigint      not null,
  whole         boolean     not null,
  asked         bigint      not null,
  given         bigint      not null,
  why           varchar(15) not null check (why in ('FULL', 'PART', 'SHARE', 'NONE_LEFT', 'ORDER_NOT_WHOLE', 'KIT', 'CHANGED')),
  primary key (run_id, no),
  key allocation_run_line_order (order_id),
  constraint allocation_run_line_of foreign key (run_id) references allocation_run (id)
);

create table allocation_run_part (
  run_id     bigint not null,
  no         int    not null,
  item_id    bigint not null comment 'of a line for kits, a component',
  node_id    bigint not null,
  from_earmark bigint not null default 0 comment 'out of what was set aside; 0: out of what was free',
  place_id   bigint not null default 0 comment 'where they lie, if their lot is said; 0: by quantity only',
  units      bigint not null check (units > 0),
  primary key (run_id, no, item_id, node_id, from_earmark, place_id),
  constraint allocation_run_part_of foreign key (run_id) references allocation_run (id)
);

alter table earmark
  add column order_line_id bigint null comment 'kind ORDER: the line to which it was given',
  add column run_id bigint null comment 'the run that gave it to an order',
  add column taken_from bigint null comment 'the earmark that it was taken out of',
  add column place_id bigint null comment 'the lot or number that was named; its place holds as many',
  add key earmark_run (run_id),
  add key earmark_who (kind, who, closed_at),
  add key earmark_line (order_line_id, closed_at),
  add key earmark_place (place_id, closed_at),
  add constraint earmark_at foreign key (place_id) references stock_place (id);

alter table allocation
  add column named boolean not null default false comment 'a run said which number it is; not scanned yet';

alter table item
  add column lead_days int not null default 0 comment 'workdays that making it takes, once it is begun' check (lead_days between 0 and 366);
