-- A few words to a colleague from the floor; they stand on every page of theirs until they were read.
create table person_words (
    id bigint generated always as identity primary key,
    from_id bigint not null references person,
    to_id bigint not null references person,
    at timestamptz not null,
    text text not null,
    read_at timestamptz
);
create index person_words_unread on person_words (to_id) where read_at is null;
create index person_words_between on person_words (to_id, at);
