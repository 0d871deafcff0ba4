-- The entry of another ticket that goes on with what was written here.
alter table message add column split_into bigint references message;
create index message_split_into on message (split_into) where split_into is not null;
