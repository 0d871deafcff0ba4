-- Contacts that come from a file.
create table contact_import (
    id bigint generated always as identity primary key,
    person_id bigint not null references person,
    at timestamptz not null,
    name text not null,
    kind text not null check (kind in ('CSV', 'VCARD')),
    content bytea not null,
    charset text not null,
    -- Which column goes where, by the place of the column.
    mapping text[] not null default '{}',
    updates boolean not null default true,
    added int not null default 0,
    changed int not null default 0,
    same int not null default 0,
    begun boolean not null default false
);
create table contact_import_problem (
    import_id bigint not null references contact_import on delete cascade,
    row_number int not null,
    reason text not null,
    primary key (import_id, row_number)
);
