-- A parcel that its carrier is silent about, or sends back, waits for a person.
alter table parcel
  add column watched_from datetime(3) null comment 'a person knows of its silence until then';

alter table consignment
  add key consignment_arrival (state, arrival_on, id);
