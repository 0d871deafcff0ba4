-- Rules: what is done by itself on arrival, on changes and on the clock. The book as it came into force, version by version.
create table rule_edition (
    id bigint generated always as identity primary key,
    from_at timestamptz not null,
    document jsonb not null,
    person_id bigint references person
);

-- The book as it is being changed; one row.
create table rule_draft (
    id smallint primary key check (id = 1),
    document jsonb not null,
    edition_id bigint not null references rule_edition,
    version int not null default 0,
    changed_at timestamptz,
    changed_by bigint references person,
    discarded jsonb
);

with first as (
    insert into rule_edition (from_at, document) values ('epoch', '{"rulebook": 1, "sections": []}') returning id, document
)
insert into rule_draft (id, document, edition_id) select 1, document, id from first;

-- What happened to tickets and was not read by the rules yet. A row goes with the transaction that reads it.
create table rule_cause (
    id bigint generated always as identity primary key,
    ticket bigint not null references ticket (number),
    first_seq int not null,
    last_seq int not null,
    came boolean not null,
    step boolean not null default false,
    tries smallint not null default 0,
    due_at timestamptz not null
);
create index rule_cause_ticket on rule_cause (ticket);
create index rule_cause_due on rule_cause (due_at, id);

-- When the next rule on the clock is to be read for a ticket.
create table rule_timer (
    ticket bigint primary key references ticket (number),
    due_at timestamptz not null
);
create index rule_timer_due on rule_timer (due_at);

-- Each time that the book was read for a ticket: for what, and how much of the ticket there was then.
create table rule_reading (
    id bigint generated always as identity primary key,
    ticket bigint not null references ticket (number),
    at timestamptz not null,
    edition_id bigint not null references rule_edition,
    trigger text not null,
    about text[] not null default '{}',
    rule_id text not null default '',
    of_seq int not null,
    read_seq int not null,
    depth smallint not null
);
create index rule_reading_ticket on rule_reading (ticket, id);

-- What a rule did. A rule on the clock fires once for its base and its turn, whatever happens to nodes.
create table rule_run (
    id bigint generated always as identity primary key,
    reading_id bigint not null references rule_reading,
    ticket bigint not null references ticket (number),
    rule_id text not null,
    at timestamptz not null,
    base_at timestamptz,
    nth smallint not null default 0,
    after_seq int not null,
    handed_to bigint references person,
    done text[] not null default '{}',
    failed text[] not null default '{}'
);
create index rule_run_ticket on rule_run (ticket, id);
create index rule_run_rule on rule_run (rule_id, at desc);
create index rule_run_reading on rule_run (reading_id);
create unique index rule_run_once on rule_run (ticket, rule_id, base_at, nth) where base_at is not null;

-- Times of a rule on the clock that were passed by without its criteria matching, so that none comes twice.
create table rule_passed (
    ticket bigint not null references ticket (number),
    rule_id text not null,
    base_at timestamptz not null,
    nth smallint not null,
    primary key (ticket, rule_id, base_at, nth)
);

-- Mails that rules wrote, for capping them.
create table rule_mail (
    id bigint generated always as identity primary key,
    ticket bigint not null references ticket (number),
    address text not null,
    at timestamptz not null
);
create index rule_mail_at on rule_mail (at);
create index rule_mail_address on rule_mail (address, at);
create index rule_mail_ticket on rule_mail (ticket, at);

-- A changed book read against recorded history.
create table rule_rehearsal (
    id bigint generated always as identity primary key,
    person_id bigint not null references person,
    started_at timestamptz not null,
    from_at timestamptz not null,
    to_at timestamptz not null,
    rule_id text not null default '',
    draft_version int not null,
    document jsonb not null,
    result jsonb
);
create index rule_rehearsal_rule on rule_rehearsal (rule_id, id desc);

-- Calls of other programs that rules make: kept with what the rule did, made afterwards, tried again until they are accepted.
create table rule_call (
    id uuid primary key,
    ticket bigint not null references ticket (number),
    rule_id text not null,
    address text not null,
    body text not null,
    due_at timestamptz,
    tries smallint not null default 0,
    answer text not null default ''
);
create index rule_call_due on rule_call (due_at) where due_at is not null;
