-- Copies that the other readers do not see.
alter table draft add column bcc text not null default '';
alter table message add column bcc_addresses text not null default '';
