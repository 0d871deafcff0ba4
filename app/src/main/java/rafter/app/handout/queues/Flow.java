package rafter.app.handout.queues;

import static rafter.database.Tables.QUEUE_ENTRY;
import static rafter.database.Tables.QUEUE_FLOW;

import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.impl.DSL;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.platform.DueWork;
import rafter.app.platform.LiveNews;
import rafter.core.id.QueueId;
import rafter.core.id.TicketNumber;

/** What came into queues and left them; kept for as long as the floor can be looked back at. */
@Component
class Flow {

    static final Duration KEPT = Duration.ofDays(90);
    /** A line of an hour is drawn in so many parts. */
    static final int PARTS = 12;

    private static final Duration HOUR = Duration.ofHours(1);

    /** Lets go of what is older. */
    @Configuration(proxyBeanMethods = false)
    static class Timer {
        @Bean
        RecurringTask<Void> forgetFlow(Flow flow) {
            return DueWork.inParts("forget-flow", Duration.ofHours(6), Integer.MAX_VALUE, flow::forget);
        }
    }

    /**
     * How a queue flowed in the last hour, the oldest part first.
     *
     * @param in how many came in each part, and {@code out} how many left
     */
    public record OfHour(int[] in, int[] out) {
        static OfHour none() {
            return new OfHour(new int[PARTS], new int[PARTS]);
        }
    }

    private final DSLContext sql;
    private final LiveNews news;
    private final Clock clock;

    Flow(DSLContext sql, LiveNews news, Clock clock) {
        this.sql = sql;
        this.news = news;
        this.clock = clock;
    }

    /** In which queue a ticket waits. */
    private Optional<QueueId> at(TicketNumber ticket) {
        return sql.select(QUEUE_ENTRY.QUEUE_ID)
                .from(QUEUE_ENTRY)
                .where(QUEUE_ENTRY.TICKET.eq(ticket))
                .fetchOptional(QUEUE_ENTRY.QUEUE_ID)
                .map(QueueId::new);
    }

    /** A ticket is about to wait in a queue; whether it waited in another one, or in none, before. */
    @Transactional(propagation = Propagation.MANDATORY)
    boolean comes(TicketNumber ticket, QueueId into) {
        Optional<QueueId> was = at(ticket);
        if (was.equals(Optional.of(into))) {
            return false;
        }
        was.ifPresent(from -> note(ticket, from, false));
        note(ticket, into, true);
        return true;
    }

    /** A ticket waits nowhere any more; whether it did. */
    @Transactional(propagation = Propagation.MANDATORY)
    boolean leaves(TicketNumber ticket) {
        return !taken(QUEUE_ENTRY.TICKET.eq(ticket)).isEmpty();
    }

    /** Nothing waits in a queue any more; what did. */
    @Transactional(propagation = Propagation.MANDATORY)
    List<TicketNumber> empties(QueueId queue) {
        return taken(QUEUE_ENTRY.QUEUE_ID.eq(queue.value()));
    }

    private List<TicketNumber> taken(Condition which) {
        var gone = sql.deleteFrom(QUEUE_ENTRY)
                .where(which)
                .returning(QUEUE_ENTRY.TICKET, QUEUE_ENTRY.QUEUE_ID)
                .fetch();
        gone.forEach(r -> note(r.getTicket(), new QueueId(r.getQueueId()), false));
        return gone.getValues(QUEUE_ENTRY.TICKET);
    }

    private void note(TicketNumber ticket, QueueId queue, boolean came) {
        sql.insertInto(QUEUE_FLOW)
                .set(QUEUE_FLOW.AT, clock.instant())
                .set(QUEUE_FLOW.QUEUE_ID, queue.value())
                .set(QUEUE_FLOW.TICKET, ticket)
                .set(QUEUE_FLOW.CAME, came)
                .execute();
        news.floorChanged();
    }

    /** How each queue flowed in the last hour. */
    Map<QueueId, OfHour> ofHour() {
        Instant now = clock.instant();
        Instant from = now.minus(HOUR);
        long part = HOUR.toMillis() / PARTS;
        var all = new HashMap<QueueId, OfHour>();
        sql.select(QUEUE_FLOW.QUEUE_ID, QUEUE_FLOW.AT, QUEUE_FLOW.CAME)
                .from(QUEUE_FLOW)
                .where(QUEUE_FLOW.AT.gt(from))
                .and(QUEUE_FLOW.AT.le(now))
                .forEach(r -> {
                    int at = (int) Math.min(
                            PARTS - 1L, Duration.between(from, r.value2()).toMillis() / part);
                    OfHour of = all.computeIfAbsent(new QueueId(r.value1()), id -> OfHour.none());
                    (r.value3() ? of.in() : of.out())[at]++;
                });
        return all;
    }

    @Transactional
    int forget() {
        Instant before = clock.instant().minus(KEPT);
        // What still waits since then stays, or the floor could not be looked at as it stands.
        return sql.deleteFrom(QUEUE_FLOW)
                .where(QUEUE_FLOW.AT.lt(before))
                .and(QUEUE_FLOW.TICKET.notIn(DSL.select(QUEUE_ENTRY.TICKET).from(QUEUE_ENTRY)))
                .execute();
    }

    /** The tickets that waited at an instant, by queue. */
    Map<QueueId, List<TicketNumber>> waitedAt(Instant at) {
        var last = sql.select(
                        QUEUE_FLOW.TICKET,
                        QUEUE_FLOW.QUEUE_ID,
                        QUEUE_FLOW.CAME,
                        DSL.rowNumber()
                                .over(DSL.partitionBy(QUEUE_FLOW.TICKET).orderBy(QUEUE_FLOW.ID.desc()))
                                .as("back"))
                .from(QUEUE_FLOW)
                .where(QUEUE_FLOW.AT.le(at))
                .asTable("last");
        return sql.select(last.field(QUEUE_FLOW.QUEUE_ID), last.field(QUEUE_FLOW.TICKET))
                .from(last)
                .where(DSL.field("back", Integer.class).eq(1))
                .and(last.field(QUEUE_FLOW.CAME))
                .orderBy(last.field(QUEUE_FLOW.TICKET))
                .fetchGroups(r -> new QueueId(r.value1()), r -> r.value2());
    }
}
