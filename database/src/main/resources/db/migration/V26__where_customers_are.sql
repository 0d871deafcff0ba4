-- Where a contact is, by the name of its time zone; blank: nobody said.
alter table contact add column zone text not null default '';
