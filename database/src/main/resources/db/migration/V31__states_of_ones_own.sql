-- States that administrators add, and take out of use: tickets that are in one stay readable.
alter table ticket_state add column version int not null default 0;
-- Whoever moves a ticket into it writes down how it was resolved first.
alter table ticket_state add column asks_resolution boolean not null default false;
alter table ticket_state add column gone_at timestamptz;
