-- A batch keeps the rows that it was written from, however batches are cut by then: how many rows came before it, and how
-- many it holds. 0 in chunks of earlier versions.

alter table ledger_chunk add column start_row bigint not null default 0;
alter table ledger_chunk add column row_count int not null default 0;
