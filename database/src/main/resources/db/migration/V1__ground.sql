-- The ground: who works here, who writes to us, what was received, what became of it, and what we send.

create table calendar (
    id bigint generated always as identity primary key,
    name text not null,
    zone text not null,
    around_the_clock boolean not null default false,
    version int not null default 0
);
create table calendar_opening (
    calendar_id bigint not null references calendar on delete cascade,
    weekday smallint not null check (weekday between 1 and 7),
    opens time not null,
    closes time not null,
    primary key (calendar_id, weekday, opens)
);
create table calendar_holiday (
    calendar_id bigint not null references calendar on delete cascade,
    day date not null,
    name text not null,
    primary key (calendar_id, day)
);

create table policy (
    id bigint generated always as identity primary key,
    name text not null,
    calendar_id bigint not null references calendar,
    version int not null default 0
);
create table policy_goal (
    policy_id bigint not null references policy on delete cascade,
    objective text not null check (objective in ('FIRST_REPLY', 'NEXT_REPLY', 'RESOLUTION')),
    priority text not null check (priority in ('P1', 'P2', 'P3', 'P4')),
    minutes int not null check (minutes > 0),
    primary key (policy_id, objective, priority)
);

create table workspace (
    id smallint primary key check (id = 1),
    name text not null,
    policy_id bigint not null references policy,
    reopen_days int not null check (reopen_days between 0 and 365),
    acknowledge boolean not null,
    ack_subject text not null,
    ack_body text not null,
    secret bytea not null,
    version int not null default 0
);

create table person (
    id bigint generated always as identity primary key,
    name text not null,
    address text not null,
    password_hash text not null,
    role text not null check (role in ('AGENT', 'LEAD', 'ADMINISTRATOR')),
    active boolean not null default true,
    version int not null default 0
);
create unique index person_address on person (lower(address));

create table team (
    id bigint generated always as identity primary key,
    name text not null
);
create unique index team_name on team (lower(name));
create table team_member (
    team_id bigint not null references team on delete cascade,
    person_id bigint not null references person on delete cascade,
    primary key (team_id, person_id)
);
create index team_member_person on team_member (person_id);

create table company (
    id bigint generated always as identity primary key,
    name text not null,
    plan text not null default '' check (plan in ('', 'Anchor', 'Harbour')),
    version int not null default 0
);
create table company_domain (
    domain text primary key check (domain = lower(domain)),
    company_id bigint not null references company on delete cascade
);
create index company_domain_company on company_domain (company_id);
-- Domains where anybody can have an address: they never tell a company.
create table public_mail_domain (domain text primary key check (domain = lower(domain)));

create table contact (
    id bigint generated always as identity primary key,
    name text not null,
    company_id bigint references company,
    created_at timestamptz not null
);
create index contact_company on contact (company_id);
create table contact_address (
    address text primary key check (address = lower(address)),
    contact_id bigint not null references contact on delete cascade
);
create index contact_address_contact on contact_address (contact_id);

-- Files are kept once, by what is in them.
create table file (
    sha256 bytea primary key check (length(sha256) = 32),
    size bigint not null,
    content bytea not null,
    created_at timestamptz not null
);
alter table file alter column content set storage external;

create table mailbox (
    id bigint generated always as identity primary key,
    name text not null,
    address text not null,
    team_id bigint references team,
    watched boolean not null default true,
    plus_addressing boolean not null default true,
    after_fetch text not null default 'MARK_READ' check (after_fetch in ('MARK_READ', 'DELETE')),
    imap_host text not null,
    imap_port int not null,
    imap_security text not null check (imap_security in ('NONE', 'STARTTLS', 'TLS')),
    imap_login text not null,
    imap_password bytea not null,
    imap_folder text not null default 'INBOX',
    smtp_host text not null,
    smtp_port int not null,
    smtp_security text not null check (smtp_security in ('NONE', 'STARTTLS', 'TLS')),
    smtp_login text not null,
    smtp_password bytea not null,
    uid_validity bigint,
    last_uid bigint not null default 0,
    status text not null default 'NEW' check (status in ('NEW', 'OK', 'FAILING')),
    status_reason text not null default '',
    status_at timestamptz,
    version int not null default 0
);
create unique index mailbox_address on mailbox (lower(address));

-- Every message as it came, under a key that makes a second delivery a no-op.
create table inbound (
    id bigint generated always as identity primary key,
    key bytea not null,
    mailbox_id bigint not null references mailbox,
    raw bytea not null references file,
    received_at timestamptz not null,
    state text not null default 'WAITING' check (state in ('WAITING', 'DONE', 'IGNORED', 'ASIDE')),
    reason text not null default '',
    detail text not null default '',
    attempts int not null default 0,
    ticket bigint,
    processed_at timestamptz,
    sender text not null default '',
    subject text not null default '',
    rfc_message_id text not null default '',
    refers_to text[] not null default '{}'
);
create unique index inbound_key on inbound (key);
create index inbound_waiting on inbound (id) where state = 'WAITING';
create index inbound_waiting_id on inbound (rfc_message_id) where state = 'WAITING';
create index inbound_aside on inbound (id desc) where state = 'ASIDE';

create sequence ticket_number start 4001;

create table ticket (
    number bigint primary key default nextval('ticket_number'),
    subject text not null,
    channel text not null,
    mailbox_id bigint references mailbox,
    contact_id bigint not null references contact,
    company_id bigint references company,
    state text not null,
    turn text not null check (turn in ('OURS', 'CUSTOMER', 'PARTNER', 'NOBODY')),
    open boolean not null,
    priority text not null check (priority in ('P1', 'P2', 'P3', 'P4')),
    owner_id bigint references person,
    team_id bigint references team,
    topic text not null default '',
    tags text[] not null default '{}',
    opened_at timestamptz not null,
    changed_at timestamptz not null,
    resolved_at timestamptz,
    messages int not null default 0,
    last_seq int not null default 0,
    last_public_seq int not null default 0,
    linked_to bigint references ticket,
    next_due timestamptz,
    next_objective text
);
-- One index for each shipped view, in the order in which it is read.
create index ticket_open on ticket (next_due, number) include (turn, owner_id) where open;
create index ticket_unowned on ticket (next_due, number) where open and owner_id is null;
create index ticket_my_turn on ticket (owner_id, next_due, number) where open and turn = 'OURS';
create index ticket_closed on ticket (changed_at desc, number desc) where not open;
create index ticket_changed on ticket (changed_at desc);
create index ticket_contact on ticket (contact_id, number desc);
create index ticket_company on ticket (company_id, number desc);
create index ticket_linked on ticket (linked_to) where linked_to is not null;
create index ticket_resolved on ticket (resolved_at) where state = 'resolved';

-- The truth: what happened, in order. Never updated, never deleted.
create table ticket_event (
    ticket bigint not null references ticket,
    seq int not null,
    at timestamptz not null,
    kind text not null,
    actor text not null,
    body jsonb not null,
    primary key (ticket, seq)
);
create function ticket_event_is_append_only() returns trigger language plpgsql as $$
begin
    raise exception 'ticket_event is append-only';
end $$;
create trigger ticket_event_append_only before update or delete on ticket_event
    for each row execute function ticket_event_is_append_only();

create table ticket_clock (
    ticket bigint not null references ticket,
    objective text not null,
    state text not null check (state in ('RUNNING', 'HELD', 'MET', 'LIFTED')),
    late boolean not null,
    started_at timestamptz not null,
    due_at timestamptz,
    used_seconds bigint not null,
    allowed_seconds bigint not null,
    primary key (ticket, objective)
);
create index ticket_clock_due on ticket_clock (due_at, ticket) include (objective) where state = 'RUNNING';

create table message (
    id bigint generated always as identity primary key,
    ticket bigint not null references ticket,
    seq int not null,
    kind text not null check (kind in ('CUSTOMER', 'PUBLIC', 'NOTE', 'AUTOMATIC', 'BOUNCE')),
    at timestamptz not null,
    author text not null,
    contact_id bigint references contact,
    person_id bigint references person,
    from_address text not null default '',
    reply_to text not null default '',
    to_addresses text not null default '',
    cc_addresses text not null default '',
    subject text not null default '',
    message_id text,
    html text not null,
    text text not null,
    inbound_id bigint references inbound,
    remark text not null default ''
);
create index message_ticket on message (ticket, seq);
create unique index message_message_id on message (message_id) where message_id is not null;
create unique index message_inbound on message (inbound_id) where inbound_id is not null;

create table attachment (
    id bigint generated always as identity primary key,
    message_id bigint not null references message on delete cascade,
    sha256 bytea not null references file,
    name text not null,
    media_type text not null,
    size bigint not null,
    content_id text not null default '',
    position int not null
);
create index attachment_message on attachment (message_id);

-- Who takes part in a ticket's mail, and so may answer into it.
create table participant (
    ticket bigint not null references ticket,
    address text not null check (address = lower(address)),
    primary key (ticket, address)
);

create table outbox (
    id bigint generated always as identity primary key,
    message_id bigint references message,
    ticket bigint not null references ticket,
    mailbox_id bigint not null references mailbox,
    raw bytea not null references file,
    rfc_message_id text not null,
    recipients text[] not null,
    state text not null default 'QUEUED' check (state in ('QUEUED', 'SENT', 'FAILED')),
    attempts int not null default 0,
    reason text not null default '',
    queued_at timestamptz not null,
    next_at timestamptz not null,
    sent_at timestamptz
);
create unique index outbox_rfc_message_id on outbox (rfc_message_id);
create index outbox_message on outbox (message_id);
create index outbox_queued on outbox (next_at) where state = 'QUEUED';
create index outbox_ticket on outbox (ticket);

-- One acknowledgement a ticket, held by the key; by address and time to stop loops.
create table acknowledgement (
    ticket bigint primary key references ticket,
    address text not null,
    at timestamptz not null
);
create index acknowledgement_address on acknowledgement (address, at);

create table draft (
    ticket bigint not null references ticket,
    person_id bigint not null references person,
    kind text not null check (kind in ('REPLY', 'NOTE')),
    html text not null,
    cc text not null default '',
    then_turn text not null default 'CUSTOMER',
    version int not null,
    updated_at timestamptz not null,
    primary key (ticket, person_id, kind)
);
create table draft_file (
    id bigint generated always as identity primary key,
    ticket bigint not null,
    person_id bigint not null,
    kind text not null,
    sha256 bytea not null references file,
    name text not null,
    media_type text not null,
    size bigint not null,
    foreign key (ticket, person_id, kind) references draft on delete cascade
);
create index draft_file_draft on draft_file (ticket, person_id, kind);

create table audit (
    id bigint generated always as identity primary key,
    at timestamptz not null,
    person_id bigint references person,
    act text not null,
    detail text not null
);

insert into public_mail_domain (domain) values
    ('post.example'), ('letterbox.example'), ('seamail.example');
