package rafter.app.handout.queues;

import static rafter.database.Tables.QUEUE_ENTRY;
import static rafter.database.Tables.REBALANCING;
import static rafter.database.Tables.TICKET;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.handout.people.Skills;
import rafter.app.handout.people.Workforce;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Audit;
import rafter.app.platform.Problem;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.routing.HandOut;
import rafter.core.routing.Need;
import rafter.core.routing.Queue;
import rafter.core.routing.Rebalance;
import rafter.core.routing.Skill;
import rafter.core.routing.Waiting;
import rafter.core.routing.Worker;
import rafter.core.text.Words;
import tools.jackson.databind.json.JsonMapper;

/** Proposes to hand everything out anew, puts what is wanted of that into force as one, and takes it back as one. */
@Component
public class Rebalancing {

    static final int MOST = 10_000;
    private static final JsonMapper JSON = JsonMapper.builder().build();

    /** A ticket that changes hands; {@code from} is zero when nobody had it. */
    public record Moved(long ticket, long from, long to) {}

    /** What came of it. */
    public record Done(long id, int moved, List<String> refused) {}

    private final DSLContext sql;
    private final Queues queues;
    private final Places places;
    private final Skills skills;
    private final Workforce workforce;
    private final HandingOut handing;
    private final Audit audit;
    private final Clock clock;

    Rebalancing(
            DSLContext sql,
            Queues queues,
            Places places,
            Skills skills,
            Workforce workforce,
            HandingOut handing,
            Audit audit,
            Clock clock) {
        this.sql = sql;
        this.queues = queues;
        this.places = places;
        this.skills = skills;
        this.workforce = workforce;
        this.handing = handing;
        this.audit = audit;
        this.clock = clock;
    }

    /** What is proposed; nothing is changed. */
    @Transactional(readOnly = true)
    public Rebalance.Plan propose(Viewer lead) {
        Access.require(lead, Right.HAND_OVER_ANY);
        List<Worker> people = workforce.workers();
        Instant now = clock.instant();
        return Rebalance.plan(items(people, lead, now), people, now);
    }

    private List<Rebalance.Item> items(List<Worker> people, Viewer lead, Instant now) {
        var items = new ArrayList<Rebalance.Item>();
        Map<QueueId, List<Waiting>> waiting = places.waiting(lead.sees(QUEUE_ENTRY.TICKET));
        for (Queue queue : queues.all()) {
            HandOut.Free free = HandOut.among(people, queue);
            waiting.getOrDefault(queue.id(), List.of())
                    .forEach(ticket -> items.add(new Rebalance.Item(
                            ticket,
                            Optional.empty(),
                            queue.pool(ticket, teams -> free.of(ticket, teams), now),
                            queue.needs(ticket))));
        }
        Map<PersonId, Set<TeamId>> teams = new HashMap<>();
        people.forEach(one -> teams.put(one.id(), one.teams()));
        List<Skill> catalogue = skills.all();
        places.owned(lead.sees(TICKET.NUMBER)).forEach(one -> items.add(item(one, teams, catalogue)));
        return items.subList(0, Math.min(items.size(), MOST));
    }

    /** What somebody has can go to people of its team, and of the teams of who has it. */
    private static Rebalance.Item item(Places.Owned one, Map<PersonId, Set<TeamId>> teams, List<Skill> catalogue) {
        var pool = new HashSet<>(teams.getOrDefault(one.owner(), Set.of()));
        one.team().ifPresent(pool::add);
        Set<SkillId> needs =
                Need.of(catalogue, one.waiting().topic(), Words.of(one.subject()), Set.of(), Set.of()).stream()
                        .map(need -> need.skill().id())
                        .collect(Collectors.toSet());
        return new Rebalance.Item(one.waiting(), Optional.of(one.owner()), pool, needs);
    }

    /**
     * Hands over what is wanted, each ticket by itself; what somebody changed since it was proposed stays, and is told. What is wanted is written
     * down before, so that it can be taken back whatever happens on the way.
     */
    public Done apply(List<Moved> wanted, Viewer lead) {
        Access.require(lead, Right.HAND_OVER_ANY);
        if (wanted.isEmpty()) {
            throw new Problem.Invalid("Tick at least one ticket that is to change hands. Nothing was changed.");
        }
        List<Moved> all = wanted.subList(0, Math.min(MOST, wanted.size()));
        long id = sql.insertInto(REBALANCING)
                .set(REBALANCING.AT, clock.instant())
                .set(REBALANCING.PERSON_ID, lead.id())
                .set(REBALANCING.MOVES, JSONB.valueOf(JSON.writeValueAsString(all)))
                .returning(REBALANCING.ID)
                .fetchSingle(REBALANCING.ID);
        var refused = new ArrayList<String>();
        int moved = 0;
        for (Moved one : all) {
            moved += move(one.ticket(), one.from(), one.to(), lead, refused) ? 1 : 0;
        }
        audit.note(lead.id(), "handed out anew", moved + " tickets");
        return new Done(id, moved, refused);
    }

    private boolean move(long ticket, long from, long to, Viewer lead, List<String> refused) {
        try {
            handing.move(new TicketNumber(ticket), person(from), person(to), lead);
            return true;
        } catch (Problem e) {
            refused.add(ticket + ": " + e.words());
            return false;
        }
    }

    private static Optional<PersonId> person(long id) {
        return id == 0 ? Optional.empty() : Optional.of(new PersonId(id));
    }

    /**
     * Takes one back: every ticket that is still where it was put goes back to who had it.
     *
     * @throws Problem.Stale when it was taken back already
     */
    public Done undo(long id, Viewer lead) {
        Access.require(lead, Right.HAND_OVER_ANY);
        String moves = sql.update(REBALANCING)
                .set(REBALANCING.UNDONE_AT, clock.instant())
                .where(REBALANCING.ID.eq(id))
                .and(REBALANCING.UNDONE_AT.isNull())
                .returning(REBALANCING.MOVES)
                .fetchOptional(REBALANCING.MOVES)
                .map(JSONB::data)
                .orElseThrow(() -> new Problem.Stale("That was taken back already. Nothing was changed."));
        var refused = new ArrayList<String>();
        int back = 0;
        for (Moved one : JSON.readValue(moves, Moved[].class)) {
            back += move(one.ticket(), one.to(), one.from(), lead, refused) ? 1 : 0;
        }
        audit.note(lead.id(), "took back a hand-out", back + " tickets");
        return new Done(id, back, refused);
    }
}
