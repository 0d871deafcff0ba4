-- What a scanner found in files, by what is in them; blank: nothing.
create table file_scan (
    sha256 bytea primary key check (length(sha256) = 32),
    at timestamptz not null,
    found text not null
);
-- Who has a ticket open, as their pages say now and then.
create unlogged table ticket_reader (
    ticket bigint not null,
    person_id bigint not null,
    seen_at timestamptz not null,
    primary key (ticket, person_id)
);
create index ticket_reader_seen on ticket_reader (seen_at);
-- Answers for customers to find, drafted from how a ticket was resolved; kept for the help site.
create table answer_draft (
    id bigint generated always as identity primary key,
    ticket bigint references ticket (number),
    title text not null,
    body text not null,
    person_id bigint not null references person,
    changed_at timestamptz not null,
    version int not null default 0
);
create unique index answer_draft_ticket on answer_draft (ticket) where ticket is not null;
