-- What the workspace chose of the notices that Rafter gives by itself; what is not here is given in its own words.
create table notice_rule (
    kind text primary key,
    active boolean not null,
    -- Blank: in Rafter’s own words.
    words text not null default ''
);

-- Who of us looks after a company.
alter table company add owner_id bigint references person;

-- A rule can begin an outside conversation, too.
alter table outside_thread alter column person_id drop not null;
