package rafter.app.handout.queues;

import static rafter.database.Tables.PRESENCE_LOG;
import static rafter.database.Tables.QUEUE_FLOW;
import static rafter.database.Tables.TICKET;

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
import org.jooq.impl.DSL;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.tickets.acts.Tickets;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;
import rafter.core.id.TicketNumber;
import rafter.core.routing.Presence;
import rafter.core.routing.Replay;
import rafter.core.routing.Stint;

/** What is written down of how the floor stood. */
@Component
class Past {

    private static final int MOST_TICKETS = 20_000;
    private static final int AT_ONCE = 1_000;

    private final DSLContext sql;
    private final Flow flow;
    private final Tickets tickets;

    Past(DSLContext sql, Flow flow, Tickets tickets) {
        this.tickets = tickets;
        this.sql = sql;
        this.flow = flow;
    }

    /** The floor from an instant on, every so often. */
    @Transactional(readOnly = true)
    List<Replay.Frame> frames(Instant from, Instant to, Duration step, int many) {
        Map<QueueId, Integer> waiting = new HashMap<>();
        flow.waitedAt(from).forEach((queue, tickets) -> waiting.put(queue, tickets.size()));
        List<Replay.Flowed> flowed = sql.select(QUEUE_FLOW.AT, QUEUE_FLOW.QUEUE_ID, QUEUE_FLOW.CAME)
                .from(QUEUE_FLOW)
                .where(QUEUE_FLOW.AT.gt(from))
                .and(QUEUE_FLOW.AT.le(to))
                .orderBy(QUEUE_FLOW.AT, QUEUE_FLOW.ID)
                .fetch(r -> new Replay.Flowed(r.value1(), new QueueId(r.value2()), r.value3()));
        List<Replay.Went> went = sql.select(PRESENCE_LOG.AT, PRESENCE_LOG.PERSON_ID, PRESENCE_LOG.PRESENCE)
                .from(PRESENCE_LOG)
                .where(PRESENCE_LOG.AT.gt(from))
                .and(PRESENCE_LOG.AT.le(to))
                .orderBy(PRESENCE_LOG.AT, PRESENCE_LOG.ID)
                .fetch(r -> new Replay.Went(r.value1(), r.value2(), r.value3().equals(Presence.HERE.name())));
        return Replay.frames(new Replay.Frame(from, waiting, hereAt(from)), flowed, went, step, many);
    }

    /**
     * What each had to do, from an instant on, every so often: read from the events of all tickets that were open then.
     *
     * @return nothing when there are too many of them to be read while somebody waits
     */
    @Transactional(readOnly = true)
    Optional<List<Map<PersonId, Integer>>> loads(Instant from, Duration step, int many) {
        List<TicketNumber> open = sql.select(TICKET.NUMBER)
                .from(TICKET)
                .where(DSL.condition(TICKET.OPEN).or(TICKET.CHANGED_AT.ge(from)))
                .limit(MOST_TICKETS + 1)
                .fetch(TICKET.NUMBER);
        if (open.size() > MOST_TICKETS) {
            return Optional.empty();
        }
        var stints = new ArrayList<Stint>();
        for (int i = 0; i < open.size(); i += AT_ONCE) {
            tickets.events(open.subList(i, Math.min(open.size(), i + AT_ONCE)))
                    .values()
                    .forEach(events -> stints.addAll(Stint.of(events)));
        }
        return Optional.of(Stint.loads(stints, from, step, many));
    }

    private Set<PersonId> hereAt(Instant at) {
        return new HashSet<>(sql
                .select(PRESENCE_LOG.PERSON_ID, PRESENCE_LOG.PRESENCE)
                .distinctOn(PRESENCE_LOG.PERSON_ID)
                .from(PRESENCE_LOG)
                .where(PRESENCE_LOG.AT.le(at))
                .orderBy(PRESENCE_LOG.PERSON_ID, PRESENCE_LOG.ID.desc())
                .fetch()
                .stream()
                .filter(r -> r.value2().equals(Presence.HERE.name()))
                .map(r -> r.value1())
                .toList());
    }
}
