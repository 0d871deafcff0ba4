-- Customers are asked how they were helped: once for a ticket, some time after it was resolved, and not too often.
create table rating_rule (
    id smallint primary key default 1 check (id = 1),
    version int not null default 1,
    asks boolean not null default false,
    after_hours int not null default 24,
    rest_days int not null default 30,
    subject text not null default 'How did we do? [{ticket}]',
    body text not null default E'Hello {first name},\n\nyou wrote to us about “{subject}”. How were you helped?\n\n{rating}\n\nThank you\n{workspace}',
    -- Tickets that were resolved before were looked at.
    seen_until timestamptz not null default now()
);
insert into rating_rule default values;
create table rating_request (
    ticket bigint primary key references ticket (number),
    contact_id bigint not null references contact,
    resolved_at timestamptz not null,
    -- Nothing: they were not asked, and why.
    asked_at timestamptz,
    why text not null default '',
    -- What its link holds, hashed; whoever reads the database cannot rate.
    token bytea unique,
    rated_at timestamptz
);
create index rating_request_contact on rating_request (contact_id, asked_at) where asked_at is not null;
create index rating_request_rated on rating_request (rated_at) where rated_at is not null;
create index ticket_resolved_at on ticket (resolved_at) where resolved_at is not null;
