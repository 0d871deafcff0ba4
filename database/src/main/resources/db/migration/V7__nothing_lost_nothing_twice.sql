-- What is folded away of a message is found by the search all the same; messages that an earlier reader made are read once more.
alter table message add column folded text not null default '';
alter table message add column folded_words text not null default '';
alter table message add column reader int not null default 0;
create index message_folded_word_list on message using gin (word_list(folded_words)) where folded_words <> '';
create index message_read_before on message (id) where inbound_id is not null and reader = 0;

-- Where a message lay in its mailbox: two that are alike and lay side by side are two.
create table inbound_origin (
    mailbox_id bigint not null references mailbox,
    validity bigint not null,
    uid bigint not null,
    content_key bytea not null,
    inbound_id bigint not null references inbound,
    primary key (mailbox_id, validity, uid)
);
create index inbound_origin_content on inbound_origin (content_key, mailbox_id, validity);
create index inbound_origin_inbound on inbound_origin (inbound_id);

-- Requests that are alike, for noticing machines that answer us.
create table likeness (
    key bytea not null,
    at timestamptz not null,
    ticket bigint not null references ticket
);
create index likeness_key on likeness (key, at);
create index likeness_at on likeness using brin (at);
alter table acknowledgement add column domain text not null default '';
update acknowledgement set domain = substring(address from '[^@]*$');
create index acknowledgement_domain on acknowledgement (domain, at);
create index outbox_queued_at on outbox using brin (queued_at);

-- To whom a draft goes.
alter table draft add column recipients text not null default '';
-- A picture within the text of a draft, by the name under which the text refers to it.
alter table draft_file add column content_id text not null default '';

-- When a running clock comes to be at risk. All open tickets are recalculated for it, and for due times that must not have moved.
alter table ticket_clock add column risk_at timestamptz;
create index ticket_clock_risk on ticket_clock (risk_at, ticket) include (due_at) where state = 'RUNNING';
update target_edition set finished_at = null, reckoned = 0, last_ticket = 0 where id = (select max(id) from target_edition);

-- What was discarded of the changes of hours and targets, for bringing it back.
alter table target_draft add column discarded jsonb;

-- Wrong tries to sign in, by account and network together, counted for all nodes. The keys are digests.
create table sign_in_try (
    key bytea primary key,
    wrong int not null,
    last_at timestamptz not null
);
create index sign_in_try_last on sign_in_try (last_at);
