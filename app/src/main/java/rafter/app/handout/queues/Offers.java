package rafter.app.handout.queues;

import static rafter.database.Tables.OFFER;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Awaiting;
import rafter.app.house.access.Viewer;
import rafter.app.platform.LiveNews;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;
import rafter.core.id.TicketNumber;

/** Who is asked whether they take which ticket. A ticket is offered to one person at a time, and a person is asked one thing at a time: the database keeps both. */
@Component
class Offers implements Awaiting {

    private static final String OPEN = "OPEN";

    /** What somebody is asked. */
    public record Offer(long id, TicketNumber ticket, QueueId queue, PersonId person, String why, Instant until) {}

    /** How somebody answered what they were asked lately. */
    public record Answers(int asked, int taken, int passed, int ranOut) {
        static final Answers NONE = new Answers(0, 0, 0, 0);
    }

    private final DSLContext sql;
    private final LiveNews news;
    private final Clock clock;

    Offers(DSLContext sql, LiveNews news, Clock clock) {
        this.sql = sql;
        this.news = news;
        this.clock = clock;
    }

    /** Asks somebody. */
    @Transactional(propagation = Propagation.MANDATORY)
    void make(TicketNumber ticket, QueueId queue, PersonId person, int round, String why, Duration within) {
        Instant now = clock.instant();
        sql.insertInto(OFFER)
                .set(OFFER.TICKET, ticket)
                .set(OFFER.QUEUE_ID, queue.value())
                .set(OFFER.PERSON_ID, person)
                .set(OFFER.ROUND, round)
                .set(OFFER.WHY, why)
                .set(OFFER.MADE_AT, now)
                .set(OFFER.UNTIL_AT, now.plus(within))
                .execute();
        news.offered(person);
        news.floorChanged();
    }

    @Override
    public String name() {
        return "offers";
    }

    @Override
    public Field<Integer> waitingFor(Viewer me) {
        return Awaiting.count(OFFER, asked(me.id()));
    }

    private static Condition asked(PersonId person) {
        return OFFER.PERSON_ID.eq(person).and(OFFER.STATE.eq(OPEN));
    }

    /** What somebody is asked just now. */
    Optional<Offer> of(PersonId person) {
        return sql.selectFrom(OFFER)
                .where(asked(person))
                .fetchOptional(r -> new Offer(
                        r.getId(),
                        r.getTicket(),
                        new QueueId(r.getQueueId()),
                        r.getPersonId(),
                        r.getWhy(),
                        r.getUntilAt()));
    }

    /** All that is asked just now, by ticket. */
    Map<TicketNumber, Offer> open() {
        return sql.selectFrom(OFFER)
                .where(OFFER.STATE.eq(OPEN))
                .fetchMap(
                        OFFER.TICKET,
                        r -> new Offer(
                                r.getId(),
                                r.getTicket(),
                                new QueueId(r.getQueueId()),
                                r.getPersonId(),
                                r.getWhy(),
                                r.getUntilAt()));
    }

    /** Who was asked about tickets in their rounds, by ticket and round. */
    Map<TicketNumber, Map<Integer, List<PersonId>>> asked(Set<TicketNumber> tickets) {
        return sql
                .select(OFFER.TICKET, OFFER.ROUND, OFFER.PERSON_ID)
                .from(OFFER)
                .where(OFFER.TICKET.in(tickets))
                .and(OFFER.STATE.ne("WITHDRAWN"))
                .fetchGroups(OFFER.TICKET)
                .entrySet()
                .stream()
                .collect(java.util.stream.Collectors.toMap(
                        Map.Entry::getKey, one -> one.getValue().intoGroups(OFFER.ROUND, OFFER.PERSON_ID)));
    }

    /** Whether an offer was still open, and ends so now. */
    @Transactional(propagation = Propagation.MANDATORY)
    boolean end(Offer offer, String state, String reason) {
        return end(OFFER.ID.eq(offer.id()), state, reason) > 0;
    }

    /** What is asked about a ticket is asked no more: somebody has it, or it waits no more. */
    @Transactional(propagation = Propagation.MANDATORY)
    void withdraw(TicketNumber ticket) {
        end(OFFER.TICKET.eq(ticket), "WITHDRAWN", "");
    }

    /** What nobody answered in time is over. */
    @Transactional(propagation = Propagation.MANDATORY)
    int runOut() {
        return end(OFFER.UNTIL_AT.le(clock.instant()), "RAN_OUT", "");
    }

    private int end(Condition which, String state, String reason) {
        List<PersonId> whom = sql.update(OFFER)
                .set(OFFER.STATE, state)
                .set(OFFER.REASON, reason)
                .set(OFFER.ANSWERED_AT, clock.instant())
                .where(which)
                .and(OFFER.STATE.eq(OPEN))
                .returning(OFFER.PERSON_ID)
                .fetch(OFFER.PERSON_ID);
        whom.forEach(news::offered);
        if (!whom.isEmpty()) {
            news.floorChanged();
        }
        return whom.size();
    }

    /** How many rounds of asking there were about a ticket, wherever it waited. */
    int rounds(TicketNumber ticket) {
        return sql.select(DSL.coalesce(DSL.max(OFFER.ROUND), 0))
                .from(OFFER)
                .where(OFFER.TICKET.eq(ticket))
                .fetchSingle(r -> r.value1());
    }

    /** How each answered what they were asked since then. */
    Map<PersonId, Answers> answers(Instant since) {
        return sql.select(
                        OFFER.PERSON_ID,
                        DSL.count(),
                        DSL.count().filterWhere(OFFER.STATE.eq("TAKEN")),
                        DSL.count().filterWhere(OFFER.STATE.eq("PASSED")),
                        DSL.count().filterWhere(OFFER.STATE.eq("RAN_OUT")))
                .from(OFFER)
                .where(OFFER.MADE_AT.ge(since))
                .and(OFFER.STATE.notIn("WITHDRAWN", OPEN))
                .groupBy(OFFER.PERSON_ID)
                .fetchMap(r -> r.value1(), r -> new Answers(r.value2(), r.value3(), r.value4(), r.value5()));
    }
}
