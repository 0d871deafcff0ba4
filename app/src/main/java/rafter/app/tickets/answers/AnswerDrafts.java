package rafter.app.tickets.answers;

import static rafter.database.Tables.ANSWER_DRAFT;
import static rafter.database.Tables.PERSON;

import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Tickets;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.Work;

/** Keeps draft answers. Those that were made of tickets out of somebody's reach are not shown to them. */
@Component
public class AnswerDrafts {

    private static final int MOST = 500;
    private static final int LONGEST_TITLE = 200;
    private static final int LONGEST_BODY = 50_000;
    private static final String KEPT = " Nothing was saved yet; what you typed is still here.";

    /**
     * A draft.
     *
     * @param ticket the ticket of whose resolution it was made
     */
    record Draft(
            long id,
            Optional<TicketNumber> ticket,
            String title,
            String body,
            String person,
            Instant changed,
            int version) {}

    private final DSLContext sql;
    private final Tickets tickets;
    private final Clock clock;

    AnswerDrafts(DSLContext sql, Tickets tickets, Clock clock) {
        this.sql = sql;
        this.tickets = tickets;
        this.clock = clock;
    }

    /** All, the latest changed first. */
    List<Draft> all(Viewer me) {
        return read(DSL.noCondition(), me);
    }

    /** One of them. */
    Draft find(long id, Viewer me) {
        return read(ANSWER_DRAFT.ID.eq(id), me).stream()
                .findFirst()
                .orElseThrow(() -> new Problem.NotFound("There is no such draft."));
    }

    private List<Draft> read(Condition which, Viewer me) {
        return sql.select(ANSWER_DRAFT.fields())
                .select(PERSON.NAME)
                .from(ANSWER_DRAFT)
                .join(PERSON)
                .on(PERSON.ID.eq(ANSWER_DRAFT.PERSON_ID))
                .where(which)
                .and(ANSWER_DRAFT.TICKET.isNull().or(DSL.trueCondition().and(me.sees(ANSWER_DRAFT.TICKET))))
                .orderBy(ANSWER_DRAFT.CHANGED_AT.desc(), ANSWER_DRAFT.ID.desc())
                .limit(MOST)
                .fetch(r -> new Draft(
                        r.get(ANSWER_DRAFT.ID),
                        Optional.ofNullable(r.get(ANSWER_DRAFT.TICKET)),
                        r.get(ANSWER_DRAFT.TITLE),
                        r.get(ANSWER_DRAFT.BODY),
                        r.get(PERSON.NAME),
                        r.get(ANSWER_DRAFT.CHANGED_AT),
                        r.get(ANSWER_DRAFT.VERSION)));
    }

    /**
     * Makes a draft of how a ticket was resolved; a second time it is the one that was made.
     *
     * @throws Problem.Invalid when nobody wrote down how it was resolved
     */
    @Transactional
    public long of(TicketNumber number, Viewer me) {
        Access.require(me, Right.WORK);
        Ticket ticket = tickets.get(number, me);
        Work.Resolution resolution = ticket.work().resolution();
        if (resolution.none()) {
            throw new Problem.Invalid("Nobody wrote down how ticket " + number
                    + " was resolved. Write that first, then make an answer of it.");
        }
        String body = (resolution.was() + "\n\n" + resolution.done()).strip();
        return of(number, body.isEmpty() ? resolution.cause() : body, me);
    }

    /**
     * Makes a draft of what was found on a ticket; of each ticket there is one, and a second time it is the one that was made.
     *
     * @param body what the answer says
     * @throws Problem.Invalid when that is nothing
     */
    @Transactional
    public long of(TicketNumber number, String body, Viewer me) {
        Access.require(me, Right.WORK);
        Ticket ticket = tickets.get(number, me);
        if (body.isBlank()) {
            throw new Problem.Invalid("There is nothing yet of which an answer could be made.");
        }
        sql.insertInto(ANSWER_DRAFT)
                .set(ANSWER_DRAFT.TICKET, number)
                .set(ANSWER_DRAFT.TITLE, cut(ticket.subject()))
                .set(ANSWER_DRAFT.BODY, body.strip())
                .set(ANSWER_DRAFT.PERSON_ID, me.id())
                .set(ANSWER_DRAFT.CHANGED_AT, clock.instant())
                .onConflictDoNothing()
                .execute();
        return sql.select(ANSWER_DRAFT.ID)
                .from(ANSWER_DRAFT)
                .where(ANSWER_DRAFT.TICKET.eq(number))
                .fetchSingle(ANSWER_DRAFT.ID);
    }

    private static String cut(String subject) {
        String plain = subject.isBlank() ? "An answer" : subject.strip();
        return plain.length() > LONGEST_TITLE ? plain.substring(0, LONGEST_TITLE) : plain;
    }

    /**
     * Changes a draft.
     *
     * @throws Problem.Stale when somebody changed it since that version
     */
    @Transactional
    public void save(long id, String title, String body, int version, Viewer me) {
        find(id, me);
        if (title.isBlank() || title.length() > LONGEST_TITLE || body.length() > LONGEST_BODY) {
            throw new Problem.Invalid(
                    "An answer has a title of at most 200 letters, and at most 50,000 letters of text." + KEPT);
        }
        int changed = sql.update(ANSWER_DRAFT)
                .set(ANSWER_DRAFT.TITLE, title.strip())
                .set(ANSWER_DRAFT.BODY, body)
                .set(ANSWER_DRAFT.PERSON_ID, me.id())
                .set(ANSWER_DRAFT.CHANGED_AT, clock.instant())
                .set(ANSWER_DRAFT.VERSION, ANSWER_DRAFT.VERSION.plus(1))
                .where(ANSWER_DRAFT.ID.eq(id))
                .and(ANSWER_DRAFT.VERSION.eq(version))
                .execute();
        if (changed == 0) {
            throw new Problem.Stale("Somebody changed this draft while you were writing." + KEPT);
        }
    }

    /** Throws a draft away. */
    @Transactional
    public void discard(long id, Viewer me) {
        find(id, me);
        sql.deleteFrom(ANSWER_DRAFT).where(ANSWER_DRAFT.ID.eq(id)).execute();
    }
}
