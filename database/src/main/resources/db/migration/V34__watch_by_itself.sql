-- How a person wants their watch to start and pause by itself; no minutes: it is not paused.
create table watch_choice (
    person_id bigint primary key references person,
    starts boolean not null,
    idle_minutes int not null check (idle_minutes between 0 and 120)
);
