-- Saved pieces of reply text: one person's (person_id), a team's (team_id) or everybody's (neither).
create table phrase (
    id bigint generated always as identity primary key,
    name text not null,
    folder text not null default '',
    language text not null default '',
    person_id bigint references person,
    team_id bigint references team,
    html text not null,
    used int not null default 0,
    last_used timestamptz,
    changed_by bigint not null references person,
    changed_at timestamptz not null,
    removed_at timestamptz,
    version int not null default 1,
    check (person_id is null or team_id is null)
);
create index phrase_person on phrase (person_id) where person_id is not null;
create index phrase_team on phrase (team_id) where team_id is not null;

-- In which language somebody is written to; blank: nobody said.
alter table contact add column language text not null default '';

-- How a reply begins and ends, by language; the one without a language is for all others.
create table salutation (
    language text primary key,
    greeting text not null,
    closing text not null,
    version int not null default 1
);
insert into salutation (language, greeting, closing) values ('', E'Dear {customer},', E'Kind regards\n{agent}');
