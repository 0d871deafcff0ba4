-- A reply that goes out later is a draft with a time: when, what its writer had seen of the ticket, and whether it goes as it is.
alter table draft add column due timestamptz;
alter table draft add column seen int not null default 0;
alter table draft add column as_it_is boolean not null default false;
-- Why it did not go out when its time came; blank: it did not come yet, or there was no trouble.
alter table draft add column trouble text not null default '';
create index draft_due on draft (due) where due is not null;
