-- Whether buyers of a channel get mails from us does not hang on whether the channel is written to.
alter table channel
  add column mail_sent    boolean not null default true comment 'what has left, or is ready to be collected',
  add column mail_waiting boolean not null default true comment 'what waits: questions, new days, warnings';
