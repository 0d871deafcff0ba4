package rafter.app.tickets.acts;

import static rafter.database.Tables.RESOLUTION;
import static rafter.database.Tables.SIDE_TALK;
import static rafter.database.Tables.TICKET_CALL;
import static rafter.database.Tables.TICKET_HELP;
import static rafter.database.Tables.TICKET_MEETING;
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
import rafter.core.ticket.Call;
import rafter.core.ticket.Help;
import rafter.core.ticket.Meeting;
import rafter.core.ticket.Talk;
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
        if (!before.calls().equals(after.calls())) {
            calls(number, after);
        }
        if (!before.meetings().equals(after.meetings())) {
            meetings(number, after);
        }
        if (!before.helps().equals(after.helps())) {
            helps(number, after);
        }
        if (!before.talks().equals(after.talks())) {
            talks(number, after);
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

    private void calls(TicketNumber number, Work work) {
        sql.deleteFrom(TICKET_CALL).where(TICKET_CALL.TICKET.eq(number)).execute();
        for (Call call : work.shownCalls()) {
            sql.insertInto(TICKET_CALL)
                    .set(TICKET_CALL.TICKET, number)
                    .set(TICKET_CALL.CALL, call.id())
                    .set(TICKET_CALL.PERSON_ID, call.said().person())
                    .set(TICKET_CALL.INCOMING, call.said().incoming())
                    .set(TICKET_CALL.AT, call.said().at())
                    .set(TICKET_CALL.SECONDS, (int) call.said().length().toSeconds())
                    .set(TICKET_CALL.WITH_WHOM, call.said().with())
                    .set(TICKET_CALL.NOTES, call.said().notes())
                    .execute();
        }
    }

    private void meetings(TicketNumber number, Work work) {
        sql.deleteFrom(TICKET_MEETING).where(TICKET_MEETING.TICKET.eq(number)).execute();
        for (Meeting meeting : work.meetings()) {
            if (!meeting.off()) {
                sql.insertInto(TICKET_MEETING)
                        .set(TICKET_MEETING.TICKET, number)
                        .set(TICKET_MEETING.MEETING, meeting.id())
                        .set(TICKET_MEETING.TITLE, meeting.plan().title())
                        .set(TICKET_MEETING.AT, meeting.plan().at())
                        .set(TICKET_MEETING.MINUTES, (int)
                                meeting.plan().length().toMinutes())
                        .set(TICKET_MEETING.PLACE, meeting.plan().place())
                        .set(TICKET_MEETING.INVITED, meeting.plan().invited().toArray(String[]::new))
                        .execute();
            }
        }
    }

    private void helps(TicketNumber number, Work work) {
        sql.deleteFrom(TICKET_HELP).where(TICKET_HELP.TICKET.eq(number)).execute();
        for (Help help : work.helps()) {
            if (help.open()) {
                sql.insertInto(TICKET_HELP)
                        .set(TICKET_HELP.TICKET, number)
                        .set(TICKET_HELP.HELP, help.id())
                        .set(TICKET_HELP.PERSON_ID, help.wanted().person().orElse(null))
                        .set(TICKET_HELP.TEAM_ID, help.wanted().team().orElse(null))
                        .set(TICKET_HELP.REQUEST, help.wanted().request())
                        .set(TICKET_HELP.ASKED_BY, help.askedBy() instanceof Actor.Person person ? person.id() : null)
                        .set(TICKET_HELP.ASKED_AT, help.askedAt())
                        .set(TICKET_HELP.DUE, help.wanted().due().orElse(null))
                        .execute();
            }
        }
    }

    private void talks(TicketNumber number, Work work) {
        sql.deleteFrom(SIDE_TALK).where(SIDE_TALK.TICKET.eq(number)).execute();
        for (Talk talk : work.talks()) {
            if (talk.open()) {
                sql.insertInto(SIDE_TALK)
                        .set(SIDE_TALK.TICKET, number)
                        .set(SIDE_TALK.TALK, talk.id())
                        .set(SIDE_TALK.PERSON_ID, talk.person().orElse(null))
                        .set(SIDE_TALK.TEAM_ID, talk.team().orElse(null))
                        .set(SIDE_TALK.QUESTION, talk.question())
                        .set(SIDE_TALK.ASKED_BY, talk.by() instanceof Actor.Person person ? person.id() : null)
                        .set(SIDE_TALK.ASKED_AT, talk.at())
                        .execute();
            }
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
