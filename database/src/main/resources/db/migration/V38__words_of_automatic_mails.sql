-- The mails that Rafter writes by itself, in one place; each in the languages that it has.
create table mail_template (
    id bigint generated always as identity primary key,
    purpose text not null,
    name text not null,
    active boolean not null default true,
    open text not null default 'ANY' check (open in ('ANY', 'OPEN', 'CLOSED')),
    criteria jsonb not null default '{"version": 1, "all": []}',
    position int not null default 0,
    -- Removed, and can be brought back.
    removed boolean not null default false,
    version int not null default 0
);
create table mail_words (
    template_id bigint not null references mail_template on delete cascade,
    -- Blank: for everybody whose language is not among the others.
    language text not null,
    subject text not null,
    body text not null,
    primary key (template_id, language)
);

with made as (
    insert into mail_template (purpose, name) values
        ('ACKNOWLEDGEMENT', 'Acknowledgement'),
        ('RATING', 'Question how we did'),
        ('REMINDER', 'Reminder of a partner'),
        ('INVITATION', 'Invitation to a meeting'),
        ('MEETING_CHANGED', 'Change of a meeting'),
        ('MEETING_OFF', 'Meeting called off')
    returning id, purpose
)
insert into mail_words (template_id, language, subject, body)
select made.id, '', words.subject, words.body
from made
join (
    select 'ACKNOWLEDGEMENT' as purpose,
        coalesce((select ack_subject from workspace), 'We have your request, number {ticket}') as subject,
        coalesce((select ack_body from workspace), E'Hello {first name},\n\nthank you for writing to {workspace}. Your request “{subject}” has reached us and has the number {ticket}.\n\nA person will read it and answer you. To add something, just answer this mail.\n\n{workspace}\n') as body
    union all
    select 'RATING', subject, body from rating_rule
    union all
    values
        ('REMINDER', 'Re: {subject}', E'Hello,\n\nthis is a reminder of our message “{subject}”. We still need your answer.\n\nThank you'),
        ('INVITATION', 'Invitation: {meeting}, {meeting time}', E'You are invited:\n\n{meeting}\n{meeting time}\n{meeting place}\n\nThe file that comes with this message puts it into your calendar.'),
        ('MEETING_CHANGED', 'Changed: {meeting}, {meeting time}', E'You are invited:\n\n{meeting}\n{meeting time}\n{meeting place}\n\nThe file that comes with this message puts it into your calendar.'),
        ('MEETING_OFF', 'Called off: {meeting}, {meeting time}', E'This meeting does not take place:\n\n{meeting}\n{meeting time}\n{meeting place}\n\nThe file that comes with this message takes it out of your calendar.')
) words on words.purpose = made.purpose;

alter table workspace drop column ack_subject, drop column ack_body;
alter table rating_rule drop column subject, drop column body;

-- Tickets that are acknowledged once the rules have been read for them, for which mail they get depends on what rules set.
create table acknowledgement_due (
    ticket bigint primary key references ticket (number),
    due_at timestamptz not null
);
create index acknowledgement_due_at on acknowledgement_due (due_at);
