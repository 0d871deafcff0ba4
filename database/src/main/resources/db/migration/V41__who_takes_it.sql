-- What people can, and tickets need.
create table skill (
    id bigint generated always as identity primary key,
    name text not null,
    description text not null default '',
    words text[] not null default '{}',
    topics text[] not null default '{}',
    version int not null default 0
);
create unique index skill_name on skill (lower(name));

create table person_skill (
    person_id bigint not null references person,
    skill_id bigint not null references skill on delete cascade,
    level text not null,
    primary key (person_id, skill_id)
);
create index person_skill_of on person_skill (skill_id);

-- Whether somebody is here and takes work, and how much at once. Who has no row is off.
create table working (
    person_id bigint primary key references person,
    presence text not null default 'OFF' check (presence in ('HERE', 'AWAY', 'OFF')),
    reason text not null default '',
    taking boolean not null default true,
    units int not null default 8,
    since timestamptz not null
);

-- Where tickets wait for somebody, in the order in which they are looked through.
create table queue (
    id bigint generated always as identity primary key,
    position int not null,
    name text not null,
    active boolean not null default true,
    criteria jsonb not null,
    ordering text not null default 'DUE' check (ordering in ('DUE', 'OLDEST', 'WEIGHTED')),
    points int[] not null default '{10,5,1}',
    teams bigint[] not null default '{}',
    skills bigint[] not null default '{}',
    way text not null default 'PULL',
    answer_seconds int not null default 60,
    own_first boolean not null default false,
    overflow jsonb not null default '[]',
    -- Who got its last ticket; the next in turn comes after them.
    last_given bigint,
    version int not null default 0
);

-- Which ticket waits in which queue, and what it needs; of each ticket one row at most.
create table queue_entry (
    ticket bigint primary key references ticket (number),
    queue_id bigint not null references queue on delete cascade,
    since timestamptz not null,
    needs bigint[] not null default '{}',
    whys text[] not null default '{}'
);
create index queue_entry_queue on queue_entry (queue_id, since);

-- Numbers the changes after which all open tickets are looked through.
create sequence queue_change;
