-- What becomes of mail that belongs to no ticket yet, version by version; the newest is in force.
create table arrival_edition (
    id bigint generated always as identity primary key,
    from_at timestamptz not null,
    document jsonb not null,
    what text not null default '',
    person_id bigint references person
);
insert into arrival_edition (from_at, document) values ('epoch', '{"arrival": 1, "junk": false, "threshold": 95, "rules": []}');

-- What was learned of junk, each time that it was learned; without a document while it is being learned.
create table junk_learning (
    id bigint generated always as identity primary key,
    at timestamptz not null,
    junk int not null default 0,
    requests int not null default 0,
    document jsonb
);

-- Which rule of arriving mail decided, or that its junk score did.
alter table inbound add decided_by text not null default '';
create index inbound_decided on inbound (decided_by, received_at) where decided_by <> '';

-- The one contact that stands for senders who are to become none.
alter table contact add stranger boolean not null default false;
create unique index contact_stranger on contact (stranger) where stranger;
