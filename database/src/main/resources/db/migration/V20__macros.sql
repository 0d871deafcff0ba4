-- Several acts under one name: one person's (person_id), a team's (team_id) or everybody's (neither).
create table macro (
    id bigint generated always as identity primary key,
    name text not null,
    description text not null default '',
    folder text not null default '',
    person_id bigint references person,
    team_id bigint references team,
    steps jsonb not null default '[]',
    -- The macro that is run on the tickets that are a part of the one it is run on.
    linked bigint references macro,
    used int not null default 0,
    last_used timestamptz,
    changed_by bigint not null references person,
    changed_at timestamptz not null,
    removed_at timestamptz,
    version int not null default 1,
    check (person_id is null or team_id is null)
);
create index macro_person on macro (person_id) where person_id is not null;
create index macro_team on macro (team_id) where team_id is not null;
