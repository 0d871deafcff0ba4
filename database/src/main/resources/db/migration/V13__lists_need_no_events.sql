-- What a row of a list draws stands with its ticket, written whenever its events are.
alter table ticket
    -- The clock that matters most, as far as a list draws it; nothing when none is live.
    add column outline jsonb,
    -- Whether any promise was missed.
    add column missed boolean not null default false,
    -- Nothing read it.
    drop column next_objective;
update ticket set missed = true where exists (select from ticket_clock c where c.ticket = ticket.number and c.late);
-- The outlines of open tickets are written in the background by what recalculates clocks.
update target_edition
    set finished_at = null, last_ticket = 0, reckoned = 0, whole = false, total = (select count(*) from ticket where open)
    where id = (select max(id) from target_edition) and finished_at is not null;
