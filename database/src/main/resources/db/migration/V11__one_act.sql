-- What a batch does, and what takes it back on each ticket, in the one form in which acts are kept.
create function pg_temp.instant_of(written text) returns text language sql as $$
    select case
        when coalesce(written, '') = '' then null
        when written like '%Z' then written
        else to_char(
            written::timestamp at time zone coalesce((select document ->> 'zone' from target_edition order by id desc limit 1), 'UTC') at time zone 'UTC',
            'YYYY-MM-DD"T"HH24:MI:SS"Z"')
    end
$$;
create function pg_temp.number_of(written text) returns bigint language sql as $$
    select case when written ~ '^\d{1,18}$' then written::bigint end
$$;

alter table batch add column does jsonb;
update batch set does = case act
    when 'PERSON' then jsonb_build_object('act', 'hand-to-person', 'person', pg_temp.number_of(args ->> 'person'))
    when 'TEAM' then jsonb_build_object('act', 'hand-over', 'team', coalesce(pg_temp.number_of(args ->> 'team'), 0))
    when 'STATE' then jsonb_build_object('act', 'move-to', 'state', coalesce(args ->> 'state', ''))
    when 'PRIORITY' then jsonb_build_object('act', 'set-priority', 'priority', args ->> 'priority')
    when 'TOPIC' then jsonb_build_object('act', 'set-topic', 'topic', coalesce(args ->> 'topic', ''))
    when 'TAG' then jsonb_build_object('act', 'tag', 'tag', args ->> 'tag')
    when 'UNTAG' then jsonb_build_object('act', 'untag', 'tag', args ->> 'tag')
    when 'FIELD' then jsonb_build_object('act', 'fill', 'field', args ->> 'field', 'value', coalesce(args ->> 'value', ''))
    when 'DUE' then jsonb_build_object('act', 'agree-time', 'due', pg_temp.instant_of(args ->> 'due'), 'why', coalesce(args ->> 'why', ''))
    when 'BACK' then jsonb_build_object('act', 'bring-back', 'when', pg_temp.instant_of(args ->> 'back'))
    when 'NOTE' then jsonb_build_object('act', 'note', 'text', args ->> 'text')
    when 'ANSWER' then jsonb_build_object('act', 'answer', 'text', args ->> 'text', 'then', coalesce(nullif(args ->> 'then', ''), 'CUSTOMER'))
    when 'JOIN' then jsonb_build_object('act', 'join', 'into', coalesce(pg_temp.number_of(args ->> 'into'), 0))
    when 'NO_REQUEST' then jsonb_build_object('act', 'no-request', 'sendersAside', coalesce(args ->> 'sender', '') <> '')
    when 'DELETE' then jsonb_build_object('act', 'delete')
    else jsonb_build_object('act', 'restore')
end;
alter table batch alter column does set not null;

alter table batch_item add column undo jsonb;
update batch_item i set undo = case b.act
    when 'PERSON' then jsonb_build_object(
        'act', jsonb_build_object('act', 'hand-to-person', 'person', pg_temp.number_of(i.before ->> 'owner')), 'seen', coalesce(b.args ->> 'person', ''))
    when 'TEAM' then case when i.before ? 'team' then jsonb_build_object(
        'act', jsonb_build_object(
            'act', 'hand-back', 'team', (b.does ->> 'team')::bigint, 'teamBefore', pg_temp.number_of(i.before ->> 'team'),
            'ownerBefore', pg_temp.number_of(i.before ->> 'owner')), 'seen', null) end
    when 'STATE' then jsonb_build_object('act', jsonb_build_object('act', 'move-to', 'state', i.before ->> 'state'), 'seen', b.args ->> 'state')
    when 'PRIORITY' then jsonb_build_object(
        'act', jsonb_build_object('act', 'set-priority', 'priority', i.before ->> 'priority'), 'seen', b.args ->> 'priority')
    when 'TOPIC' then jsonb_build_object(
        'act', jsonb_build_object('act', 'set-topic', 'topic', coalesce(i.before ->> 'topic', '')), 'seen', btrim(coalesce(b.args ->> 'topic', '')))
    when 'TAG' then jsonb_build_object('act', jsonb_build_object('act', 'untag', 'tag', b.args ->> 'tag'), 'seen', null)
    when 'UNTAG' then jsonb_build_object('act', jsonb_build_object('act', 'tag', 'tag', b.args ->> 'tag'), 'seen', null)
    when 'FIELD' then jsonb_build_object(
        'act', jsonb_build_object('act', 'fill', 'field', b.args ->> 'field', 'value', coalesce(i.before ->> 'value', '')),
        'seen', btrim(coalesce(b.args ->> 'value', '')))
    when 'DUE' then jsonb_build_object(
        'act', jsonb_build_object('act', 'agree-time', 'due', nullif(i.before ->> 'due', ''), 'why', ''), 'seen', coalesce(b.does ->> 'due', ''))
    when 'BACK' then jsonb_build_object(
        'act', jsonb_build_object('act', 'bring-back', 'when', nullif(i.before ->> 'back', '')), 'seen', coalesce(b.does ->> 'when', ''))
    when 'NOTE' then case when i.before ? 'note' then jsonb_build_object(
        'act', jsonb_build_object('act', 'take-note-back', 'message', (i.before ->> 'note')::bigint), 'seen', null) end
    when 'JOIN' then jsonb_build_object('act', jsonb_build_object('act', 'part', 'from', (b.does ->> 'into')::bigint), 'seen', null)
    when 'NO_REQUEST' then jsonb_build_object('act', jsonb_build_object('act', 'restore'), 'seen', null)
    when 'DELETE' then jsonb_build_object('act', jsonb_build_object('act', 'restore'), 'seen', null)
end
from batch b
where b.id = i.batch_id and i.state = 'DONE' and i.before is not null and b.undoes is null;

alter table batch drop column act;
alter table batch drop column args;
alter table batch_item drop column before;
