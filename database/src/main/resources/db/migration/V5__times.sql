-- Tickets that come back at a time, and those that did.
alter table ticket add column bring_back_at timestamptz;
alter table ticket add column brought_back_at timestamptz;
create index ticket_bring_back on ticket (bring_back_at) where bring_back_at is not null;
