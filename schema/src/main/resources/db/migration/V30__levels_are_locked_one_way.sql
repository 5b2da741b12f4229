-- Levels are changed by item and node. The optimiser went to them now through this index, now through
-- the primary key; two that locked the same level from both ends lost a deadlock. The foreign key
-- needs the index; nothing else does.
alter table stock_level alter index stock_level_node ignored;
