package rafter.app.tickets.writing;

import static rafter.database.Tables.DRAFT;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.house.access.Access;
import rafter.app.house.access.Person;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.access.Viewers;
import rafter.app.house.notices.Notices;
import rafter.app.platform.LiveNews;
import rafter.app.platform.Problem;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Turn;
import rafter.database.tables.records.DraftRecord;

/**
 * Replies that go out at a time of their own: some seconds after they were sent, so that they can be taken back, or whenever their writer
 * chose. Until then each is its writer's draft; once, and once only, it is sent, whichever node finds it.
 */
@Component
public class Sending {

    private static final Logger LOG = LoggerFactory.getLogger(Sending.class);
    private static final Duration FURTHEST = Duration.ofDays(365);

    /**
     * A reply that waits.
     *
     * @param due when it goes out
     * @param chosen whether its writer chose the time; else it only waits to be taken back
     */
    public record Waiting(Instant due, boolean chosen) {}

    private final DSLContext sql;
    private final Drafts drafts;
    private final Answering answering;
    private final Persons persons;
    private final Viewers viewers;
    private final Notices notices;
    private final LiveNews news;
    private final TransactionTemplate transaction;
    private final Clock clock;
    private final Duration hold;

    Sending(
            DSLContext sql,
            Drafts drafts,
            Answering answering,
            Persons persons,
            Viewers viewers,
            Notices notices,
            LiveNews news,
            TransactionTemplate transaction,
            Clock clock,
            @Value("${rafter.sending.hold:10s}") Duration hold) {
        this.sql = sql;
        this.drafts = drafts;
        this.answering = answering;
        this.persons = persons;
        this.viewers = viewers;
        this.notices = notices;
        this.news = news;
        this.transaction = transaction;
        this.clock = clock;
        this.hold = hold;
    }

    /** How long a reply can be taken back. */
    public Duration hold() {
        return hold;
    }

    /**
     * Has a reply go out later. What would be in its way is said now.
     *
     * @param at when; nothing: after the time in which it can be taken back
     * @return what is in its way; nothing: it waits
     */
    @Transactional
    public Optional<Answering.Outcome> later(
            TicketNumber number, Answering.Answer answer, Optional<Instant> at, Viewer me) {
        Access.require(me, Right.WORK);
        Instant now = clock.instant();
        at.ifPresent(time -> insistToCome(time, now));
        Optional<Answering.Outcome> inTheWay = answering.inTheWay(number, answer, me);
        if (inTheWay.isPresent()) {
            return inTheWay;
        }
        Drafts.Draft there = drafts.find(number, Drafts.Kind.REPLY, me);
        drafts.save(
                number,
                Drafts.Kind.REPLY,
                new Drafts.Writing(
                        answering.settled(number, answer, me),
                        answer.to(),
                        answering.copies(number, answer, me),
                        answer.bcc(),
                        answer.then()),
                there.version(),
                me);
        sql.update(DRAFT)
                .set(DRAFT.DUE, at.orElseGet(() -> now.plus(hold)))
                .set(DRAFT.SEEN, answer.seen())
                .set(DRAFT.AS_IT_IS, answer.asItIs())
                .set(DRAFT.TROUBLE, "")
                .where(mine(number, me.id()))
                .execute();
        news.writing(number);
        return Optional.empty();
    }

    private static void insistToCome(Instant time, Instant now) {
        if (!time.isAfter(now)) {
            throw new Problem.Invalid("That time has passed. Choose one that is to come; your text is saved.");
        }
        if (time.isAfter(now.plus(FURTHEST))) {
            throw new Problem.Invalid("That is more than a year ahead. Choose an earlier time; your text is saved.");
        }
    }

    /** The reply of a person that waits on a ticket. */
    public Optional<Waiting> waiting(TicketNumber number, Viewer me) {
        return sql.select(DRAFT.DUE, DRAFT.UPDATED_AT)
                .from(DRAFT)
                .where(mine(number, me.id()))
                .and(DRAFT.DUE.isNotNull())
                .fetchOptional(r -> new Waiting(
                        r.value1(), Duration.between(r.value2(), r.value1()).compareTo(hold) > 0));
    }

    /** Why a person's reply did not go out when its time came; empty when there was no trouble. */
    public String trouble(TicketNumber number, Viewer me) {
        return sql.select(DRAFT.TROUBLE)
                .from(DRAFT)
                .where(mine(number, me.id()))
                .fetchOptional(DRAFT.TROUBLE)
                .orElse("");
    }

    /**
     * Takes a reply back that waits: it is a draft again.
     *
     * @throws Problem.Stale when it has gone out
     */
    @Transactional
    public void takeBack(TicketNumber number, Viewer me) {
        int back = sql.update(DRAFT)
                .setNull(DRAFT.DUE)
                .where(mine(number, me.id()))
                .and(DRAFT.DUE.isNotNull())
                .execute();
        if (back == 0) {
            throw new Problem.Stale("It was too late to take it back: the reply has gone out.");
        }
        news.writing(number);
    }

    /** Sends a reply that waits at once; what is in its way makes it a draft again, as when its time comes. */
    public void now(TicketNumber number, Viewer me) {
        sql.update(DRAFT)
                .set(DRAFT.DUE, clock.instant())
                .where(mine(number, me.id()))
                .and(DRAFT.DUE.isNotNull())
                .execute();
        sendOne(number, me.id());
    }

    private static Condition mine(TicketNumber number, PersonId person) {
        return DRAFT.TICKET.eq(number).and(DRAFT.PERSON_ID.eq(person)).and(DRAFT.KIND.eq(Drafts.Kind.REPLY.name()));
    }

    // ------------------------------------------------------------------ when the time has come

    /** When the next one goes out. */
    public Optional<Instant> nextDue() {
        return Optional.ofNullable(sql.select(DSL.min(DRAFT.DUE)).from(DRAFT).fetchSingle(DSL.min(DRAFT.DUE)));
    }

    /**
     * Sends those whose time has come, each in a transaction of its own.
     *
     * @return how many were looked at
     */
    public int sendDue(int most) {
        List<DraftRecord> due = sql.selectFrom(DRAFT)
                .where(DRAFT.DUE.le(clock.instant()))
                .orderBy(DRAFT.DUE)
                .limit(most)
                .fetch();
        due.forEach(row -> sendOne(row.getTicket(), row.getPersonId()));
        return due.size();
    }

    private void sendOne(TicketNumber number, PersonId person) {
        try {
            transaction.executeWithoutResult(status -> sql.selectFrom(DRAFT)
                    .where(mine(number, person))
                    .and(DRAFT.DUE.le(clock.instant()))
                    .forUpdate()
                    .skipLocked()
                    .fetchOptional()
                    .ifPresent(this::send));
        } catch (Problem e) {
            notSent(number, person, e.words());
        } catch (RuntimeException e) {
            LOG.warn("A reply to ticket {} could not be sent", number, e);
            notSent(number, person, "Something went wrong.");
        }
    }

    private void send(DraftRecord row) {
        Person writer = persons.find(row.getPersonId())
                .filter(Person::active)
                .orElseThrow(() -> new Problem.NoRight("Its writer does not work here any more."));
        var answer = new Answering.Answer(
                row.getHtml(),
                row.getRecipients(),
                Optional.of(row.getCc()),
                row.getBcc(),
                Turn.valueOf(row.getThenTurn()),
                row.getSeen(),
                row.getAsItIs());
        Answering.Outcome outcome = answering.answer(row.getTicket(), answer, viewers.of(writer));
        switch (outcome) {
            case Answering.Outcome.Sent sent -> {}
            case Answering.Outcome.Crossed crossed -> throw new Problem.Stale(crossed.words());
            case Answering.Outcome.Gaps gaps -> throw new Problem.Invalid(gaps.words());
        }
    }

    /** It is a draft again, and its writer is told. */
    private void notSent(TicketNumber number, PersonId person, String why) {
        transaction.executeWithoutResult(status -> {
            int kept = sql.update(DRAFT)
                    .setNull(DRAFT.DUE)
                    .set(DRAFT.TROUBLE, why)
                    .where(mine(number, person))
                    .and(DRAFT.DUE.isNotNull())
                    .execute();
            if (kept > 0) {
                notices.tell(
                        person,
                        number,
                        Notices.Kind.NOT_SENT,
                        "Your reply to " + number + " was not sent, it is a draft again. " + why);
            }
        });
        news.writing(number);
    }
}
