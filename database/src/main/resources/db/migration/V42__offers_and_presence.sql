-- How the workspace hands out, whatever the queue: one row, a document.
create table handout_rules (
    id smallint primary key check (id = 1),
    document jsonb not null,
    version int not null default 0
);

-- Where somebody is: leased by the pages that they have open, and set away for touching nothing.
alter table working
    add column seen_until timestamptz,
    add column idle boolean not null default false,
    -- The calendar of their own hours; blank: that of their team.
    add column calendar text not null default '',
    -- The languages that they write, as tags.
    add column languages text[] not null default '{}';
-- Who was here keeps being so until their pages say so themselves.
update working set seen_until = now() + interval '12 hours';

create table team_hours (
    team_id bigint primary key references team on delete cascade,
    calendar text not null
);

create table absence (
    id bigint generated always as identity primary key,
    person_id bigint not null references person,
    from_at timestamptz not null,
    to_at timestamptz not null check (to_at > from_at),
    reason text not null default ''
);
create index absence_person on absence (person_id, to_at);

-- Who knows the customer can come first, and be waited for; null: they do not.
alter table queue add column own_wait_minutes int;
update queue set own_wait_minutes = 0 where own_first;
alter table queue drop column own_first;

-- Which round of asking a ticket is in, and until when it pauses after everybody was asked.
alter table queue_entry
    add column round int not null default 1,
    add column pause_until timestamptz;

-- Somebody is asked whether they take a ticket; of each ticket one at a time, and each person one at a time.
create table offer (
    id bigint generated always as identity primary key,
    ticket bigint not null references ticket (number),
    queue_id bigint not null references queue on delete cascade,
    person_id bigint not null references person,
    round int not null,
    why text not null,
    made_at timestamptz not null,
    until_at timestamptz not null,
    state text not null default 'OPEN' check (state in ('OPEN', 'TAKEN', 'PASSED', 'RAN_OUT', 'WITHDRAWN')),
    reason text not null default '',
    answered_at timestamptz
);
create unique index offer_of_ticket on offer (ticket) where state = 'OPEN';
create unique index offer_of_person on offer (person_id) where state = 'OPEN';
create index offer_until on offer (until_at) where state = 'OPEN';
create index offer_asked on offer (ticket, round);
create index offer_made on offer (person_id, made_at);

-- How queues flowed and who was where, so that the floor can be looked at as it stood.
create table queue_flow (
    id bigint generated always as identity primary key,
    at timestamptz not null,
    queue_id bigint not null,
    ticket bigint not null references ticket (number),
    came boolean not null
);
create index queue_flow_at on queue_flow (at);
create index queue_flow_ticket on queue_flow (ticket, id);
insert into queue_flow (at, queue_id, ticket, came) select since, queue_id, ticket, true from queue_entry;

create table presence_log (
    id bigint generated always as identity primary key,
    at timestamptz not null,
    person_id bigint not null references person,
    presence text not null,
    taking boolean not null
);
create index presence_log_at on presence_log (at);

-- An overflow that somebody opened or closed by hand; blank: its steps say.
alter table queue add column overflow_by_hand text not null default '' check (overflow_by_hand in ('', 'OPEN', 'CLOSED'));

-- Since when somebody has a ticket open.
alter table ticket_reader add column since_at timestamptz not null default now();

-- Hand-outs anew that somebody put into force, to be taken back as a whole.
create table rebalancing (
    id bigint generated always as identity primary key,
    at timestamptz not null,
    person_id bigint not null references person,
    moves jsonb not null,
    undone_at timestamptz
);

-- What was removed can be brought back.
alter table queue add column removed_at timestamptz;
alter table skill add column removed_at timestamptz;
drop index skill_name;
create unique index skill_name on skill (lower(name)) where removed_at is null;
