package rafter.app.handout.queues;

import static rafter.database.Tables.QUEUE;

import java.time.Clock;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.jooq.JSONB;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.handout.people.HandoutChanged;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Audit;
import rafter.app.platform.BrieflyCached;
import rafter.app.platform.Guard;
import rafter.app.platform.LiveNews;
import rafter.app.platform.Problem;
import rafter.core.criteria.CriteriaJson;
import rafter.core.id.PersonId;
import rafter.core.id.QueueId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;
import rafter.core.order.Ordered;
import rafter.core.routing.Handing;
import rafter.core.routing.Ordering;
import rafter.core.routing.Overflow;
import rafter.core.routing.Queue;
import rafter.database.tables.records.QueueRecord;
import tools.jackson.databind.json.JsonMapper;

/** The queues, in the order in which they are looked through. */
@Component
public class Queues {

    /** Whether somebody opened or closed an overflow by hand. */
    public enum ByHand {
        STEPS(""),
        OPEN("OPEN"),
        CLOSED("CLOSED");

        private final String kept;

        ByHand(String kept) {
            this.kept = kept;
        }
    }

    /** A queue as it is kept; {@code version} rises with every change. */
    public record Kept(Queue queue, int version, ByHand overflow) {
        Queue inForce() {
            return switch (overflow) {
                case STEPS -> queue;
                case OPEN -> queue.opened();
                case CLOSED -> queue.closed();
            };
        }
    }

    /** A step of an overflow as it is kept. */
    private record Step(String when, long minutes, List<Long> teams) {

        static Step of(Overflow step) {
            List<Long> teams = step.teams().stream().map(TeamId::value).sorted().toList();
            return switch (step.when()) {
                case Overflow.When.Waited(Duration time) -> new Step("waited", time.toMinutes(), teams);
                case Overflow.When.NobodyFree nobody -> new Step("nobody-free", 0, teams);
                case Overflow.When.DueWithin(Duration time) -> new Step("due-within", time.toMinutes(), teams);
            };
        }

        Overflow step() {
            Overflow.When said = switch (when) {
                case "waited" -> new Overflow.When.Waited(Duration.ofMinutes(minutes));
                case "due-within" -> new Overflow.When.DueWithin(Duration.ofMinutes(minutes));
                default -> new Overflow.When.NobodyFree();
            };
            return new Overflow(said, teams.stream().map(TeamId::new).collect(Collectors.toSet()));
        }
    }

    private static final JsonMapper JSON = JsonMapper.builder().build();

    private final DSLContext sql;
    private final Audit audit;
    private final Guard guard;
    private final ApplicationEventPublisher events;
    private final LiveNews news;
    private final Flow flow;
    private final Offers offers;
    private final Clock clock;
    private final BrieflyCached<List<Kept>> current = new BrieflyCached<>(Duration.ofSeconds(1), this::read);

    Queues(
            DSLContext sql,
            Audit audit,
            Guard guard,
            LiveNews news,
            Flow flow,
            Offers offers,
            Clock clock,
            ApplicationEventPublisher events) {
        this.news = news;
        this.flow = flow;
        this.offers = offers;
        this.clock = clock;
        this.events = events;
        this.sql = sql;
        this.audit = audit;
        this.guard = guard;
    }

    /** All queues, in their order, with their overflow as it was opened or closed by hand; a change of another node's is seen within a second. */
    public List<Queue> all() {
        return current.get().stream().map(Kept::inForce).toList();
    }

    /** All queues as they are kept, looked up now. */
    List<Kept> kept() {
        return read();
    }

    /** The one of this id, looked up now. */
    Optional<Kept> find(QueueId id) {
        return read().stream().filter(one -> one.queue().id().equals(id)).findFirst();
    }

    private List<Kept> read() {
        return sql.selectFrom(QUEUE)
                .where(QUEUE.REMOVED_AT.isNull())
                .orderBy(QUEUE.POSITION, QUEUE.ID)
                .fetch(Queues::kept);
    }

    private static Kept kept(QueueRecord r) {
        Step[] steps = JSON.readValue(r.getOverflow().data(), Step[].class);
        return new Kept(
                new Queue(
                        new QueueId(r.getId()),
                        r.getName(),
                        r.getActive(),
                        CriteriaJson.read(r.getCriteria().data()),
                        ordering(r),
                        Arrays.stream(r.getTeams()).map(TeamId::new).collect(Collectors.toSet()),
                        Arrays.stream(r.getSkills()).map(SkillId::new).collect(Collectors.toSet()),
                        Handing.valueOf(r.getWay()),
                        Duration.ofSeconds(r.getAnswerSeconds()),
                        Optional.ofNullable(r.getOwnWaitMinutes()).map(Duration::ofMinutes),
                        Arrays.stream(steps).map(Step::step).toList()),
                r.getVersion(),
                Arrays.stream(ByHand.values())
                        .filter(one -> one.kept.equals(r.getOverflowByHand()))
                        .findFirst()
                        .orElse(ByHand.STEPS));
    }

    private static Ordering ordering(QueueRecord r) {
        return switch (r.getOrdering()) {
            case "OLDEST" -> new Ordering.Oldest();
            case "WEIGHTED" -> new Ordering.Weighted(r.getPoints()[0], r.getPoints()[1], r.getPoints()[2]);
            default -> new Ordering.Due();
        };
    }

    /**
     * Adds one at the end, or changes the one of its id.
     *
     * @throws Problem.Invalid when something is wrong with it
     * @throws Problem.Stale when somebody changed it since
     */
    @Transactional
    public void save(Queue queue, int version, PersonId by) {
        guard.houseRules(by);
        List<String> faults = queue.faults();
        if (!faults.isEmpty()) {
            throw new Problem.Invalid(String.join(" ", faults));
        }
        QueueRecord row = row(queue);
        if (queue.id().none()) {
            row.setPosition(sql.fetchCount(QUEUE) + 1);
            sql.insertInto(QUEUE).set(row).execute();
        } else {
            row.setVersion(version + 1);
            int changed = sql.update(QUEUE)
                    .set(row)
                    .where(QUEUE.ID.eq(queue.id().value()))
                    .and(QUEUE.VERSION.eq(version))
                    .execute();
            if (changed == 0) {
                throw new Problem.Stale(
                        "Somebody changed or removed this queue while you were editing. Nothing of yours was saved; it is still in the form.");
            }
        }
        audit.note(by, "changed a queue", queue.name());
        changed();
    }

    private static QueueRecord row(Queue queue) {
        var row = new QueueRecord();
        row.setName(queue.name());
        row.setActive(queue.on());
        row.setCriteria(JSONB.valueOf(CriteriaJson.write(queue.criteria())));
        switch (queue.order()) {
            case Ordering.Due due -> row.setOrdering("DUE");
            case Ordering.Oldest oldest -> row.setOrdering("OLDEST");
            case Ordering.Weighted(int priority, int plan, int hour) -> {
                row.setOrdering("WEIGHTED");
                row.setPoints(new Integer[] {priority, plan, hour});
            }
        }
        row.setTeams(queue.teams().stream().map(TeamId::value).sorted().toArray(Long[]::new));
        row.setSkills(queue.skills().stream().map(SkillId::value).sorted().toArray(Long[]::new));
        row.setWay(queue.way().name());
        row.setAnswerSeconds((int) queue.answerWithin().toSeconds());
        row.set(
                QUEUE.OWN_WAIT_MINUTES,
                queue.ownFirst().map(time -> (int) time.toMinutes()).orElse(null));
        row.setOverflow(JSONB.valueOf(
                JSON.writeValueAsString(queue.overflow().stream().map(Step::of).toList())));
        return row;
    }

    /** A lead opens or closes the overflow of a queue, or leaves it to its steps again. */
    @Transactional
    public void overflow(QueueId id, ByHand byHand, Viewer lead) {
        Access.require(lead, Right.HAND_OVER_ANY);
        int changed = sql.update(QUEUE)
                .set(QUEUE.OVERFLOW_BY_HAND, byHand.kept)
                .where(QUEUE.ID.eq(id.value()))
                .execute();
        if (changed == 0) {
            throw new Problem.NotFound("There is no such queue any more.");
        }
        audit.note(
                lead.id(),
                "opened or closed an overflow",
                id + ": " + byHand.name().toLowerCase(java.util.Locale.ROOT));
        current.forget();
        news.floorChanged();
    }

    /** Puts one so many places further down; up for less than nothing. */
    @Transactional
    public void move(QueueId id, int by, PersonId person) {
        guard.houseRules(person);
        List<Long> before = read().stream().map(one -> one.queue().id().value()).toList();
        if (!before.contains(id.value())) {
            throw new Problem.NotFound("There is no such queue any more.");
        }
        List<Long> ids = Ordered.moved(before, before.indexOf(id.value()), by);
        for (int i = 0; i < ids.size(); i++) {
            sql.update(QUEUE)
                    .set(QUEUE.POSITION, i + 1)
                    .where(QUEUE.ID.eq(ids.get(i)))
                    .execute();
        }
        audit.note(person, "changed the order of queues", id.toString());
        changed();
    }

    /** Removes one; its tickets go into the next queue that they fit when something happens to them, or at once when looked for anew. */
    @Transactional
    public void remove(QueueId id, PersonId by) {
        guard.houseRules(by);
        Kept gone = find(id).orElseThrow(() -> new Problem.NotFound("There is no such queue any more."));
        sql.update(QUEUE)
                .set(QUEUE.REMOVED_AT, clock.instant())
                .where(QUEUE.ID.eq(id.value()))
                .execute();
        flow.empties(id).forEach(offers::withdraw);
        audit.note(by, "removed a queue", gone.queue().name());
        changed();
    }

    /** Brings one back that was removed, at its place. */
    @Transactional
    public void bringBack(QueueId id, PersonId by) {
        guard.houseRules(by);
        int back = sql.update(QUEUE)
                .setNull(QUEUE.REMOVED_AT)
                .where(QUEUE.ID.eq(id.value()))
                .and(QUEUE.REMOVED_AT.isNotNull())
                .execute();
        if (back == 0) {
            throw new Problem.Stale("That queue is there already. Nothing was changed.");
        }
        audit.note(by, "brought a queue back", id.toString());
        changed();
    }

    private void changed() {
        current.forget();
        events.publishEvent(new HandoutChanged());
    }
}
