-- how often in a row the order's next step failed: after some times a person is told
alter table sales_order add column step_failures int not null default 0 after next_step_at;

-- how often in a row its carrier did not say where the parcel is
alter table parcel add column track_failures int not null default 0 after next_track_at;
