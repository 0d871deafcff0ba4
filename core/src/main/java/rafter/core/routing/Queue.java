package rafter.core.routing;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import rafter.core.criteria.Asking;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Facts;
import rafter.core.criteria.Matching;
import rafter.core.id.QueueId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;

/**
 * Where tickets wait for somebody.
 *
 * @param criteria which tickets
 * @param order in which they come
 * @param teams whose people take them
 * @param skills that each of its tickets needs besides its own
 * @param way how they are handed out
 * @param answerWithin how long somebody who is asked has to take one
 * @param ownFirst how long a ticket waits for who looks after the customer, or answered them last, before others come into question; none: they do
 *     not come first; zero: they do while they can take it
 * @param overflow where it looks further, in order
 */
public record Queue(
        QueueId id,
        String name,
        boolean on,
        Criteria criteria,
        Ordering order,
        Set<TeamId> teams,
        Set<SkillId> skills,
        Handing way,
        Duration answerWithin,
        Optional<Duration> ownFirst,
        List<Overflow> overflow) {

    public static final int LONGEST_NAME = 60;
    public static final int MOST_STEPS = 5;
    public static final Duration SHORTEST = Duration.ofSeconds(10);
    public static final Duration LONGEST = Duration.ofHours(2);
    public static final Duration LONGEST_OWN = Duration.ofDays(3);

    public Queue {
        teams = Set.copyOf(teams);
        skills = Set.copyOf(skills);
        overflow = List.copyOf(overflow);
    }

    /**
     * Where a ticket waits: in the queue that it was put into, if that is on; else in the first that is on and whose criteria match. A ticket
     * is in one queue at most.
     *
     * @param asking at what time
     * @param put the queue that it was put into
     */
    public static Optional<Queue> of(List<Queue> queues, Facts ticket, Asking asking, Optional<QueueId> put) {
        return put.flatMap(id -> queues.stream()
                        .filter(queue -> queue.on && queue.id.equals(id))
                        .findFirst())
                .or(() -> queues.stream()
                        .filter(queue -> queue.on && Matching.matches(asking.resolve(queue.criteria), ticket))
                        .findFirst());
    }

    /**
     * The teams whose people can take a ticket now: its own, and further ones as far as its steps go. A step is looked at only when the one
     * before it was taken, so that pools only widen.
     *
     * @param free whether somebody can take it of whom one of these teams is
     */
    public Set<TeamId> pool(Waiting ticket, Predicate<Collection<TeamId>> free, Instant now) {
        var pool = new HashSet<>(teams);
        for (Overflow step : overflow) {
            if (!step.taken(ticket, free.test(pool), now)) {
                break;
            }
            pool.addAll(step.teams());
        }
        return pool;
    }

    /** The same, with all its steps taken for every ticket. */
    public Queue opened() {
        var all = new HashSet<>(teams);
        overflow.forEach(step -> all.addAll(step.teams()));
        return with(all, List.of());
    }

    /** The same, which looks no further than its own teams. */
    public Queue closed() {
        return with(teams, List.of());
    }

    private Queue with(Set<TeamId> whose, List<Overflow> steps) {
        return new Queue(id, name, on, criteria, order, whose, skills, way, answerWithin, ownFirst, steps);
    }

    /** All that a ticket of it needs. */
    public Set<SkillId> needs(Waiting ticket) {
        var needs = new HashSet<>(skills);
        ticket.needs().forEach(need -> needs.add(need.skill().id()));
        return needs;
    }

    /** What keeps it from being used, in words. */
    public List<String> faults() {
        var faults = new ArrayList<String>();
        if (name.isBlank() || name.length() > LONGEST_NAME) {
            faults.add("A queue needs a name of at most " + LONGEST_NAME + " letters.");
        }
        faults.addAll(Criteria.faults(criteria));
        if (on && teams.isEmpty()) {
            faults.add("Say whose people take its tickets.");
        }
        if (answerWithin.compareTo(SHORTEST) < 0 || answerWithin.compareTo(LONGEST) > 0) {
            faults.add("Who is asked has 10 seconds to 2 hours to answer.");
        }
        if (ownFirst.filter(own -> own.isNegative() || own.compareTo(LONGEST_OWN) > 0)
                .isPresent()) {
            faults.add("A ticket waits for who knows the customer at most three days.");
        }
        if (overflow.size() > MOST_STEPS) {
            faults.add("A queue looks further in at most " + MOST_STEPS + " steps.");
        }
        var known = new HashSet<>(teams);
        for (Overflow step : overflow) {
            if (step.teams().isEmpty()) {
                faults.add("A step of the overflow names no team.");
            } else if (!known.addAll(step.teams())) {
                faults.add(
                        "A step of the overflow names only teams that are there already, so it would lead nowhere new.");
            }
        }
        return faults;
    }
}
