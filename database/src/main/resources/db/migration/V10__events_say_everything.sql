-- The form in which the body of an event is written; those of before have the first one.
alter table ticket_event add column version smallint not null default 1;
alter table ticket_event alter column version drop default;

-- Which of our addresses a ticket came to stood in its row alone. Events are never changed, but for this once.
alter table ticket_event disable trigger ticket_event_append_only;
update ticket_event e
set body = e.body || jsonb_build_object('address', t.mailbox_id)
from ticket t
where t.number = e.ticket and e.kind = 'opened' and t.mailbox_id is not null;
alter table ticket_event enable trigger ticket_event_append_only;

-- Which version of Rafter, counted by the forms of its events, one must be to understand a ticket. An older node leaves it alone.
alter table ticket add column form smallint not null default 1;
alter table ticket alter column form drop default;

-- A message that this node cannot deal with is left to another one for a while.
alter table inbound add column not_before timestamptz;
