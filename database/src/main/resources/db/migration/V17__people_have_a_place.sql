-- Contacts and companies are listed by name, a page at a time.
create index contact_by_name on contact (name_words, id);
create index company_by_name on company (lower(name), id);
