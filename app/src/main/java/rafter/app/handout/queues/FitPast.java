package rafter.app.handout.queues;

import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.PRESENCE_LOG;
import static rafter.database.Tables.TICKET;
import static rafter.database.Tables.TICKET_CLOCK;
import static rafter.database.Tables.TICKET_EVENT;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.handout.people.HandOutSettings;
import rafter.app.handout.people.Skills;
import rafter.app.handout.people.Workforce;
import rafter.app.tickets.acts.Tickets;
import rafter.core.id.ContactId;
import rafter.core.id.PersonId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.measure.Share;
import rafter.core.routing.BestFit;
import rafter.core.routing.FitRehearsal;
import rafter.core.routing.HandOutRules;
import rafter.core.routing.Knowledge;
import rafter.core.routing.Need;
import rafter.core.routing.Presence;
import rafter.core.routing.Rebalance;
import rafter.core.routing.Stint;
import rafter.core.routing.Waiting;
import rafter.core.routing.Worker;
import rafter.core.text.Words;
import rafter.core.ticket.EventKind;
import rafter.core.ticket.Priority;

/**
 * Rehearses best fit over the choices of a time that has passed. Loads, who was at work, and what each knew of customers and topics are as they
 * were then; skills, teams, limits and topics of tickets are as they are today.
 */
@Component
class FitPast {

    /** Of more choices the latest are taken. */
    static final int MOST = 2_000;

    private static final int AT_ONCE = 500;
    private static final Duration TOPICS = Duration.ofDays(180);
    private static final Duration CUSTOMERS = Duration.ofDays(365);

    private record Chosen(Instant at, Waiting ticket, PersonId person, Set<TeamId> pool) {}

    private record Resolved(PersonId person, Instant at) {}

    private record Answered(PersonId person, TicketNumber ticket, Instant at) {}

    private record Went(Instant at, boolean here) {}

    /** What is known of the time, read once. */
    private record Then(
            List<Worker> workers,
            Map<TicketNumber, List<Stint>> stints,
            Map<TicketNumber, Double> units,
            Map<PersonId, List<Went>> went,
            Map<String, List<Resolved>> resolved,
            Map<ContactId, List<Answered>> answered) {}

    private final DSLContext sql;
    private final Tickets tickets;
    private final Workforce workforce;
    private final Skills skills;
    private final HandOutSettings settings;

    FitPast(DSLContext sql, Tickets tickets, Workforce workforce, Skills skills, HandOutSettings settings) {
        this.sql = sql;
        this.tickets = tickets;
        this.workforce = workforce;
        this.skills = skills;
        this.settings = settings;
    }

    /** Rehearses the hand-overs since an instant. */
    @Transactional(readOnly = true)
    FitRehearsal.Report since(Instant from) {
        List<Chosen> chosen = chosen(from);
        Then then = then(from, chosen);
        HandOutRules rules = settings.rules();
        return FitRehearsal.of(
                chosen.stream().map(one -> choice(one, then, rules)).toList(), Rebalance.EACH);
    }

    // ------------------------------------------------------------------ what was chosen

    private List<Chosen> chosen(Instant from) {
        HandOutRules rules = settings.rules();
        var due = DSL.field(DSL.select(DSL.min(TICKET_CLOCK.DUE_AT))
                .from(TICKET_CLOCK)
                .where(TICKET_CLOCK.TICKET.eq(TICKET.NUMBER))
                .and(TICKET_CLOCK.STARTED_AT.le(TICKET_EVENT.AT))
                .and(TICKET_CLOCK.ENDED_AT.isNull().or(TICKET_CLOCK.ENDED_AT.gt(TICKET_EVENT.AT))));
        var owner = DSL.field("({0} ->> 'owner')::bigint", Long.class, TICKET_EVENT.BODY);
        var rows = sql.select(
                        TICKET_EVENT.AT,
                        owner,
                        due,
                        TICKET.NUMBER,
                        TICKET.SUBJECT,
                        TICKET.PRIORITY,
                        TICKET.TOPIC,
                        TICKET.CONTACT_ID,
                        TICKET.CHANNEL,
                        CONTACT.LANGUAGE)
                .from(TICKET_EVENT)
                .join(TICKET)
                .on(TICKET.NUMBER.eq(TICKET_EVENT.TICKET))
                .join(CONTACT)
                .on(CONTACT.ID.eq(TICKET.CONTACT_ID))
                .where(TICKET_EVENT.KIND.eq(EventKind.OWNER.word()))
                .and(TICKET_EVENT.AT.ge(from))
                .and(owner.isNotNull())
                .orderBy(TICKET_EVENT.AT.desc(), TICKET_EVENT.TICKET)
                .limit(MOST)
                .fetch();
        Set<TeamId> everybody = new HashSet<>();
        workforce.workers().forEach(one -> everybody.addAll(one.teams()));
        return rows.map(r -> new Chosen(
                r.get(TICKET_EVENT.AT), waiting(r, r.get(due), rules), new PersonId(r.get(owner)), everybody));
    }

    private Waiting waiting(Record r, Instant due, HandOutRules rules) {
        List<Need> needs =
                Need.of(skills.all(), r.get(TICKET.TOPIC), Words.of(r.get(TICKET.SUBJECT)), Set.of(), Set.of());
        return new Waiting(
                r.get(TICKET.NUMBER),
                Priority.valueOf(r.get(TICKET.PRIORITY)),
                "",
                r.get(TICKET.TOPIC),
                r.get(TICKET.CONTACT_ID),
                r.get(TICKET_EVENT.AT),
                Optional.ofNullable(due),
                rules.units(r.get(TICKET.CHANNEL)),
                r.get(CONTACT.LANGUAGE),
                needs);
    }

    // ------------------------------------------------------------------ how it stood

    private Then then(Instant from, List<Chosen> chosen) {
        HandOutRules rules = settings.rules();
        Map<TicketNumber, Double> units = sql.select(TICKET.NUMBER, TICKET.CHANNEL)
                .from(TICKET)
                .where(DSL.condition(TICKET.OPEN).or(TICKET.CHANGED_AT.ge(from)))
                .fetchMap(r -> r.value1(), r -> rules.units(r.value2()));
        var stints = new HashMap<TicketNumber, List<Stint>>();
        List<TicketNumber> numbers = List.copyOf(units.keySet());
        for (int i = 0; i < numbers.size(); i += AT_ONCE) {
            tickets.events(numbers.subList(i, Math.min(numbers.size(), i + AT_ONCE)))
                    .forEach((number, events) -> stints.put(number, Stint.of(events)));
        }
        Map<PersonId, List<Went>> went = sql.select(PRESENCE_LOG.PERSON_ID, PRESENCE_LOG.AT, PRESENCE_LOG.PRESENCE)
                .from(PRESENCE_LOG)
                .orderBy(PRESENCE_LOG.ID)
                .fetchGroups(
                        r -> r.value1(), r -> new Went(r.value2(), r.value3().equals(Presence.HERE.name())));
        return new Then(workforce.workers(), stints, units, went, resolved(from), answered(from, chosen));
    }

    private Map<String, List<Resolved>> resolved(Instant from) {
        return sql.select(TICKET.TOPIC, TICKET.OWNER_ID, TICKET.RESOLVED_AT)
                .from(TICKET)
                .where(TICKET.RESOLVED_AT.gt(from.minus(TOPICS)))
                .and(TICKET.OWNER_ID.isNotNull())
                .and(TICKET.TOPIC.ne(""))
                .fetchGroups(r -> r.value1(), r -> new Resolved(r.value2(), r.value3()));
    }

    private Map<ContactId, List<Answered>> answered(Instant from, List<Chosen> chosen) {
        Set<ContactId> contacts = new HashSet<>();
        chosen.forEach(one -> contacts.add(one.ticket().contact()));
        return sql.select(TICKET.CONTACT_ID, MESSAGE.PERSON_ID, MESSAGE.TICKET, MESSAGE.AT)
                .from(MESSAGE)
                .join(TICKET)
                .on(TICKET.NUMBER.eq(MESSAGE.TICKET))
                .where(TICKET.CONTACT_ID.in(contacts))
                .and(MESSAGE.KIND.eq("PUBLIC"))
                .and(MESSAGE.PERSON_ID.isNotNull())
                .and(MESSAGE.AT.gt(from.minus(CUSTOMERS)))
                .orderBy(MESSAGE.AT)
                .fetchGroups(r -> r.value1(), r -> new Answered(r.value2(), r.value3(), r.value4()));
    }

    // ------------------------------------------------------------------ one choice

    private FitRehearsal.Choice choice(Chosen one, Then then, HandOutRules rules) {
        Map<PersonId, Double> used = used(one, then);
        List<Worker> people = then.workers().stream()
                .map(worker -> as(worker, one, then, used.getOrDefault(worker.id(), 0.0)))
                .toList();
        List<Resolved> topic = then.resolved().getOrDefault(one.ticket().topic(), List.of()).stream()
                .filter(r ->
                        r.at().isBefore(one.at()) && r.at().isAfter(one.at().minus(TOPICS)))
                .toList();
        List<Answered> customer = then.answered().getOrDefault(one.ticket().contact(), List.of()).stream()
                .filter(a -> a.at().isBefore(one.at()))
                .toList();
        Set<SkillId> needs = new HashSet<>();
        one.ticket().needs().forEach(need -> needs.add(need.skill().id()));
        var question = new BestFit.Question(
                one.ticket(),
                one.pool(),
                needs,
                rules.weights(),
                new Share(topic.size(), topic.size()),
                person -> known(person, topic, customer, used.getOrDefault(person, 0.0)),
                one.at());
        return new FitRehearsal.Choice(question, people, one.person(), until(one, then));
    }

    private static Knowledge known(PersonId person, List<Resolved> topic, List<Answered> customer, double used) {
        int resolved =
                (int) topic.stream().filter(r -> r.person().equals(person)).count();
        int tickets = (int) customer.stream()
                .filter(a -> a.person().equals(person))
                .map(Answered::ticket)
                .distinct()
                .count();
        boolean last = !customer.isEmpty() && customer.getLast().person().equals(person);
        return new Knowledge(
                tickets, last, new Share(resolved, resolved), Math.round(used * Rebalance.EACH.toMinutes()));
    }

    /** What each had then, this ticket not among it. */
    private static Map<PersonId, Double> used(Chosen one, Then then) {
        var used = new HashMap<PersonId, Double>();
        then.stints().forEach((number, stints) -> {
            if (!number.equals(one.ticket().number())) {
                stints.stream()
                        .filter(stint -> stint.at(one.at()))
                        .forEach(stint ->
                                used.merge(stint.person(), then.units().getOrDefault(number, 1.0), Double::sum));
            }
        });
        return used;
    }

    /** Somebody as they stood: of whom nothing was written down by then counts as at work, and whom people chose does. */
    private static Worker as(Worker worker, Chosen one, Then then, double used) {
        boolean here = worker.id().equals(one.person())
                || then.went().getOrDefault(worker.id(), List.of()).stream()
                        .filter(went -> !went.at().isAfter(one.at()))
                        .reduce((first, second) -> second)
                        .map(Went::here)
                        .orElse(true);
        return new Worker(
                worker.id(),
                worker.name(),
                worker.teams(),
                worker.skills(),
                here ? Presence.HERE : Presence.OFF,
                true,
                used,
                worker.limit(),
                worker.languages());
    }

    private static Optional<Instant> until(Chosen one, Then then) {
        var of = new ArrayList<>(then.stints().getOrDefault(one.ticket().number(), List.of()));
        of.removeIf(stint -> !stint.person().equals(one.person()) || !stint.at(one.at()));
        return of.isEmpty() ? Optional.of(one.at()) : of.getFirst().to();
    }
}
