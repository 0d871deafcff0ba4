-- Our addresses on all channels have one row of numbers, and a ticket names one of them, whichever channel it is on.
alter table ticket drop constraint if exists ticket_mailbox_id_fkey;

-- A website with the panel on it.
create table chat_site (
    id bigint primary key default nextval(pg_get_serial_sequence('mailbox', 'id')),
    name text not null,
    -- What the script tag names; it is no secret.
    word text not null unique,
    -- The origins that may hold the panel, as browsers write them.
    origins text[] not null,
    team_id bigint references team,
    -- The calendar of its hours; blank: the workspace's.
    calendar text not null default '',
    version int not null default 0,
    removed_at timestamptz
);

-- How the workspace chats: one row, a document.
create table chat_rules (
    id smallint primary key check (id = 1),
    document jsonb not null,
    version int not null default 0
);

-- A chat is the conversation of a ticket with whoever has its token.
create table chat (
    id bigint generated always as identity primary key,
    -- Made by the panel that began it, so that a second try begins nothing twice.
    begun text not null unique,
    site_id bigint not null references chat_site,
    ticket bigint not null unique references ticket (number),
    -- What they said they are called.
    name text not null default '',
    page text not null default '',
    title text not null default '',
    language text not null default '',
    searched text not null default '',
    -- How far the helper has come with its questions.
    asked text,
    asked_again boolean not null default false,
    gathered text[] not null default '{}',
    last_seq int not null default 0,
    began_at timestamptz not null,
    answered_at timestamptz,
    ended_at timestamptz,
    ended_by text check (ended_by in ('CUSTOMER', 'US', 'GONE')),
    -- When their panel was last known to be open.
    seen_at timestamptz not null,
    typing_at timestamptz,
    read_seq int not null default 0,
    our_read_seq int not null default 0,
    mailed_seq int not null default 0
);
create index chat_going on chat (seen_at) where ended_at is null;
create index chat_ended on chat (ended_at) where ended_at is not null;

-- A ready question that can be pressed; it is worded as its macro is called.
create table opener (
    id bigint generated always as identity primary key,
    macro_id bigint not null references macro,
    pages text not null default '',
    language text not null default '',
    position int not null,
    removed_at timestamptz
);

-- Somebody pressed one, and said whether its answer helped.
create table opener_press (
    id bigint generated always as identity primary key,
    opener_id bigint not null references opener,
    chat_id bigint not null references chat,
    at timestamptz not null,
    helped boolean
);
create index opener_press_opener on opener_press (opener_id);
create index opener_press_chat on opener_press (chat_id);

-- What was said in a chat, in order; what the customer says comes under a key, so that a second try says nothing twice.
create table chat_line (
    chat_id bigint not null references chat,
    seq int not null,
    once text not null,
    who text not null check (who in ('CUSTOMER', 'PERSON', 'HELPER', 'HAPPENED')),
    author text not null,
    text text not null,
    at timestamptz not null,
    message_id bigint references message,
    -- What can be pressed instead of typing it.
    choices text[] not null default '{}',
    -- The press whose answer this is: whether it helped is asked below it.
    press_id bigint references opener_press,
    primary key (chat_id, seq),
    unique (chat_id, once)
);
create index chat_line_message on chat_line (message_id) where message_id is not null;

-- An invitation that shows by itself.
create table invite (
    id bigint generated always as identity primary key,
    words text not null,
    pages text not null default '',
    after_seconds int not null,
    searched text not null default '',
    every_hours int not null,
    position int not null,
    shown int not null default 0,
    taken int not null default 0,
    removed_at timestamptz
);
