package rafter.app.handout.queues;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.QUEUE_ENTRY;
import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Instant;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.handout.people.HandOutSettings;
import rafter.app.handout.people.Skills;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Looks;
import rafter.core.criteria.Asking;
import rafter.core.criteria.Fact;
import rafter.core.criteria.KnownField;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.routing.HandOutRules;
import rafter.core.routing.Need;
import rafter.core.routing.Queue;
import rafter.core.routing.Skill;
import rafter.core.routing.Waiting;
import rafter.core.text.Words;
import rafter.core.ticket.Priority;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.Turn;

/** Which ticket waits in which queue; looked at once the rules have been read for what happened to it. */
@Component
class Places implements Looks.After {

    private final DSLContext sql;
    private final Queues queues;
    private final Skills skills;
    private final Offers offers;
    private final Flow flow;
    private final HandOutSettings settings;
    private final AtOnce atOnce;
    private final Clock clock;

    Places(
            DSLContext sql,
            Queues queues,
            Skills skills,
            Offers offers,
            Flow flow,
            HandOutSettings settings,
            AtOnce atOnce,
            Clock clock) {
        this.atOnce = atOnce;
        this.flow = flow;
        this.offers = offers;
        this.settings = settings;
        this.sql = sql;
        this.queues = queues;
        this.skills = skills;
        this.clock = clock;
    }

    @Override
    public boolean reads() {
        return queues.all().stream().anyMatch(Queue::on);
    }

    @Override
    public Set<KnownField> asks() {
        var asked = EnumSet.of(KnownField.FIRST_MESSAGE);
        queues.all().forEach(queue -> asked.addAll(KnownField.askedBy(queue.criteria())));
        return asked;
    }

    /** Looks where tickets wait. */
    @Override
    @Transactional(propagation = Propagation.MANDATORY)
    public void read(List<Looks.Looked> tickets) {
        List<Queue> all = queues.all();
        List<Skill> catalogue = skills.all();
        tickets.forEach(ticket -> place(ticket, all, catalogue));
    }

    private void place(Looks.Looked looked, List<Queue> all, List<Skill> catalogue) {
        queue(looked, all).ifPresentOrElse(queue -> waits(looked, queue, needs(looked, catalogue)), () -> {
            if (flow.leaves(looked.number())) {
                offers.withdraw(looked.number());
            }
        });
    }

    /** Where a ticket waits, if it waits for somebody. */
    private Optional<Queue> queue(Looks.Looked looked, List<Queue> all) {
        Ticket ticket = looked.ticket();
        boolean waits = ticket.open()
                && ticket.turn() == Turn.OURS
                && ticket.owner().isEmpty()
                && !ticket.discarded()
                && ticket.joined().isEmpty();
        return waits
                ? Queue.of(
                        all,
                        looked.facts(),
                        Asking.ofNobody(clock.instant()),
                        ticket.steering().queue())
                : Optional.empty();
    }

    private static List<Need> needs(Looks.Looked looked, List<Skill> catalogue) {
        Ticket ticket = looked.ticket();
        String first =
                String.join(" ", looked.facts().of(KnownField.FIRST_MESSAGE).plain());
        return Need.of(
                catalogue,
                ticket.topic(),
                Words.of(ticket.subject() + " " + first),
                ticket.steering().needed(),
                ticket.steering().spared());
    }

    private void waits(Looks.Looked looked, Queue queue, List<Need> needs) {
        boolean anew = flow.comes(looked.number(), queue.id());
        if (anew) {
            offers.withdraw(looked.number());
            atOnce.soon();
        }
        int round = anew ? offers.rounds(looked.number()) + 1 : 1;
        keep(looked, queue, needs, anew, round);
    }

    private void keep(Looks.Looked looked, Queue queue, List<Need> needs, boolean anew, int round) {
        // Whatever queue it comes into, it has waited since it became our turn.
        Instant since = looked.facts()
                .of(KnownField.IN_TURN, Fact.Since.class)
                .map(Fact.Since::at)
                .orElseGet(clock::instant);
        sql.insertInto(QUEUE_ENTRY)
                .set(QUEUE_ENTRY.ROUND, round)
                .set(QUEUE_ENTRY.TICKET, looked.number())
                .set(QUEUE_ENTRY.QUEUE_ID, queue.id().value())
                .set(QUEUE_ENTRY.SINCE, since)
                .set(
                        QUEUE_ENTRY.NEEDS,
                        needs.stream().map(need -> need.skill().id().value()).toArray(Long[]::new))
                .set(
                        QUEUE_ENTRY.WHYS,
                        needs.stream().map(need -> need.why().words()).toArray(String[]::new))
                .onConflict(QUEUE_ENTRY.TICKET)
                .doUpdate()
                .set(QUEUE_ENTRY.SINCE, since)
                .set(QUEUE_ENTRY.QUEUE_ID, queue.id().value())
                .set(QUEUE_ENTRY.NEEDS, DSL.excluded(QUEUE_ENTRY.NEEDS))
                .set(QUEUE_ENTRY.WHYS, DSL.excluded(QUEUE_ENTRY.WHYS))
                .set(QUEUE_ENTRY.ROUND, anew ? DSL.val(round) : QUEUE_ENTRY.ROUND)
                .set(
                        QUEUE_ENTRY.PAUSE_UNTIL,
                        anew ? DSL.val((Instant) null, QUEUE_ENTRY.PAUSE_UNTIL) : QUEUE_ENTRY.PAUSE_UNTIL)
                .execute();
    }

    // ------------------------------------------------------------------ what waits

    /** A ticket as though it waited, whether it does or not; its callers have asked whether it is seen. */
    Waiting asWaiting(TicketNumber ticket) {
        return rows(TICKET.NUMBER.eq(ticket)).stream()
                .findFirst()
                .map(row -> row.waiting())
                .orElseThrow(() -> new Problem.NotFound("There is no ticket " + ticket + "."));
    }

    /** All that a ticket needs: its own, and what its queue asks of all. */
    Set<SkillId> needs(Waiting ticket) {
        Optional<Queue> queue = sql.select(QUEUE_ENTRY.QUEUE_ID)
                .from(QUEUE_ENTRY)
                .where(QUEUE_ENTRY.TICKET.eq(ticket.number()))
                .fetchOptional(QUEUE_ENTRY.QUEUE_ID)
                .flatMap(id -> queues.all().stream()
                        .filter(one -> one.id().equals(new QueueId(id)))
                        .findFirst());
        return queue.map(one -> one.needs(ticket))
                .orElseGet(() ->
                        ticket.needs().stream().map(need -> need.skill().id()).collect(Collectors.toSet()));
    }

    /** A ticket as though it waited, in which queue it does, and who has it. */
    private record Row(
            Optional<QueueId> queue,
            Waiting waiting,
            Optional<PersonId> owner,
            Optional<TeamId> team,
            String subject) {}

    /**
     * What waits in each queue.
     *
     * @param which of the tickets, such as those that somebody sees
     */
    Map<QueueId, List<Waiting>> waiting(Condition which) {
        return rows(QUEUE_ENTRY.TICKET.isNotNull().and(TICKET.OWNER_ID.isNull()).and(which)).stream()
                .collect(Collectors.groupingBy(
                        row -> row.queue().orElseThrow(), Collectors.mapping(Row::waiting, Collectors.toList())));
    }

    /** A ticket that somebody has, on which it is our turn. */
    public record Owned(Waiting waiting, PersonId owner, Optional<TeamId> team, String subject) {}

    /**
     * What people have, on which it is our turn.
     *
     * @param which of the tickets
     */
    List<Owned> owned(Condition which) {
        Condition theirs = DSL.condition(TICKET.OPEN)
                .and(TICKET.OWNER_ID.isNotNull())
                .and(TICKET.TURN.eq(Turn.OURS.name()))
                .and(TICKET.DISCARDED.isFalse());
        return rows(theirs.and(which)).stream()
                .map(row -> new Owned(row.waiting(), row.owner().orElseThrow(), row.team(), row.subject()))
                .toList();
    }

    private List<Row> rows(Condition which) {
        HandOutRules rules = settings.rules();
        Map<SkillId, Skill> catalogue = new HashMap<>();
        skills.all().forEach(skill -> catalogue.put(skill.id(), skill));
        return sql.select(
                        TICKET.NUMBER,
                        TICKET.OWNER_ID,
                        TICKET.TEAM_ID,
                        TICKET.SUBJECT,
                        QUEUE_ENTRY.QUEUE_ID,
                        QUEUE_ENTRY.SINCE,
                        QUEUE_ENTRY.NEEDS,
                        TICKET.PRIORITY,
                        TICKET.TOPIC,
                        TICKET.CONTACT_ID,
                        TICKET.CHANNEL,
                        TICKET.TURN_SINCE,
                        TICKET.NEXT_DUE,
                        COMPANY.PLAN,
                        CONTACT.LANGUAGE)
                .from(TICKET)
                .leftJoin(QUEUE_ENTRY)
                .on(QUEUE_ENTRY.TICKET.eq(TICKET.NUMBER))
                .join(CONTACT)
                .on(CONTACT.ID.eq(TICKET.CONTACT_ID))
                .leftJoin(COMPANY)
                .on(COMPANY.ID.eq(CONTACT.COMPANY_ID))
                .where(which)
                .fetch(r -> row(r, rules, catalogue));
    }

    private static Row row(Record r, HandOutRules rules, Map<SkillId, Skill> catalogue) {
        var waiting = new Waiting(
                r.get(TICKET.NUMBER),
                Priority.valueOf(r.get(TICKET.PRIORITY)),
                Optional.ofNullable(r.get(COMPANY.PLAN)).orElse(""),
                r.get(TICKET.TOPIC),
                r.get(TICKET.CONTACT_ID),
                Optional.ofNullable(r.get(QUEUE_ENTRY.SINCE)).orElse(r.get(TICKET.TURN_SINCE)),
                Optional.<Instant>ofNullable(r.get(TICKET.NEXT_DUE)),
                rules.units(r.get(TICKET.CHANNEL)),
                r.get(CONTACT.LANGUAGE),
                Optional.ofNullable(r.get(QUEUE_ENTRY.NEEDS))
                        .map(needs -> needs(needs, catalogue))
                        .orElse(List.of()));
        return new Row(
                Optional.ofNullable(r.get(QUEUE_ENTRY.QUEUE_ID)).map(QueueId::new),
                waiting,
                Optional.ofNullable(r.get(TICKET.OWNER_ID)),
                Optional.ofNullable(r.get(TICKET.TEAM_ID)),
                r.get(TICKET.SUBJECT));
    }

    private static List<Need> needs(Long[] ids, Map<SkillId, Skill> catalogue) {
        return Arrays.stream(ids)
                .flatMap(id -> Optional.ofNullable(catalogue.get(new SkillId(id))).stream())
                .map(skill -> new Need(skill, new Need.Why.Said()))
                .toList();
    }
}
