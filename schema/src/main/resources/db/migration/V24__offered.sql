-- Whether a listing offers anything at all for now; its rule is kept.

alter table listing
  add column offered boolean not null default true comment 'false: nothing, whatever is there';
