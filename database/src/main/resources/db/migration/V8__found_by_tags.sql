-- Tickets are found by their tags, and by what stands in own fields that hold no text.
create index ticket_tags on ticket using gin (tags) where tags <> '{}';
create index ticket_own_values on ticket using gin (own jsonb_path_ops) where own <> '{}';
