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
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.handout.people.Skills;
import rafter.app.tickets.acts.Looks;
import rafter.core.criteria.Asking;
import rafter.core.criteria.Fact;
import rafter.core.criteria.KnownField;
import rafter.core.id.QueueId;
import rafter.core.id.SkillId;
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
    private final Clock clock;

    Places(DSLContext sql, Queues queues, Skills skills, Clock clock) {
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
        Ticket ticket = looked.ticket();
        boolean waits = ticket.open()
                && ticket.turn() == Turn.OURS
                && ticket.owner().isEmpty()
                && !ticket.discarded()
                && ticket.joined().isEmpty();
        Optional<Queue> queue =
                waits ? Queue.of(all, looked.facts(), Asking.ofNobody(clock.instant())) : Optional.empty();
        if (queue.isEmpty()) {
            sql.deleteFrom(QUEUE_ENTRY)
                    .where(QUEUE_ENTRY.TICKET.eq(looked.number()))
                    .execute();
            return;
        }
        String first =
                String.join(" ", looked.facts().of(KnownField.FIRST_MESSAGE).plain());
        List<Need> needs =
                Need.of(catalogue, ticket.topic(), Words.of(ticket.subject() + " " + first), Set.of(), Set.of());
        // Whatever queue it comes into, it has waited since it became our turn.
        Instant since = looked.facts()
                .of(KnownField.IN_TURN, Fact.Since.class)
                .map(Fact.Since::at)
                .orElseGet(clock::instant);
        sql.insertInto(QUEUE_ENTRY)
                .set(QUEUE_ENTRY.TICKET, looked.number())
                .set(QUEUE_ENTRY.QUEUE_ID, queue.get().id().value())
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
                .set(QUEUE_ENTRY.QUEUE_ID, queue.get().id().value())
                .set(QUEUE_ENTRY.NEEDS, DSL.excluded(QUEUE_ENTRY.NEEDS))
                .set(QUEUE_ENTRY.WHYS, DSL.excluded(QUEUE_ENTRY.WHYS))
                .execute();
    }

    // ------------------------------------------------------------------ what waits

    /**
     * What waits in each queue.
     *
     * @param which of the tickets, such as those that somebody sees
     */
    Map<QueueId, List<Waiting>> waiting(Condition which) {
        Map<SkillId, Skill> catalogue = new HashMap<>();
        skills.all().forEach(skill -> catalogue.put(skill.id(), skill));
        return sql.select(
                        QUEUE_ENTRY.asterisk(),
                        TICKET.PRIORITY,
                        TICKET.TOPIC,
                        TICKET.CONTACT_ID,
                        TICKET.NEXT_DUE,
                        COMPANY.PLAN,
                        CONTACT.LANGUAGE)
                .from(QUEUE_ENTRY)
                .join(TICKET)
                .on(TICKET.NUMBER.eq(QUEUE_ENTRY.TICKET))
                .join(CONTACT)
                .on(CONTACT.ID.eq(TICKET.CONTACT_ID))
                .leftJoin(COMPANY)
                .on(COMPANY.ID.eq(CONTACT.COMPANY_ID))
                .where(TICKET.OWNER_ID.isNull())
                .and(which)
                .fetchGroups(
                        r -> new QueueId(r.get(QUEUE_ENTRY.QUEUE_ID)),
                        r -> new Waiting(
                                r.get(QUEUE_ENTRY.TICKET),
                                Priority.valueOf(r.get(TICKET.PRIORITY)),
                                Optional.ofNullable(r.get(COMPANY.PLAN)).orElse(""),
                                r.get(TICKET.TOPIC),
                                r.get(TICKET.CONTACT_ID),
                                r.get(QUEUE_ENTRY.SINCE),
                                Optional.<Instant>ofNullable(r.get(TICKET.NEXT_DUE)),
                                1,
                                r.get(CONTACT.LANGUAGE),
                                needs(r.get(QUEUE_ENTRY.NEEDS), catalogue)));
    }

    private static List<Need> needs(Long[] ids, Map<SkillId, Skill> catalogue) {
        return Arrays.stream(ids)
                .flatMap(id -> Optional.ofNullable(catalogue.get(new SkillId(id))).stream())
                .map(skill -> new Need(skill, new Need.Why.Said()))
                .toList();
    }
}
