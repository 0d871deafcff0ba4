-- Calls, meetings and helpers, written with the ticket from its events.
create table ticket_call (
    ticket bigint not null references ticket (number),
    call int not null,
    person_id bigint not null references person,
    incoming boolean not null,
    at timestamptz not null,
    seconds int not null,
    with_whom text not null,
    notes text not null,
    primary key (ticket, call)
);
create index ticket_call_of_person on ticket_call (person_id, at);
create table ticket_meeting (
    ticket bigint not null references ticket (number),
    meeting int not null,
    title text not null,
    at timestamptz not null,
    minutes int not null,
    place text not null,
    invited text[] not null,
    primary key (ticket, meeting)
);
create index ticket_meeting_at on ticket_meeting (at);
create table ticket_help (
    ticket bigint not null references ticket (number),
    help int not null,
    person_id bigint references person,
    team_id bigint references team,
    request text not null,
    asked_by bigint references person,
    asked_at timestamptz not null,
    due timestamptz,
    primary key (ticket, help)
);
comment on table ticket_help is 'what is still wanted of others';
create index ticket_help_of_person on ticket_help (person_id);
create index ticket_help_of_team on ticket_help (team_id);
create index ticket_help_due on ticket_help (due) where due is not null;
-- Of which help its asker and its helper were told that it is late.
create table help_late_told (
    ticket bigint not null references ticket (number),
    help int not null,
    primary key (ticket, help)
);
alter table ticket add column helpers text[] not null default '{}';
alter table ticket add column helping_teams text[] not null default '{}';
create index ticket_helpers on ticket using gin (helpers) where helpers <> '{}';
create index ticket_helping_teams on ticket using gin (helping_teams) where helping_teams <> '{}';
update list_view set
    description = 'Tickets where it is our turn, owned by me, and those on which I am asked for help',
    criteria = '{"any":[{"all":[{"field":"turn","is":["OURS"]},{"field":"owner","is":["me"]}]},{"field":"helpers","has-any":["me"]},{"field":"helping-teams","has-any":["mine"]}],"version":1}'
    where key = 'my-turn' and person_id is null;
