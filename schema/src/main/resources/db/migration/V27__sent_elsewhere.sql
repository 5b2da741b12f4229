-- Where a person sent an order otherwise than the ladder had, and why.
alter table decision
  add column override_reason varchar(200) null after actor;
