-- Tickets that come back at a time, and those that did.
alter table ticket add column bring_back_at timestamptz;
alter table ticket add column brought_back_at timestamptz;
create index ticket_bring_back on ticket (bring_back_at) where bring_back_at is not null;
create index ticket_brought_back on ticket (brought_back_at) where brought_back_at is not null;

-- Fields that administrators add. What a ticket has in them stands with it, by the field's key; texts also as they are compared.
create table own_field (
    id bigint generated always as identity primary key,
    name text not null,
    kind text not null check (kind in ('TEXT', 'NUMBER', 'DATE', 'CHOICE')),
    choices text[] not null default '{}',
    shown boolean not null default true,
    position int not null default 0,
    version int not null default 0
);
create unique index own_field_name on own_field (lower(name));
alter table ticket add column own jsonb not null default '{}';
alter table ticket add column own_folded jsonb not null default '{}';

-- How many nobody owns, by their age.
create index ticket_unowned_age on ticket (opened_at) where open and owner_id is null;

-- Lanes read the first few tickets of each owner, state and topic in the order in which they fall due, and count them all.
create index ticket_open_owner on ticket (owner_id, next_due, number) include (turn, state) where open;
create index ticket_open_state on ticket (state, next_due, number) include (turn, owner_id) where open;
create index ticket_open_topic on ticket (topic, next_due, number) include (turn, owner_id) where open;
