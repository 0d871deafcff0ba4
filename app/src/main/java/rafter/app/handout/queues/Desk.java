package rafter.app.handout.queues;

import static rafter.database.Tables.COMPANY;
import static rafter.database.Tables.CONTACT;
import static rafter.database.Tables.QUEUE;
import static rafter.database.Tables.QUEUE_ENTRY;
import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.DSLContext;
import org.jooq.Field;
import org.jooq.OrderField;
import org.jooq.Record3;
import org.jooq.Table;
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import rafter.app.handout.people.Skills;
import rafter.app.house.access.Viewer;
import rafter.app.tickets.acts.HandOutDesk;
import rafter.core.id.QueueId;
import rafter.core.id.SkillId;
import rafter.core.id.TicketNumber;
import rafter.core.routing.Ordering;
import rafter.core.routing.Queue;
import rafter.core.ticket.Priority;

/** What pages and acts of one ticket ask of queues and skills. */
@Component
class Desk implements HandOutDesk {

    private final DSLContext sql;
    private final Queues queues;
    private final Skills skills;
    private final Clock clock;

    Desk(DSLContext sql, Queues queues, Skills skills, Clock clock) {
        this.sql = sql;
        this.queues = queues;
        this.skills = skills;
        this.clock = clock;
    }

    @Override
    public List<Choice> queues() {
        return queues.all().stream()
                .filter(Queue::on)
                .map(queue -> new Choice(queue.id().toString(), queue.name()))
                .toList();
    }

    @Override
    public List<Choice> skills() {
        return skills.all().stream()
                .map(skill -> new Choice(skill.id().toString(), skill.name()))
                .toList();
    }

    @Override
    public Waiting waiting(TicketNumber ticket, Viewer me) {
        return sql.select(QUEUE_ENTRY.QUEUE_ID, QUEUE_ENTRY.NEEDS, QUEUE_ENTRY.WHYS, QUEUE.SKILLS)
                .from(QUEUE_ENTRY)
                .join(QUEUE)
                .on(QUEUE.ID.eq(QUEUE_ENTRY.QUEUE_ID))
                .where(QUEUE_ENTRY.TICKET.eq(ticket))
                .and(me.sees(QUEUE_ENTRY.TICKET))
                .fetchOptional()
                .map(r -> new Waiting(
                        queue(new QueueId(r.value1())).flatMap(in -> place(ticket, in)),
                        lines(r.value2(), r.value3(), r.value4())))
                .orElse(Waiting.NOWHERE);
    }

    private Optional<Queue> queue(QueueId id) {
        return queues.all().stream().filter(one -> one.id().equals(id)).findFirst();
    }

    /** Its place among all that wait there: everybody can know how many are before it, whatever they see of them. */
    private Optional<Place> place(TicketNumber ticket, Queue queue) {
        Field<Integer> place = DSL.rowNumber()
                .over(DSL.orderBy(order(queue.order(), clock.instant())))
                .as("place");
        Field<Integer> all = DSL.count().over().as("all_of_it");
        Table<Record3<TicketNumber, Integer, Integer>> line = sql.select(QUEUE_ENTRY.TICKET, place, all)
                .from(QUEUE_ENTRY)
                .join(TICKET)
                .on(TICKET.NUMBER.eq(QUEUE_ENTRY.TICKET))
                .join(CONTACT)
                .on(CONTACT.ID.eq(TICKET.CONTACT_ID))
                .leftJoin(COMPANY)
                .on(COMPANY.ID.eq(CONTACT.COMPANY_ID))
                .where(QUEUE_ENTRY.QUEUE_ID.eq(queue.id().value()))
                .and(TICKET.OWNER_ID.isNull())
                .asTable("line");
        return sql.select(line.field(place), line.field(all))
                .from(line)
                .where(line.field(QUEUE_ENTRY.TICKET).eq(ticket))
                .fetchOptional(r -> new Place(
                        queue.name(), r.value1(), r.value2(), queue.order().words()));
    }

    /** The order of a queue in SQL; the same as {@link Ordering#comparator}. */
    static List<OrderField<?>> order(Ordering order, Instant now) {
        var by = new ArrayList<OrderField<?>>();
        switch (order) {
            case Ordering.Due due -> by.add(TICKET.NEXT_DUE.asc().nullsLast());
            case Ordering.Oldest oldest -> {}
            case Ordering.Weighted weighted -> by.add(points(weighted, now).desc());
        }
        by.add(QUEUE_ENTRY.SINCE.asc());
        by.add(QUEUE_ENTRY.TICKET.asc());
        return by;
    }

    private static Field<Double> points(Ordering.Weighted weighted, Instant now) {
        Field<Double> steps = DSL.case_(TICKET.PRIORITY)
                .when(Priority.P1.name(), DSL.inline(3.0))
                .when(Priority.P2.name(), DSL.inline(2.0))
                .when(Priority.P3.name(), DSL.inline(1.0))
                .otherwise(DSL.inline(0.0));
        Field<Double> plan = DSL.when(COMPANY.PLAN.ne(""), DSL.inline(1.0)).otherwise(DSL.inline(0.0));
        Field<Double> hours = DSL.greatest(
                DSL.inline(0.0),
                DSL.field("extract(epoch from ({0} - {1})) / 3600.0", Double.class, DSL.val(now), QUEUE_ENTRY.SINCE));
        return steps.mul(weighted.priority()).plus(plan.mul(weighted.plan())).plus(hours.mul(weighted.hour()));
    }

    /** What the ticket itself needs, and then what its queue asks of all tickets. */
    private List<NeedLine> lines(Long[] needs, String[] whys, Long[] ofQueue) {
        Map<SkillId, String> names = new HashMap<>();
        skills.all().forEach(skill -> names.put(skill.id(), skill.name()));
        Map<SkillId, String> because = new LinkedHashMap<>();
        for (int i = 0; i < Math.min(needs.length, whys.length); i++) {
            because.put(new SkillId(needs[i]), whys[i]);
        }
        for (Long skill : ofQueue) {
            because.putIfAbsent(new SkillId(skill), "for its queue");
        }
        return because.entrySet().stream()
                .filter(one -> names.containsKey(one.getKey()))
                .map(one -> new NeedLine(names.getOrDefault(one.getKey(), ""), one.getValue()))
                .toList();
    }
}
