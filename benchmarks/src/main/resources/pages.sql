-- {tickets} tickets, one in {open} of them open, {messages} messages each, with events and clocks, made in the database itself.
-- Who has a ticket and which team, is told apart from whether it is open: each of forty people has as many open ones as the others.
-- Indexes of words are made at the end, for that is quicker; events of tickets closed long ago are left out, for no list shows those.
drop index message_word_list; drop index ticket_subject_word_list;
insert into mailbox (name, address, watched, imap_host, imap_port, imap_security, imap_login, imap_password, smtp_host, smtp_port, smtp_security, smtp_login, smtp_password)
values ('Help', 'help@ternpassage.example', false, 'x', 1, 'NONE', '', '', 'x', 1, 'NONE', '', '');
insert into team (name) values ('Passengers'), ('Freight desk'), ('Lost property'), ('Key accounts');
insert into person (name, address, password_hash, role) select 'Agent ' || n, 'agent' || n || '@ternpassage.example', 'x', 'AGENT' from generate_series(1, 39) n;
insert into company (name, plan) select 'Company ' || n, case n % 3 when 0 then 'Anchor' when 1 then 'Harbour' else '' end from generate_series(1, 500) n;
insert into contact (name, name_words, company_id, created_at) select 'Customer ' || n, ' customer ' || n || ' ', case when n % 2 = 0 then 1 + n % 500 end, now() from generate_series(1, 20000) n;
insert into contact_address (address, contact_id, folded) select 'customer' || id || '@post.example', id, 'customer' || id || '@post.example' from contact;
insert into ticket (number, subject, channel, mailbox_id, contact_id, state, turn, open, priority, owner_id, team_id, topic, tags, opened_at, changed_at, resolved_at, messages, last_seq, next_due, subject_words, turn_since, last_customer_at, form)
select n + 100000, 'Request about sailing ' || n, 'email', 1, 1 + n % 20000,
       case when n % {open} > 0 then 'closed' when n % ({open} * 3) = 0 then 'with-customer' else 'in-hand' end,
       case when n % {open} > 0 then 'NOBODY' when n % ({open} * 3) = 0 then 'CUSTOMER' else 'OURS' end, n % {open} = 0, 'P' || 1 + n % 4,
       case when n % ({open} * 5) = 0 then null else 1 + n / ({open} * 5) % 40 end, 1 + n / {open} % 4, 'timetable', '{booking}', now() - n * interval '10 minutes', now() - n * interval '9 minutes',
       case when n % {open} > 0 then now() - n * interval '9 minutes' end, 4, 6,
       case when n % {open} = 0 and n % ({open} * 3) > 0 then now() + (n % 4000 - 400) * interval '3 minutes' end,
       ' request about sailing ' || n || ' ', now() - n * interval '9 minutes', now() - n * interval '9 minutes', 1
from generate_series(1, {tickets}) n;
insert into ticket_event (ticket, seq, at, kind, version, actor, body)
select number, 1, opened_at, 'opened', 1, 'contact:' || contact_id, jsonb_build_object('origin', 'CUSTOMER', 'channel', 'email', 'address', 1, 'subject', subject, 'contact', contact_id, 'priority', priority) from ticket where open or number <= 220000
union all select number, 2, opened_at, 'customer-wrote', 1, 'contact:' || contact_id, jsonb_build_object('message', number * 10) from ticket where open or number <= 220000
union all select number, 3, opened_at + interval '1 hour', 'we-wrote', 1, 'person:1', jsonb_build_object('message', number * 10 + 1) from ticket where open or number <= 220000
union all select number, 4, opened_at + interval '1 hour', 'state', 1, 'person:1', '{"state": "with-customer", "name": "With customer", "turn": "CUSTOMER", "ending": false}' from ticket where open or number <= 220000
union all select number, 5, opened_at + interval '3 hours', 'customer-wrote', 1, 'contact:' || contact_id, jsonb_build_object('message', number * 10 + 2) from ticket where open or number <= 220000
union all select number, 6, opened_at + interval '3 hours', 'state', 1, 'system', case state when 'closed' then '{"state": "closed", "name": "Closed", "turn": "NOBODY", "ending": true}'
    when 'with-customer' then '{"state": "with-customer", "name": "With customer", "turn": "CUSTOMER", "ending": false}' else '{"state": "in-hand", "name": "In hand", "turn": "OURS", "ending": false}' end::jsonb from ticket where open or number <= 220000;
insert into message (id, ticket, seq, kind, at, author, contact_id, from_address, html, text, words) overriding system value
select t.number * 10 + m, t.number, 2 + m, case m when 1 then 'PUBLIC' else 'CUSTOMER' end, t.opened_at + m * interval '1 hour', 'Somebody', t.contact_id, 'customer' || t.contact_id || '@post.example',
       '<p>' || repeat('Is the sailing at 07:40 still on? ', 12) || '</p>', repeat('Is the sailing at 07:40 still on? ', 12),
       ' is the sailing at 07 40 still on word' || t.number % 5000 || ' name' || (t.number * 7 + m) % 90000 || ' ' from ticket t, generate_series(0, {messages} - 1) m;
insert into ticket_clock (ticket, objective, state, late, started_at, due_at, used_seconds, allowed_seconds)
select number, 'NEXT_REPLY', case when next_due is not null then 'RUNNING' when open then 'HELD' else 'MET' end, coalesce(next_due < now(), false), opened_at, next_due, 100, 1000 from ticket where next_due is not null or not open or turn = 'CUSTOMER'
on conflict do nothing;
insert into ticket_clock (ticket, objective, state, late, started_at, due_at, used_seconds, allowed_seconds)
select number, 'RESOLUTION', case when open then 'RUNNING' else 'MET' end, false, opened_at, now() + (number % 9000) * interval '5 minutes', 100, 1000 from ticket;
-- What rows draw, as it is written with their events: two parts that counted and one that was held between them.
update ticket set missed = coalesce(next_due < now(), false), outline = case when open then jsonb_build_object(
    'o', 'NEXT_REPLY', 'p', (select document -> 'policies' -> 0 ->> 'id' from target_edition order by id desc limit 1),
    'a', (extract(epoch from now()) * 1000)::bigint, 'r', next_due is not null,
    'd', case when next_due is null then '[]'::jsonb else jsonb_build_array((extract(epoch from next_due) * 1000)::bigint) end, 'k', '[]'::jsonb,
    'u', 3600000, 'w', 14400000, 'l', coalesce(next_due < now(), false), 's', case when next_due is null then '[1800000, 1800000, -7200000]' else '[1800000, -7200000, 1800000]' end::jsonb) end;
-- One with two hundred entries.
insert into message (id, ticket, seq, kind, at, author, contact_id, from_address, html, text, words) overriding system value
select 900000000 + m, t.number, 100 + m, case m % 2 when 1 then 'PUBLIC' else 'CUSTOMER' end, t.opened_at + m * interval '1 minute', 'Somebody', t.contact_id, 'customer' || t.contact_id || '@post.example',
       '<p>' || repeat('Is the sailing at 07:40 still on? ', 12) || '</p>', repeat('Is the sailing at 07:40 still on? ', 12), ' is the sailing ' from ticket t, generate_series(1, 195) m where t.number = 100000 + {open};
insert into ticket_event (ticket, seq, at, kind, version, actor, body)
select t.number, 6 + m, t.opened_at + interval '3 hours' + m * interval '1 minute', case m % 2 when 1 then 'we-wrote' else 'customer-wrote' end, 1, case m % 2 when 1 then 'person:1' else 'contact:' || contact_id end,
       jsonb_build_object('message', 900000000 + m) from ticket t, generate_series(1, 195) m where t.number = 100000 + {open};
create index message_word_list on message using gin (word_list(words));
create index ticket_subject_word_list on ticket using gin (word_list(subject_words));
insert into known_word select 'word' || translate(n::text, '0123456789', 'abcdefghij') from generate_series(1, 5000) n on conflict do nothing;
update known_word_until set message_id = (select max(id) from message);
analyze;
