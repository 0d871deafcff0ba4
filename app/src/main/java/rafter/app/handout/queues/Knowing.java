package rafter.app.handout.queues;

import static rafter.database.Tables.CONSULT;
import static rafter.database.Tables.CONSULT_GUEST;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.TICKET;
import static rafter.database.Tables.TICKET_EVENT;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.Record3;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.app.house.people.Companies;
import rafter.core.id.PersonId;
import rafter.core.measure.Share;
import rafter.core.routing.Knowledge;
import rafter.core.routing.Waiting;
import rafter.core.ticket.EventKind;
import rafter.core.ticket.Turn;

/** What people did before with such a ticket: with its customer, and on its topic; measured from what was answered and resolved. */
@Component
class Knowing {

    private static final Duration CUSTOMERS = Duration.ofDays(365);
    private static final Duration TOPICS = Duration.ofDays(180);
    private static final Duration ASKED_AGAIN = Duration.ofMinutes(10);
    private static final int MOST_TOPICS = 500;
    /** What a ticket that is due before takes of somebody, on average. */
    private static final long MINUTES_AHEAD = 20;

    /**
     * What everybody knows of a ticket.
     *
     * @param topic of the tickets on its topic that anybody resolved, how many did not come back
     */
    public record Known(Share topic, Map<PersonId, Knowledge> people) {
        Knowledge of(PersonId person) {
            return people.getOrDefault(person, Knowledge.NOTHING);
        }
    }

    private record OfTopic(Instant at, Map<PersonId, Share> shares) {}

    private final DSLContext sql;
    private final Companies companies;
    private final Clock clock;
    /** How topics went changes slowly, and is asked for with every ticket. */
    private final Map<String, OfTopic> topics = new HashMap<>();

    Knowing(DSLContext sql, Companies companies, Clock clock) {
        this.sql = sql;
        this.companies = companies;
        this.clock = clock;
    }

    /** What everybody knows of a ticket. */
    Known of(Waiting ticket) {
        Map<PersonId, Integer> answered = answered(ticket);
        Set<PersonId> own = new HashSet<>();
        companies.agentOf(ticket.contact()).ifPresent(own::add);
        lastAnswered(ticket).ifPresent(own::add);
        Map<PersonId, Share> topic = topic(ticket.topic());
        Map<PersonId, Integer> ahead = ahead(ticket);
        var people = new HashSet<>(answered.keySet());
        people.addAll(own);
        people.addAll(topic.keySet());
        people.addAll(ahead.keySet());
        var known = new HashMap<PersonId, Knowledge>();
        for (PersonId person : people) {
            known.put(
                    person,
                    new Knowledge(
                            answered.getOrDefault(person, 0),
                            own.contains(person),
                            topic.getOrDefault(person, new Share(0, 0)),
                            ahead.getOrDefault(person, 0) * MINUTES_AHEAD));
        }
        Share all = topic.values().stream()
                .reduce(new Share(0, 0), (a, b) -> new Share(a.part() + b.part(), a.whole() + b.whole()));
        return new Known(all, known);
    }

    private Condition ofCustomer(Waiting ticket) {
        return TICKET.CONTACT_ID
                .eq(ticket.contact())
                .and(MESSAGE.KIND.eq("PUBLIC"))
                .and(MESSAGE.PERSON_ID.isNotNull())
                .and(MESSAGE.AT.gt(clock.instant().minus(CUSTOMERS)));
    }

    /** On how many of the customer's tickets each answered lately. */
    private Map<PersonId, Integer> answered(Waiting ticket) {
        return sql.select(MESSAGE.PERSON_ID, DSL.countDistinct(TICKET.NUMBER))
                .from(TICKET)
                .join(MESSAGE)
                .on(MESSAGE.TICKET.eq(TICKET.NUMBER))
                .where(ofCustomer(ticket))
                .groupBy(MESSAGE.PERSON_ID)
                .fetchMap(r -> r.value1(), r -> r.value2());
    }

    /** Who answered this ticket last, or else this customer. */
    private Optional<PersonId> lastAnswered(Waiting ticket) {
        return sql.select(MESSAGE.PERSON_ID)
                .from(TICKET)
                .join(MESSAGE)
                .on(MESSAGE.TICKET.eq(TICKET.NUMBER))
                .where(ofCustomer(ticket))
                .orderBy(DSL.when(TICKET.NUMBER.eq(ticket.number()), 0).otherwise(1), MESSAGE.AT.desc())
                .limit(1)
                .fetchOptional(MESSAGE.PERSON_ID);
    }

    /** How many of their open tickets fall due before this one. */
    private Map<PersonId, Integer> ahead(Waiting ticket) {
        Instant due = ticket.due().orElse(clock.instant().plus(Duration.ofHours(8)));
        return sql.select(TICKET.OWNER_ID, DSL.count())
                .from(TICKET)
                .where(TICKET.OPEN)
                .and(TICKET.OWNER_ID.isNotNull())
                .and(TICKET.TURN.eq(Turn.OURS.name()))
                .and(TICKET.NEXT_DUE.le(due))
                .groupBy(TICKET.OWNER_ID)
                .fetchMap(r -> r.value1(), r -> r.value2());
    }

    private synchronized Map<PersonId, Share> topic(String topic) {
        if (topic.isBlank()) {
            return Map.of();
        }
        Instant now = clock.instant();
        OfTopic known = topics.get(topic);
        if (known == null || Duration.between(known.at(), now).abs().compareTo(ASKED_AGAIN) > 0) {
            if (topics.size() >= MOST_TOPICS) {
                topics.clear();
            }
            known = new OfTopic(now, resolved(topic, now));
            topics.put(topic, known);
        }
        return known.shares();
    }

    /** Of the tickets on a topic that each resolved lately, how many did not come back: they ended once. */
    private Map<PersonId, Share> resolved(String topic, Instant now) {
        Field<Integer> ends = DSL.field(DSL.selectCount()
                .from(TICKET_EVENT)
                .where(TICKET_EVENT.TICKET.eq(TICKET.NUMBER))
                .and(TICKET_EVENT.KIND.eq(EventKind.STATE.word()))
                .and(DSL.condition(
                        "coalesce({0} -> 'state' ->> 'ending', {0} ->> 'ending') = 'true'", TICKET_EVENT.BODY)));
        List<Record3<PersonId, Integer, Integer>> rows = sql.select(
                        TICKET.OWNER_ID, DSL.count(), DSL.count().filterWhere(ends.le(1)))
                .from(TICKET)
                .where(TICKET.TOPIC.eq(topic))
                .and(TICKET.OPEN.isFalse())
                .and(TICKET.DISCARDED.isFalse())
                .and(TICKET.OWNER_ID.isNotNull())
                .and(TICKET.RESOLVED_AT.gt(now.minus(TOPICS)))
                .groupBy(TICKET.OWNER_ID)
                .fetch();
        var shares = new HashMap<PersonId, Share>();
        rows.forEach(r -> shares.put(r.value1(), new Share(r.value3(), r.value2())));
        helped(topic, now)
                .forEach((person, rooms) -> shares.merge(
                        person,
                        new Share(rooms, rooms),
                        (a, b) -> new Share(a.part() + b.part(), a.whole() + b.whole())));
        return shares;
    }

    /** In how many rooms on tickets of a topic each helped lately, of those that were closed with an outcome. */
    private Map<PersonId, Integer> helped(String topic, Instant now) {
        return sql.select(CONSULT_GUEST.PERSON_ID, DSL.count())
                .from(CONSULT_GUEST)
                .join(CONSULT)
                .on(CONSULT.ID.eq(CONSULT_GUEST.CONSULT_ID))
                .join(TICKET)
                .on(TICKET.NUMBER.eq(CONSULT.TICKET))
                .where(TICKET.TOPIC.eq(topic))
                .and(CONSULT.STATE.eq("CLOSED"))
                .and(CONSULT_GUEST.HELPED)
                .and(CONSULT_GUEST.PERSON_ID.isNotNull())
                .and(CONSULT.CLOSED_AT.gt(now.minus(TOPICS)))
                .groupBy(CONSULT_GUEST.PERSON_ID)
                .fetchMap(r -> r.value1(), r -> r.value2());
    }
}
