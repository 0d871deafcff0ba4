-- What lists ask about tickets: words, times, and whether a ticket is in the bin.
create extension if not exists pg_trgm;
create extension if not exists fuzzystrmatch;

alter table ticket add column subject_words text not null default '';
alter table ticket add column turn_since timestamptz;
alter table ticket add column last_customer_at timestamptz;
alter table ticket add column discarded boolean not null default false;
alter table ticket add column joined_into bigint references ticket;
update ticket t set
    last_customer_at = (select max(e.at) from ticket_event e where e.ticket = t.number and e.kind = 'customer-wrote' and not e.body ? 'automatic'),
    turn_since = coalesce((select max(e.at) from ticket_event e where e.ticket = t.number and e.kind = 'state'), t.opened_at),
    discarded = exists (select from ticket_event e where e.ticket = t.number and e.kind = 'discarded');
alter table ticket alter column turn_since set not null;

-- The words of texts as the application folds them; null until it has done so.
alter table message add column words text;
alter table contact add column name_words text;
alter table contact_address add column folded text;
create index message_unread_words on message (id) where words is null;

-- Each word once, for finding messages that have it. The words come folded, with one blank before and after each.
create function word_list(words text) returns tsvector language sql immutable parallel safe as $$
    select array_to_tsvector(array_remove(string_to_array(coalesce(words, ''), ' '), ''))
$$;
create index message_word_list on message using gin (word_list(words));
create index ticket_subject_word_list on ticket using gin (word_list(subject_words));
create index contact_name_trigrams on contact using gin (name_words gin_trgm_ops);
create index contact_address_trigrams on contact_address using gin (address gin_trgm_ops);
create index company_name_trigrams on company using gin (lower(name) gin_trgm_ops);

create index ticket_joined_into on ticket (joined_into) where joined_into is not null;

-- Each order of a working list has its index.
create index ticket_open_waiting on ticket (turn_since, number) where open;
create index ticket_open_customer on ticket (last_customer_at, number) where open;
create index ticket_open_age on ticket (opened_at, number) where open;
create index ticket_open_priority on ticket (priority, number) where open;
create index ticket_open_team on ticket (team_id, next_due, number) where open;
create index ticket_discarded on ticket (changed_at desc, number desc) where discarded;

-- Saved criteria sentences with what they are shown in.
create table list_view (
    id bigint generated always as identity primary key,
    key text not null,
    title text not null,
    description text not null default '',
    criteria jsonb not null,
    scope text not null default 'OPEN' check (scope in ('OPEN', 'ENDED', 'BIN')),
    shape text not null default 'cards' check (shape in ('cards', 'lines', 'grid', 'lanes', 'clock')),
    columns text not null default '',
    ordering text not null default 'next-due',
    grouping text not null default '',
    limits text not null default '',
    -- Who may see it: the person alone, a team, a role, everyone; a shipped view has no person.
    seen_by text not null default 'ME' check (seen_by in ('ME', 'TEAM', 'ROLE', 'EVERYONE')),
    person_id bigint references person,
    team_id bigint references team,
    role text not null default '',
    position int not null default 100,
    version int not null default 0
);
create unique index list_view_key on list_view (key);
create index list_view_person on list_view (person_id);
insert into list_view (key, title, description, criteria, scope, ordering, seen_by, position) values
('my-turn', 'My turn', 'Tickets where it is our turn, owned by me', '{"all":[{"field":"turn","is":["OURS"]},{"field":"owner","is":["me"]}],"version":1}', 'OPEN', 'next-due', 'EVERYONE', 1),
('unowned', 'Unowned', 'Open tickets that nobody owns', '{"all":[{"field":"owner","is-empty":[]}],"version":1}', 'OPEN', 'next-due', 'EVERYONE', 2),
('team-turn', 'My teams', 'Tickets of my teams where it is our turn', '{"all":[{"field":"team","is":["mine"]},{"field":"turn","is":["OURS"]}],"version":1}', 'OPEN', 'next-due', 'EVERYONE', 3),
('soon', 'Due within 4 h', 'Tickets with a target that is late or falls due within four hours', '{"all":[{"field":"next-target","within":["4 h"]}],"version":1}', 'OPEN', 'next-due', 'EVERYONE', 4),
('waiting', 'Waiting for others', 'Tickets where it is the customer’s or a partner’s turn', '{"all":[{"field":"turn","is":["CUSTOMER","PARTNER"]}],"version":1}', 'OPEN', 'waiting', 'EVERYONE', 5),
('open', 'Everything open', 'All open tickets', '{"all":[],"version":1}', 'OPEN', 'next-due', 'EVERYONE', 6),
('closed', 'Closed', 'Tickets that are resolved or closed', '{"all":[],"version":1}', 'ENDED', '-changed', 'EVERYONE', 7);
insert into list_view (key, title, description, criteria, scope, ordering, seen_by, role, position) values
('bin', 'Bin', 'Tickets that were deleted or no request; an act on several takes them out again', '{"all":[],"version":1}', 'BIN', '-changed', 'ROLE', 'ADMINISTRATOR', 8);

create table view_pin (
    person_id bigint not null references person,
    view_id bigint not null references list_view on delete cascade,
    position int not null,
    primary key (person_id, view_id)
);
create index view_pin_view on view_pin (view_id);

-- Acts on many tickets, done in the background one by one.
create table batch (
    id bigint generated always as identity primary key,
    person_id bigint not null references person,
    act text not null,
    args jsonb not null,
    words text not null,
    undoes bigint references batch,
    total int not null,
    done int not null default 0,
    failed int not null default 0,
    started_at timestamptz not null,
    finished_at timestamptz
);
create index batch_person on batch (person_id, id desc);
create table batch_item (
    batch_id bigint not null references batch,
    ticket bigint not null references ticket,
    state text not null default 'WAITING' check (state in ('WAITING', 'DONE', 'SAME', 'FAILED')),
    reason text not null default '',
    before jsonb,
    primary key (batch_id, ticket)
);
create index batch_item_waiting on batch_item (batch_id, ticket) where state = 'WAITING';

-- Senders whose mail was no request: set aside on arrival.
create table unwanted_sender (
    address text primary key check (address = lower(address)),
    person_id bigint references person,
    at timestamptz not null
);

-- How each person is told of what; what stands nowhere is told in the bell alone.
alter table notice add column kind text not null default 'STEP';
create table notice_choice (
    person_id bigint not null references person,
    kind text not null,
    bell boolean not null,
    browser boolean not null,
    primary key (person_id, kind)
);
create table presence (
    person_id bigint primary key references person,
    seen_at timestamptz not null
);

-- What a day's figures read.
create index message_public_at on message (at, person_id) where kind = 'PUBLIC';
create index ticket_event_day on ticket_event (kind, at) where kind in ('opened', 'we-wrote', 'state');

-- Every word that a message or subject ever had, for guessing what a mistyped one means. Learned in the background.
create table known_word (word text primary key);
create index known_word_trigrams on known_word using gin (word gin_trgm_ops);
create table known_word_until (
    id smallint primary key check (id = 1),
    message_id bigint not null
);
insert into known_word_until values (1, 0);
