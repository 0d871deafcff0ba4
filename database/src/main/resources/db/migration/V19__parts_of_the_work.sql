-- The parts of the work on tickets: who watches, tasks, time, how they were resolved, what they are a part of, what customers said.
-- Written with the ticket from its events; lists and figures read them here.
alter table ticket add column tasks_open int not null default 0;
alter table ticket add column minutes int not null default 0;
alter table ticket add column cause text not null default '';
alter table ticket add column parent bigint;
alter table ticket add column rating text check (rating in ('GOOD', 'FAIR', 'POOR'));

create table ticket_task (
    ticket bigint not null references ticket (number),
    task int not null,
    place int not null,
    what text not null,
    person_id bigint references person,
    due timestamptz,
    done_at timestamptz,
    primary key (ticket, task)
);
create index ticket_task_of_person on ticket_task (person_id, due) where done_at is null;

create table ticket_watcher (
    ticket bigint not null references ticket (number),
    person_id bigint not null references person,
    primary key (ticket, person_id)
);
create index ticket_watcher_person on ticket_watcher (person_id);

create table ticket_time (
    ticket bigint not null references ticket (number),
    stint int not null,
    person_id bigint not null references person,
    at timestamptz not null,
    minutes int not null,
    kind text not null,
    billable boolean not null,
    note text not null,
    primary key (ticket, stint)
);
create index ticket_time_at on ticket_time (at);

create table resolution (
    ticket bigint primary key references ticket (number),
    was text not null,
    done text not null,
    cause text not null,
    words text not null,
    at timestamptz not null,
    person_id bigint
);
create index resolution_cause on resolution (cause) where cause <> '';
create index ticket_parent on ticket (parent) where parent is not null;

-- The watch that a person has running: on which ticket, since when it runs (nothing: it is paused), and what it had gathered before.
create table stopwatch (
    person_id bigint primary key references person,
    ticket bigint not null references ticket (number),
    began_at timestamptz not null,
    since timestamptz,
    gathered_seconds int not null default 0
);
