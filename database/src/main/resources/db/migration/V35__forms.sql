-- Further kinds of own fields, what is said about each, and what it begins with.
alter table own_field drop constraint own_field_kind_check;
alter table own_field add constraint own_field_kind_check check (kind in
    ('TEXT', 'LONG', 'NUMBER', 'DATE', 'CHOICE', 'SEVERAL', 'TREE', 'TICK', 'PERSON', 'COMPANY', 'LINK'));
alter table own_field add column help text not null default '';
alter table own_field add column preset text not null default '';

-- Which fields tickets of one kind ask for, in sections; the first form that a ticket matches is its form.
create table ticket_form (
    id bigint generated always as identity primary key,
    name text not null,
    position int not null default 0,
    criteria jsonb not null,
    sections jsonb not null default '[]',
    version int not null default 0
);
create unique index ticket_form_name on ticket_form (lower(name));

-- What forms do with a field of tickets that match: show it, want it filled, offer only some of its choices.
create table field_rule (
    id bigint generated always as identity primary key,
    field_id bigint not null references own_field,
    effect text not null check (effect in ('SHOW', 'REQUIRE', 'NARROW')),
    choices text[] not null default '{}',
    criteria jsonb not null,
    version int not null default 0
);
create index field_rule_field on field_rule (field_id);

-- Questions that were asked beside tickets and wait for an answer.
create table side_talk (
    ticket bigint not null references ticket (number),
    talk int not null,
    person_id bigint references person,
    team_id bigint references team,
    question text not null,
    asked_by bigint references person,
    asked_at timestamptz not null,
    primary key (ticket, talk)
);
create index side_talk_of_person on side_talk (person_id);
create index side_talk_of_team on side_talk (team_id);

-- Letters to somebody outside are drafts, too: with a subject, and the conversation that they belong to.
alter table draft drop constraint draft_kind_check;
alter table draft add constraint draft_kind_check check (kind in ('REPLY', 'NOTE', 'OUTSIDE'));
alter table draft add column subject text not null default '';
alter table draft add column thread bigint not null default 0;

-- Notes that the customer sees on the page of their request, without a mail.
alter table message drop constraint message_kind_check;
alter table message add constraint message_kind_check
    check (kind in ('CUSTOMER', 'PUBLIC', 'NOTE', 'PUBLIC_NOTE', 'AUTOMATIC', 'BOUNCE', 'OUTSIDE_OUT', 'OUTSIDE_IN'));
