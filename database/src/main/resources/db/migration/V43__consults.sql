-- Who knows what colleagues do not, works elsewhere, and gets to see nothing but the rooms they are asked into.
create table expert (
    id bigint generated always as identity primary key,
    name text not null,
    address text not null,
    -- The calendar of their hours; blank: around the clock.
    calendar text not null default '',
    version int not null default 0,
    removed_at timestamptz
);
create unique index expert_address on expert (lower(address)) where removed_at is null;

create table expert_skill (
    expert_id bigint not null references expert on delete cascade,
    skill_id bigint not null references skill on delete cascade,
    level text not null,
    primary key (expert_id, skill_id)
);

-- How the workspace consults: one row, a document.
create table consult_rules (
    id smallint primary key check (id = 1),
    document jsonb not null,
    version int not null default 0
);

-- Somebody asked others in.
create table consult (
    id bigint generated always as identity primary key,
    ticket bigint not null references ticket (number),
    person_id bigint not null references person,
    question text not null,
    skills bigint[] not null,
    opened_at timestamptz not null,
    state text not null default 'OPEN' check (state in ('OPEN', 'CLOSED', 'CALLED_OFF')),
    found text not null default '',
    done text not null default '',
    closed_by bigint references person,
    closed_at timestamptz,
    -- The note that keeps the outcome on the ticket.
    note_id bigint references message
);
create index consult_ticket on consult (ticket);
create index consult_open on consult (id) where state = 'OPEN';

-- Who was asked in, and how they answered; one row for each person, whoever asks how often.
create table consult_guest (
    id bigint generated always as identity primary key,
    consult_id bigint not null references consult,
    person_id bigint references person,
    expert_id bigint references expert,
    why text not null,
    state text not null default 'ASKED'
        check (state in ('ASKED', 'TAKEN', 'DECLINED', 'LAPSED', 'WITHDRAWN', 'LEFT')),
    reason text not null default '',
    -- Asked for being who they are and not for what they know; nobody is asked in their place.
    optional boolean not null default false,
    helped boolean not null default false,
    asked_at timestamptz not null,
    until_at timestamptz,
    answered_at timestamptz,
    -- By which an answer by mail is known.
    mail text,
    check ((person_id is null) <> (expert_id is null)),
    unique (consult_id, person_id),
    unique (consult_id, expert_id)
);
create index consult_guest_person on consult_guest (person_id) where state in ('ASKED', 'TAKEN');
create index consult_guest_expert on consult_guest (expert_id) where state in ('ASKED', 'TAKEN');
create index consult_guest_until on consult_guest (until_at) where state = 'ASKED';
create unique index consult_guest_mail on consult_guest (mail);

-- What is said in a room. Nothing of it reaches the customer.
create table consult_line (
    id bigint generated always as identity primary key,
    consult_id bigint not null references consult,
    at timestamptz not null,
    kind text not null check (kind in ('WORDS', 'STEP', 'HAPPENED')),
    person_id bigint references person,
    guest_id bigint references consult_guest,
    author text not null,
    text text not null,
    -- Made with the form, so that a line that is sent twice is said once; of a mail: what arrived.
    once text not null,
    unique (consult_id, once)
);

-- A mail into a room can bring files.
create table consult_file (
    id bigint generated always as identity primary key,
    line_id bigint not null references consult_line,
    name text not null,
    media_type text not null,
    size bigint not null,
    sha256 bytea not null references file
);
create index consult_file_line on consult_file (line_id);

with made as (
    insert into mail_template (purpose, name) values ('CONSULT', 'Invitation into a room') returning id
)
insert into mail_words (template_id, language, subject, body)
select id, '', 'Can you help with “{subject}”?',
    E'{agent} asks for your help with a request:\n\n{question}\n\nThe room, with the facts and everybody who is there:\n{room}\n\nYou can also just answer this mail: yes takes it, no declines it, and whatever else you write is said in the room.\n\n{workspace}'
from made;
