-- Work that goes on beside everything else, of whatever kind: how far it is, who stopped it, why it ended.
create table background_work (
    id bigint generated always as identity primary key,
    kind text not null,
    -- What it is about: the batch, the rehearsal, the edition.
    about bigint not null,
    person_id bigint references person,
    total bigint not null,
    done bigint not null default 0,
    failed bigint not null default 0,
    -- Where it goes on, for work that walks along numbers.
    position bigint not null default 0,
    failure text not null default '',
    started_at timestamptz not null,
    cancelled_at timestamptz,
    finished_at timestamptz,
    unique (kind, about)
);
create index background_work_unfinished on background_work (id) where finished_at is null;

insert into background_work (kind, about, person_id, total, done, failed, started_at, finished_at)
    select 'batch', id, person_id, total, done, failed, started_at, finished_at from batch order by id;
insert into background_work (kind, about, person_id, total, done, failure, started_at, finished_at)
    select 'rehearsal', id, person_id, total, done, failure, started_at, finished_at from rehearsal order by id;
insert into background_work (kind, about, person_id, total, done, position, started_at, finished_at)
    select 'recalculation', id, person_id, total, reckoned, last_ticket, from_at, finished_at from target_edition order by id;
-- The tasks of before are known no more; what is unfinished is begun again when the application starts.
delete from scheduled_tasks where task_name in ('batch', 'rehearse', 'reckon-anew');

alter table batch drop column total, drop column done, drop column failed, drop column finished_at;
alter table rehearsal drop column total, drop column done, drop column failure, drop column finished_at;
alter table target_edition drop column total, drop column reckoned, drop column last_ticket, drop column finished_at;
