-- What strangers may do so and so often, counted for all nodes together; written by the rate limiter's library.
create table rate_limit (
    id text primary key,
    state bytea,
    expires_at bigint
);
create index rate_limit_expires on rate_limit (expires_at);
drop table sign_in_try;
