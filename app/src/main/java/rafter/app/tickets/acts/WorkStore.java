package rafter.app.tickets.acts;

import static rafter.database.Tables.RESOLUTION;
import static rafter.database.Tables.TICKET_TASK;
import static rafter.database.Tables.TICKET_TIME;
import static rafter.database.Tables.TICKET_WATCHER;

import java.time.Instant;
import java.util.List;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import rafter.core.id.TicketNumber;
import rafter.core.text.Words;
import rafter.core.ticket.Actor;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.Work;

/** Writes what follows from the parts of the work, in the transaction of its events, for whoever lists or counts it. */
@Component
class WorkStore {

    private final DSLContext sql;

    WorkStore(DSLContext sql) {
        this.sql = sql;
    }

    /** Brings the rows of a ticket up to date; what did not change is left. */
    void write(TicketNumber number, Work before, Work after, List<TicketEvent> more) {
        if (!before.tasks().equals(after.tasks())) {
            tasks(number, after);
        }
        if (!before.watchers().equals(after.watchers())) {
            watchers(number, after);
        }
        if (!before.time().equals(after.time())) {
            time(number, after);
        }
        if (!before.resolution().equals(after.resolution())) {
            more.stream()
                    .filter(TicketEvent.Concluded.class::isInstance)
                    .reduce((first, last) -> last)
                    .ifPresent(event -> resolution(number, after.resolution(), event.at(), event.actor()));
        }
    }

    private void tasks(TicketNumber number, Work work) {
        sql.deleteFrom(TICKET_TASK).where(TICKET_TASK.TICKET.eq(number)).execute();
        int place = 0;
        for (Work.Task task : work.shownTasks()) {
            sql.insertInto(TICKET_TASK)
                    .set(TICKET_TASK.TICKET, number)
                    .set(TICKET_TASK.TASK, task.id())
                    .set(TICKET_TASK.PLACE, place++)
                    .set(TICKET_TASK.WHAT, task.what())
                    .set(TICKET_TASK.PERSON_ID, task.person().orElse(null))
                    .set(TICKET_TASK.DUE, task.due().orElse(null))
                    .set(TICKET_TASK.DONE_AT, task.doneAt().orElse(null))
                    .execute();
        }
    }

    private void watchers(TicketNumber number, Work work) {
        sql.deleteFrom(TICKET_WATCHER)
                .where(TICKET_WATCHER.TICKET.eq(number))
                .and(TICKET_WATCHER.PERSON_ID.notIn(work.watchers()))
                .execute();
        work.watchers()
                .forEach(person -> sql.insertInto(TICKET_WATCHER)
                        .set(TICKET_WATCHER.TICKET, number)
                        .set(TICKET_WATCHER.PERSON_ID, person)
                        .onConflictDoNothing()
                        .execute());
    }

    private void time(TicketNumber number, Work work) {
        sql.deleteFrom(TICKET_TIME).where(TICKET_TIME.TICKET.eq(number)).execute();
        for (Work.TimeEntry entry : work.shownTime()) {
            Work.Spent spent = entry.spent();
            sql.insertInto(TICKET_TIME)
                    .set(TICKET_TIME.TICKET, number)
                    .set(TICKET_TIME.STINT, entry.id())
                    .set(TICKET_TIME.PERSON_ID, spent.person())
                    .set(TICKET_TIME.AT, spent.at())
                    .set(TICKET_TIME.MINUTES, Work.minutes(spent))
                    .set(TICKET_TIME.KIND, spent.kind())
                    .set(TICKET_TIME.BILLABLE, spent.billable())
                    .set(TICKET_TIME.NOTE, spent.note())
                    .execute();
        }
    }

    private void resolution(TicketNumber number, Work.Resolution resolution, Instant at, Actor by) {
        sql.deleteFrom(RESOLUTION).where(RESOLUTION.TICKET.eq(number)).execute();
        if (resolution.none()) {
            return;
        }
        sql.insertInto(RESOLUTION)
                .set(RESOLUTION.TICKET, number)
                .set(RESOLUTION.WAS, resolution.was())
                .set(RESOLUTION.DONE, resolution.done())
                .set(RESOLUTION.CAUSE, resolution.cause())
                .set(
                        RESOLUTION.WORDS,
                        Words.of(List.of(resolution.was(), resolution.done(), resolution.cause()))
                                .stored())
                .set(RESOLUTION.AT, at)
                .set(RESOLUTION.PERSON_ID, by instanceof Actor.Person person ? person.id() : null)
                .execute();
    }
}
