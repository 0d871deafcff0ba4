package rafter.app.work.today;

import static rafter.database.Tables.SIDE_TALK;
import static rafter.database.Tables.TICKET;
import static rafter.database.Tables.TICKET_HELP;
import static rafter.database.Tables.TICKET_MEETING;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Locale;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Say;
import rafter.app.promises.targets.Terms;
import rafter.core.id.TicketNumber;

/** What others and the calendar want of a person: help and answers that are asked of them, and meetings to come. */
@Component
class Appointments {

    private static final int LISTED = 8;
    private static final Duration AHEAD = Duration.ofDays(7);

    /** Something in a line. */
    public record Line(TicketNumber number, String words, String when, boolean late) {}

    private final DSLContext sql;
    private final Persons persons;

    Appointments(DSLContext sql, Persons persons) {
        this.sql = sql;
        this.persons = persons;
    }

    /** What a person, or a team of theirs, is asked to do, the most urgent first. */
    List<Line> helps(Viewer me, Instant now, Terms terms) {
        return sql.select(TICKET_HELP.TICKET, TICKET_HELP.REQUEST, TICKET_HELP.DUE)
                .from(TICKET_HELP)
                .join(me.tickets())
                .on(TICKET.NUMBER.eq(TICKET_HELP.TICKET))
                .where(DSL.condition(TICKET.OPEN))
                .and(TICKET_HELP.PERSON_ID.eq(me.id()).or(TICKET_HELP.TEAM_ID.in(persons.teamsOf(me.id()))))
                .orderBy(TICKET_HELP.DUE.asc().nullsLast(), TICKET_HELP.TICKET)
                .limit(LISTED)
                .fetch(r -> new Line(
                        r.value1(),
                        r.value2(),
                        r.value3() == null ? "" : "by " + Say.when(r.value3(), now, terms.zone()),
                        r.value3() != null && r.value3().isBefore(now)));
    }

    /** What a person, or a team of theirs, is asked beside tickets, the oldest question first. */
    List<Line> questions(Viewer me, Instant now, Terms terms) {
        return sql.select(SIDE_TALK.TICKET, SIDE_TALK.QUESTION, SIDE_TALK.ASKED_AT)
                .from(SIDE_TALK)
                .join(me.tickets())
                .on(TICKET.NUMBER.eq(SIDE_TALK.TICKET))
                .where(SIDE_TALK.PERSON_ID.eq(me.id()).or(SIDE_TALK.TEAM_ID.in(persons.teamsOf(me.id()))))
                .and(SIDE_TALK.ASKED_BY.isDistinctFrom(me.id()))
                .orderBy(SIDE_TALK.ASKED_AT, SIDE_TALK.TICKET)
                .limit(LISTED)
                .fetch(r -> new Line(r.value1(), r.value2(), Say.when(r.value3(), now, terms.zone()), false));
    }

    /** The meetings of the next days on a person's tickets, and those to which they are invited. */
    List<Line> meetings(Viewer me, Instant now, Terms terms) {
        return sql.select(TICKET_MEETING.TICKET, TICKET_MEETING.TITLE, TICKET_MEETING.AT, TICKET_MEETING.PLACE)
                .from(TICKET_MEETING)
                .join(me.tickets())
                .on(TICKET.NUMBER.eq(TICKET_MEETING.TICKET))
                .where(TICKET_MEETING.AT.between(now.minus(Duration.ofHours(1)), now.plus(AHEAD)))
                .and(TICKET.OWNER_ID.eq(me.id()).or(TICKET_MEETING.INVITED.contains(new String[] {
                    me.person().address().toLowerCase(Locale.ROOT)
                })))
                .orderBy(TICKET_MEETING.AT)
                .limit(LISTED)
                .fetch(r -> new Line(
                        r.value1(),
                        r.value2() + (r.value4().isEmpty() ? "" : ", " + r.value4()),
                        Say.when(r.value3(), now, terms.zone()),
                        false));
    }
}
