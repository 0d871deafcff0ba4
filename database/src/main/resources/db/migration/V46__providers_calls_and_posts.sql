-- An outside service by which customers reach us: a telephone exchange, a public network.
create table provider (
    id bigint generated always as identity primary key,
    kind text not null check (kind in ('TELEPHONE', 'SOCIAL')),
    name text not null,
    -- What its address with us is called; it is no secret.
    word text not null unique,
    -- Where it is told what to do; blank: nothing can be told to it.
    address text not null default '',
    -- Sealed. Both sides sign with it.
    secret bytea not null,
    version int not null default 0,
    -- What went wrong when it was told something last; blank: nothing.
    trouble text not null default '',
    trouble_at timestamptz,
    removed_at timestamptz
);

-- Our numbers and accounts there. They have one row of numbers with our addresses on all other channels.
create table provider_line (
    id bigint primary key default nextval(pg_get_serial_sequence('mailbox', 'id')),
    provider_id bigint not null references provider,
    -- A number, or the name of an account, as the provider writes it.
    address text not null,
    name text not null,
    team_id bigint references team,
    -- What becomes a ticket by itself, and whether calls are recorded.
    says text[] not null default '{}',
    -- How long somebody is not free after a call.
    after_seconds int not null default 0,
    version int not null default 0,
    removed_at timestamptz
);
create unique index provider_line_address on provider_line (provider_id, lower(address)) where removed_at is null;

-- What a provider told, kept as it came before anything is made of it; the same is kept once.
create table told (
    id bigint generated always as identity primary key,
    provider_id bigint not null references provider,
    outside_id text not null,
    -- The call or post that it is about, and another one that it answers.
    subject text not null,
    regards text not null default '',
    at timestamptz not null,
    body text not null,
    received_at timestamptz not null,
    -- Of what is IDLE came nothing; it is forgotten after a while.
    state text not null default 'NEW' check (state in ('NEW', 'DONE', 'IDLE', 'FAILED')),
    attempts int not null default 0,
    next_at timestamptz not null,
    reason text not null default '',
    unique (provider_id, outside_id)
);
create index told_subject on told (provider_id, subject);
create index told_regards on told (provider_id, regards) where state = 'IDLE' and regards <> '';
create index told_new on told (next_at, id) where state = 'NEW';
create index told_idle on told (received_at) where state = 'IDLE';
create index told_failed on told (id) where state = 'FAILED';

-- What a provider is to do, until it has taken it.
create table errand (
    id bigint generated always as identity primary key,
    provider_id bigint not null references provider,
    -- By which the provider does it once, however often it is asked.
    key text not null unique,
    verb text not null,
    path text not null,
    body text not null,
    ticket bigint references ticket (number),
    message_id bigint references message,
    state text not null default 'QUEUED' check (state in ('QUEUED', 'SENT', 'FAILED')),
    attempts int not null default 0,
    reason text not null default '',
    queued_at timestamptz not null,
    next_at timestamptz not null,
    sent_at timestamptz
);
create index errand_queued on errand (id) where state = 'QUEUED';
create index errand_message on errand (message_id) where message_id is not null;

-- The names of contacts on networks: who writes there is known by them, and never by what they call themselves.
create table contact_handle (
    provider_id bigint not null references provider,
    handle text not null,
    -- Nobody yet: they have no ticket.
    contact_id bigint references contact,
    name text not null default '',
    about text not null default '',
    followers int not null default 0,
    seen_at timestamptz not null,
    primary key (provider_id, handle)
);
create index contact_handle_contact on contact_handle (contact_id);
alter table contact_join add column handles text[] not null default '{}';

-- A call, from its first ring on.
create table call (
    id bigint generated always as identity primary key,
    provider_id bigint not null references provider,
    outside_id text not null,
    line_id bigint not null references provider_line,
    incoming boolean not null,
    number text not null,
    digits text not null,
    -- The ticket that it is about, as whoever has it chose it; none: it was too short to become one.
    ticket bigint references ticket (number),
    -- The ticket that it opened, if it did.
    opened bigint references ticket (number),
    -- The entry that shows our part of it.
    message_id bigint references message,
    -- Who has it, or had it last.
    person_id bigint references person,
    -- Whom the exchange was asked to ring at last.
    rung_id bigint references person,
    state text not null check (state in ('WAITING', 'TALKING', 'HELD', 'OVER')),
    -- With which colleague there is a word before it is handed over.
    word_id bigint references person,
    began_at timestamptz not null,
    taken_at timestamptz,
    -- Since when it stands as it does.
    since timestamptz not null,
    ended_at timestamptz,
    outcome text check (outcome in ('ANSWERED', 'MESSAGE', 'ABANDONED', 'MISSED')),
    waited_ms bigint not null default 0,
    talked_ms bigint not null default 0,
    held_ms bigint not null default 0,
    message_seconds int,
    -- When the spoken notice was played that it is recorded.
    noticed_at timestamptz,
    recorded boolean not null default false,
    -- Where the exchange has what was spoken on our machine, and what was recorded, until we have it, too; blank: nothing is to be fetched.
    voice_file text not null default '',
    record_file text not null default '',
    file_tries int not null default 0,
    file_at timestamptz,
    -- What is told about it, so that the same is taken once.
    files_known text[] not null default '{}',
    notes text not null default '',
    notes_version int not null default 0,
    -- As which call it is written down on its ticket, and with which version of the notes.
    logged int,
    logged_version int not null default 0,
    -- Until when whoever had it is not free.
    after_until timestamptz,
    unique (provider_id, outside_id)
);
create index call_going on call (began_at) where ended_at is null;
create index call_after on call (after_until) where after_until is not null;
create index call_file on call (file_at) where file_at is not null;
create index call_unwritten on call (ended_at) where logged is not null and logged_version < notes_version;
create index call_ticket on call (ticket);
create index call_digits on call (digits, began_at);
create index call_began on call (began_at desc, id desc);

-- Words that we look for among what is written publicly.
create table kept_search (
    id bigint generated always as identity primary key,
    name text not null,
    words text not null,
    -- Whether what it finds becomes a ticket by itself.
    opens boolean not null default false,
    found int not null default 0,
    version int not null default 0,
    removed_at timestamptz
);

-- A post on a network, as it stands after everything that was told of it.
create table post (
    id bigint generated always as identity primary key,
    provider_id bigint not null references provider,
    outside_id text not null,
    -- The account of ours that it concerns; none: it was found by a kept search, or stands in a thread.
    line_id bigint references provider_line,
    kind text not null check (kind in ('MENTION', 'REPLY', 'PRIVATE', 'FOUND', 'OURS', 'AROUND')),
    -- The post that it answers, and the first one of its thread.
    answers text,
    root text not null,
    handle text not null,
    text text not null,
    words text not null default '',
    versions int not null default 1,
    written_at timestamptz not null,
    edited_at timestamptz,
    deleted_at timestamptz,
    likes int not null default 0,
    -- The text before the last edit, and everything that is folded away with it.
    before text not null default '',
    mood double precision not null default 0,
    signs text[] not null default '{}',
    searches bigint[] not null default '{}',
    -- NEW waits for somebody who looks at it; ASIDE is what a rule of noise took away.
    state text not null check (state in ('NEW', 'TICKET', 'ARCHIVED', 'NOISE', 'ASIDE', 'NONE')),
    why text not null default '',
    hidden_at timestamptz,
    ticket bigint references ticket (number),
    message_id bigint references message,
    person_id bigint references person,
    looked_at timestamptz,
    unique (provider_id, outside_id)
);
create index post_state on post (state, written_at desc, id desc);
create index post_root on post (provider_id, root, written_at);
create index post_handle on post (provider_id, handle, written_at desc);
create index post_ticket on post (ticket) where ticket is not null;
create index post_written on post (written_at) where kind <> 'OURS';

-- What was marked as noise: a sender, or a wording.
create table noise (
    id bigint generated always as identity primary key,
    provider_id bigint references provider,
    handle text,
    wording text,
    person_id bigint not null references person,
    at timestamptz not null,
    aside int not null default 0,
    removed_at timestamptz
);

-- How the workspace deals with networks: one row, a document.
create table social_rules (
    id smallint primary key check (id = 1),
    document jsonb not null,
    version int not null default 0
);

-- Who calls is looked for by the end of their number.
create index contact_phone_end on contact_phone (right(digits, 7));
