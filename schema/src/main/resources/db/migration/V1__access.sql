-- People who log in, and their sessions.

create table app_user (
  id            bigint auto_increment primary key,
  username      varchar(40)  not null,
  display_name  varchar(80)  not null,
  password_hash varchar(120) not null,
  role          varchar(10)  not null check (role in ('MANAGER', 'PACKER', 'READER')),
  node_id       bigint       null comment 'a packer works here and sees nothing of other nodes',
  failed_logins int          not null default 0,
  locked_until  datetime(3)  null,
  created_at    datetime(3)  not null,
  unique key app_user_username (username)
);

-- as Spring Session JDBC expects them
create table SPRING_SESSION (
  PRIMARY_ID            char(36) not null primary key,
  SESSION_ID            char(36) not null,
  CREATION_TIME         bigint   not null,
  LAST_ACCESS_TIME      bigint   not null,
  MAX_INACTIVE_INTERVAL int      not null,
  EXPIRY_TIME           bigint   not null,
  PRINCIPAL_NAME        varchar(100),
  unique key SPRING_SESSION_IX1 (SESSION_ID),
  key SPRING_SESSION_IX2 (EXPIRY_TIME),
  key SPRING_SESSION_IX3 (PRINCIPAL_NAME)
);

create table SPRING_SESSION_ATTRIBUTES (
  SESSION_PRIMARY_ID char(36)     not null,
  ATTRIBUTE_NAME     varchar(200) not null,
  ATTRIBUTE_BYTES    blob         not null,
  primary key (SESSION_PRIMARY_ID, ATTRIBUTE_NAME),
  constraint SPRING_SESSION_ATTRIBUTES_FK foreign key (SESSION_PRIMARY_ID)
    references SPRING_SESSION (PRIMARY_ID) on delete cascade
);

-- as db-scheduler expects it
create table scheduled_tasks (
  task_name            varchar(100) not null,
  task_instance        varchar(100) not null,
  task_data            blob,
  execution_time       timestamp(6) not null,
  picked               boolean      not null,
  picked_by            varchar(50),
  last_success         timestamp(6) null,
  last_failure         timestamp(6) null,
  consecutive_failures int,
  last_heartbeat       timestamp(6) null,
  version              bigint       not null,
  priority             smallint,
  primary key (task_name, task_instance),
  key scheduled_tasks_due (execution_time),
  key scheduled_tasks_heartbeat (last_heartbeat)
);
