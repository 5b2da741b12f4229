-- What becomes of orders for which there is not enough.
alter table channel
  add column may_wait      boolean    not null default true comment 'its orders wait for what is short',
  add column if_not        varchar(7) not null default 'SNAG' comment 'what becomes of what may not wait' check (if_not in ('CANCEL', 'REPLACE', 'SNAG')),
  add column in_part       boolean    null comment 'whether what is there is sent meanwhile; null: as the ladder says',
  add column may_replace   boolean    not null default false comment 'another item may be sent instead',
  add column cancel_after  int        null comment 'what has waited for so many days is cancelled; null: never' check (cancel_after between 1 and 365),
  add column warn_before   int        not null default 3 comment 'days' check (warn_before between 0 and 90),
  add column answer_within int        not null default 5 comment 'days that buyers have to answer' check (answer_within between 1 and 90),
  add column free_held     int        null comment 'hours on hold after which what an order holds is free; null: never' check (free_held between 1 and 8760),
  add column no_answer     varchar(6) not null default 'WAIT' check (no_answer in ('WAIT', 'CANCEL'));

alter table sales_order
  add column may_wait    boolean null comment 'null: as its channel and items say',
  add column in_part     boolean null comment 'null: as its channel says',
  add column may_replace boolean null comment 'null: as its channel says';

alter table item
  add column may_wait   boolean not null default true comment 'orders may wait for it',
  add column out_on     date    null comment 'it is sold before, and sent from this day on',
  add column ahead_most bigint  null comment 'units that are sold before that day; null: no limit' check (ahead_most >= 0);

alter table order_line
  add column ordered_item_id bigint null comment 'what was ordered, if another item is sent instead',
  add constraint order_line_ordered foreign key (ordered_item_id) references item (id);

create table substitute (
  item_id  bigint      not null,
  other_id bigint      not null comment 'may be sent instead',
  place    int         not null comment 'the smallest is tried first',
  price    varchar(9)  not null check (price in ('ANY', 'SAME', 'CHEAPER', 'NO_DEARER', 'UP_TO')),
  percent  int         not null default 0 comment 'UP_TO: so much dearer at list price' check (percent between 0 and 1000),
  primary key (item_id, other_id),
  constraint substitute_of foreign key (item_id) references item (id),
  constraint substitute_by foreign key (other_id) references item (id)
);

-- What buyers are asked when a promise breaks.
create table buyer_question (
  id         bigint auto_increment primary key,
  order_id   bigint      not null,
  asked_at   datetime(3) not null,
  asked_by   varchar(80) not null,
  was_on     date        null comment 'the day that was promised',
  offered_on date        null comment 'the day that is offered; null: nobody can say',
  due_at     datetime(3) not null comment 'then it is done as set for no answer',
  answer     varchar(7)  null check (answer in ('WAIT', 'REPLACE', 'CANCEL')),
  answered   varchar(8)  null comment 'BUYER, or SILENCE' check (answered in ('BUYER', 'SILENCE', 'MOOT')),
  answered_at datetime(3) null,
  open_key   bigint as (if(answered_at is null, order_id, null)) persistent,
  unique key buyer_question_open (open_key),
  key buyer_question_order (order_id, id),
  key buyer_question_due (answered_at, due_at),
  constraint buyer_question_of foreign key (order_id) references sales_order (id)
);

alter table backorder
  add column warned_at datetime(3) null comment 'when the buyer was told that it will be cancelled';

alter table outbox
  modify column kind varchar(12) not null
    check (kind in ('WRITE_BACK', 'CANCELLATION', 'REFUND', 'MAIL', 'BUYER', 'NOTICE'));
