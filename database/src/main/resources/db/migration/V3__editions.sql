-- Hours and promises become one document, of which each edition that was in force is kept.

create table target_edition (
    id bigint generated always as identity primary key,
    from_at timestamptz not null,
    document jsonb not null,
    person_id bigint references person,
    note text not null default '',
    -- The open tickets are reckoned anew in the background; whole: the closed ones too, for their clocks were not all kept before.
    whole boolean not null default false,
    reckoned bigint not null default 0,
    total bigint not null default 0,
    last_ticket bigint not null default 0,
    finished_at timestamptz
);
create index target_edition_from on target_edition (from_at);

create table target_draft (
    id smallint primary key check (id = 1),
    document jsonb not null,
    edition_id bigint not null references target_edition,
    version int not null default 0,
    changed_at timestamptz,
    changed_by bigint references person
);

insert into target_edition (from_at, document, whole)
select '1970-01-01T00:00:00Z', jsonb_build_object(
    'zone', c.zone,
    'defaultCalendar', 'calendar-' || c.id,
    'holidaySets', (select coalesce(jsonb_agg(jsonb_build_object('id', 'holidays-' || h.calendar_id, 'name', 'Holidays', 'zone', null, 'days', h.days)), '[]')
        from (select calendar_id, jsonb_agg(jsonb_build_object('date', day, 'name', name) order by day) as days from calendar_holiday group by calendar_id) h),
    'calendars', (select jsonb_agg(jsonb_build_object(
            'id', 'calendar-' || k.id, 'name', k.name, 'zone', case when k.zone = c.zone then null else k.zone end, 'aroundTheClock', k.around_the_clock,
            'holidaySets', case when exists (select 1 from calendar_holiday x where x.calendar_id = k.id) then jsonb_build_array('holidays-' || k.id) else '[]' end,
            'entries', (select coalesce(jsonb_agg(jsonb_build_object(
                'id', 'weekly-' || o.weekday || '-' || to_char(o.opens, 'HH24MI'), 'name', '', 'kind', 'OPENING', 'evenOnHolidays', false,
                'allDay', o.opens = time '00:00' and o.closes = time '00:00',
                -- The first of the weekdays after the beginning of 2015.
                'start', to_char(date '2015-01-01' + ((o.weekday + 7 - 4) % 7) + o.opens, 'YYYY-MM-DD"T"HH24:MI:SS'),
                'end', to_char(date '2015-01-01' + ((o.weekday + 7 - 4) % 7) + case when o.closes <= o.opens then 1 else 0 end + o.closes, 'YYYY-MM-DD"T"HH24:MI:SS'),
                'repeat', jsonb_build_object('rule', 'FREQ=WEEKLY;BYDAY=' || (array['MO', 'TU', 'WE', 'TH', 'FR', 'SA', 'SU'])[o.weekday], 'until', null),
                'without', '[]'::jsonb, 'also', '[]'::jsonb, 'zone', null) order by o.weekday, o.opens), '[]')
                from calendar_opening o where o.calendar_id = k.id)) order by k.id)
        from calendar k),
    'policies', jsonb_build_array(jsonb_build_object(
        'id', 'policy-' || p.id, 'name', p.name, 'description', '', 'on', true, 'criteria', '{"version": 1, "all": []}'::jsonb,
        'calendar', 'calendar-' || p.calendar_id, 'steps', '[]'::jsonb,
        'goals', (select jsonb_object_agg(g.objective, g.goal) from (
            select objective, jsonb_build_object('within', jsonb_object_agg(priority, 'PT' || minutes || 'M'), 'held', jsonb_build_array('CUSTOMER', 'PARTNER'),
                'share', 100, 'automaticMeets', false) as goal
            from policy_goal where policy_id = p.id group by objective) g)))), true
from workspace w join policy p on p.id = w.policy_id join calendar c on c.id = p.calendar_id;

insert into target_draft (id, document, edition_id) select 1, document, id from target_edition;

alter table workspace drop column policy_id;
drop table policy_goal, policy, calendar_holiday, calendar_opening, calendar;

-- Every run of every clock, so that figures need no walk through histories.
alter table ticket_clock drop constraint ticket_clock_pkey;
alter table ticket_clock add primary key (ticket, objective, started_at);
alter table ticket_clock drop constraint ticket_clock_state_check;
alter table ticket_clock add check (state in ('RUNNING', 'HELD', 'MET', 'LIFTED', 'JOINED', 'VOID'));
alter table ticket_clock
    add column policy text not null default '',
    add column ended_at timestamptz,
    add column owner_id bigint references person,
    add column reached_late boolean not null default false;
create index ticket_clock_ended on ticket_clock (ended_at) where ended_at is not null;
create index ticket_clock_live on ticket_clock (policy, objective) where state in ('RUNNING', 'HELD');

create table step_timer (
    ticket bigint not null references ticket,
    objective text not null,
    run_started timestamptz not null,
    step text not null,
    due_at timestamptz not null,
    primary key (ticket, objective, run_started, step)
);
create index step_timer_due on step_timer (due_at);
-- What fired or was passed over, once a clock and step.
create table step_fired (
    ticket bigint not null references ticket,
    objective text not null,
    run_started timestamptz not null,
    step text not null,
    due_at timestamptz not null,
    fired_at timestamptz not null,
    done text not null,
    primary key (ticket, objective, run_started, step)
);

create table notice (
    id bigint generated always as identity primary key,
    person_id bigint not null references person,
    ticket bigint not null references ticket,
    at timestamptz not null,
    words text not null,
    read_at timestamptz
);
create index notice_person on notice (person_id, id desc);
create index notice_unread on notice (person_id) where read_at is null;

create table rehearsal (
    id bigint generated always as identity primary key,
    person_id bigint not null references person,
    started_at timestamptz not null,
    from_at timestamptz not null,
    to_at timestamptz not null,
    document jsonb not null,
    done bigint not null default 0,
    total bigint not null default 0,
    result jsonb,
    failure text not null default '',
    finished_at timestamptz
);
