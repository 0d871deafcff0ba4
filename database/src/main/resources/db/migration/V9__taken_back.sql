-- A note that its writer took back: what it said, kept apart from what is shown and searched.
alter table message add column taken_back text;

-- A deleted view can be brought back for a while, and then those who had it as a tab have it again in place of their copy.
alter table list_view add column deleted_at timestamptz;
alter table list_view add column copy_of bigint references list_view on delete set null;
create index list_view_copy_of on list_view (copy_of) where copy_of is not null;
create index list_view_deleted on list_view (deleted_at) where deleted_at is not null;

-- Files that a draft had and has no more; those that nothing else refers to are cleared away a day later.
create table dropped_file (
    sha256 bytea primary key references file on delete cascade,
    dropped_at timestamptz not null
);
create index attachment_sha256 on attachment using hash (sha256);
create index draft_file_sha256 on draft_file using hash (sha256);
create index inbound_raw on inbound using hash (raw);
create index outbox_raw on outbox using hash (raw);
