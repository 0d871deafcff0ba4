-- Conversations with third parties inside a ticket, which the customer never sees.
create table outside_thread (
    id bigint generated always as identity primary key,
    ticket bigint not null references ticket (number),
    addresses text[] not null,
    subject text not null,
    -- Whether the other side wrote last.
    answered boolean not null default false,
    written_at timestamptz not null,
    person_id bigint not null references person,
    -- They are reminded after so much working time, so many times more; the next time is a moment of its own.
    nudge_minutes int,
    nudges_left int not null default 0,
    next_nudge timestamptz
);
create index outside_thread_ticket on outside_thread (ticket);
create index outside_thread_nudge on outside_thread (next_nudge) where next_nudge is not null;
create table outside_entry (
    message_id bigint primary key references message (id) on delete cascade,
    thread_id bigint not null references outside_thread
);
create index outside_entry_thread on outside_entry (thread_id);
alter table message drop constraint message_kind_check;
alter table message add constraint message_kind_check
    check (kind in ('CUSTOMER', 'PUBLIC', 'NOTE', 'AUTOMATIC', 'BOUNCE', 'OUTSIDE_OUT', 'OUTSIDE_IN'));
