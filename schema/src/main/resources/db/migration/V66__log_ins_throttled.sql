-- Whoever guesses is slowed down, and nobody else: by name and address, whether the name exists or not.
create table login_failure (
  who      char(64)    not null comment 'SHA-256 of name and address, or of an address alone' primary key,
  failures int         not null comment 'in a row',
  until    datetime(3) not null comment 'before then no password is looked at',
  last_at  datetime(3) not null,
  key login_failure_last (last_at)
) character set ascii collate ascii_bin;

alter table app_user
  drop column failed_logins,
  drop column locked_until;
