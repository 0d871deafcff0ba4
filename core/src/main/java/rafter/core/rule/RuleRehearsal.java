package rafter.core.rule;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import rafter.core.id.TicketNumber;

/**
 * Adds up what came of reading a book in force and a changed one for recorded tickets. Takes them one by one and keeps only sums and the
 * first differences, so its memory does not grow with their number. Not safe for several threads; {@link #add} joins the sums of several.
 */
public final class RuleRehearsal {

    /** So many differences are kept by ticket. */
    private static final int MOST_CHANGED = 300;

    private static final Duration WEEK = Duration.ofDays(7);

    /** What of a rule: how often it matched in the book in force, in the changed one, and what differs; by weeks from the first. */
    public record Tally(
            long now, long then, long more, long less, Map<Integer, Long> weeksNow, Map<Integer, Long> weeksThen) {
        /** Of a rule that matched nothing. */
        public static final Tally NONE = new Tally(0, 0, 0, 0, Map.of(), Map.of());

        Tally with(boolean inNow, boolean inThen, int week) {
            return new Tally(
                    now + (inNow ? 1 : 0),
                    then + (inThen ? 1 : 0),
                    more + (inThen && !inNow ? 1 : 0),
                    less + (inNow && !inThen ? 1 : 0),
                    inNow ? plus(weeksNow, Map.of(week, 1L)) : weeksNow,
                    inThen ? plus(weeksThen, Map.of(week, 1L)) : weeksThen);
        }

        /** Both together. */
        public Tally plus(Tally o) {
            return new Tally(
                    now + o.now,
                    then + o.then,
                    more + o.more,
                    less + o.less,
                    plus(weeksNow, o.weeksNow),
                    plus(weeksThen, o.weeksThen));
        }

        private static Map<Integer, Long> plus(Map<Integer, Long> one, Map<Integer, Long> other) {
            var sum = new TreeMap<>(one);
            other.forEach((week, many) -> sum.merge(week, many, Long::sum));
            return sum;
        }
    }

    /** A ticket that a rule would treat otherwise; {@code more} when it would take it, and does not. */
    public record Changed(TicketNumber ticket, Instant at, String rule, boolean more) {}

    /**
     * What came of it.
     *
     * @param byRule by the id of the rule
     * @param takenBy of rules that were not reached though they match: by which rule, how often; in the changed book
     * @param changed the first differences
     * @param differing how many tickets any rule would treat otherwise
     */
    public record Result(
            long tickets,
            Map<String, Tally> byRule,
            Map<String, Map<String, Long>> takenBy,
            List<Changed> changed,
            long differing) {}

    private final Instant from;
    private final Map<String, Tally> byRule = new TreeMap<>();
    private final Map<String, Map<String, Long>> takenBy = new TreeMap<>();
    private final List<Changed> changed = new ArrayList<>();
    private long tickets;
    private long differing;

    /** @param from the beginning of the period; weeks are counted from it */
    public RuleRehearsal(Instant from) {
        this.from = from;
    }

    /** One more ticket is looked at; then {@link #take} for each reading of it. */
    public void ticket(boolean differs) {
        tickets++;
        differing += differs ? 1 : 0;
    }

    /**
     * Takes one reading of a ticket.
     *
     * @param now the rules that match in the book in force, and {@code then} in the changed one
     * @param taken of the changed book, rules that were not reached with those that took the ticket
     * @return whether they differ
     */
    public boolean take(TicketNumber ticket, Instant at, Set<String> now, Set<String> then, Map<String, String> taken) {
        int week = (int) Math.max(0, Duration.between(from, at).dividedBy(WEEK));
        var all = new HashSet<>(now);
        all.addAll(then);
        boolean differs = false;
        for (String rule : all) {
            boolean inNow = now.contains(rule);
            boolean inThen = then.contains(rule);
            byRule.merge(rule, Tally.NONE.with(inNow, inThen, week), Tally::plus);
            if (inNow != inThen) {
                differs = true;
                if (changed.size() < MOST_CHANGED) {
                    changed.add(new Changed(ticket, at, rule, inThen));
                }
            }
        }
        taken.forEach((rule, by) ->
                takenBy.computeIfAbsent(rule, id -> new TreeMap<>()).merge(by, 1L, Long::sum));
        return differs;
    }

    /** Adds the sums of another part of the same rehearsal. */
    public void add(RuleRehearsal other) {
        other.byRule.forEach((rule, tally) -> byRule.merge(rule, tally, Tally::plus));
        other.takenBy.forEach((rule, by) -> by.forEach((taker, many) ->
                takenBy.computeIfAbsent(rule, id -> new TreeMap<>()).merge(taker, many, Long::sum)));
        tickets += other.tickets;
        differing += other.differing;
        changed.addAll(other.changed);
        changed.sort(Comparator.comparing(Changed::at).reversed().thenComparing(Changed::ticket));
        if (changed.size() > MOST_CHANGED) {
            changed.subList(MOST_CHANGED, changed.size()).clear();
        }
    }

    public Result result() {
        return new Result(tickets, new TreeMap<>(byRule), new TreeMap<>(takenBy), List.copyOf(changed), differing);
    }
}
