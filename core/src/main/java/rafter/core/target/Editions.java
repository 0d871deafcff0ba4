package rafter.core.target;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Matching;
import rafter.core.criteria.Verdict;
import rafter.core.time.WorkCalendar;
import rafter.core.time.WorkingTime;

/** The books of promises that have been in force, each from its instant until the next one's; compiled for reckoning. Immutable. */
public final class Editions {

    /**
     * A book in force.
     *
     * @param from the instant from which it holds
     */
    public record Edition(Instant from, PromiseBook book) {}

    /** A policy with its hours compiled. */
    public record InForce(Policy policy, WorkingTime hours) {}

    /** How a policy answered when a ticket was matched. */
    public record Tried(Policy policy, Verdict verdict) {}

    /** A compiled edition. */
    static final class Compiled {
        private final Instant from;
        private final List<InForce> policies;
        private final Set<KnownField> asked;
        private final Risk risk;

        private Compiled(Edition edition, Map<WorkCalendar, WorkingTime> hours) {
            this.from = edition.from();
            this.risk = edition.book().riskOrUsual();
            var on = new ArrayList<InForce>();
            for (Policy policy : edition.book().policies()) {
                if (policy.on()) {
                    on.add(new InForce(
                            policy, hours.computeIfAbsent(edition.book().calendarOf(policy), WorkingTime::of)));
                }
            }
            this.policies = List.copyOf(on);
            this.asked = EnumSet.noneOf(KnownField.class);
            on.forEach(one -> asked.addAll(KnownField.askedBy(one.policy().criteria())));
        }

        Instant from() {
            return from;
        }

        Risk risk() {
            return risk;
        }

        /**
         * The policy that was put on a ticket, if it is in force; else the first in order that matches. O(p) tests for p policies.
         *
         * @param put the key of the one that was put on it; blank for none
         */
        Optional<InForce> match(Facts facts, String put) {
            if (!put.isEmpty()) {
                for (InForce one : policies) {
                    if (one.policy().id().equals(put)) {
                        return Optional.of(one);
                    }
                }
            }
            for (InForce one : policies) {
                if (Matching.matches(one.policy().criteria(), facts)) {
                    return Optional.of(one);
                }
            }
            return Optional.empty();
        }

        /** Whether any policy asks about any of these fields, so that their change may change which one matches. */
        boolean asksAny(List<KnownField> fields) {
            for (KnownField field : fields) {
                if (asked.contains(field)) {
                    return true;
                }
            }
            return false;
        }
    }

    private final List<Edition> editions;
    private final List<Compiled> compiled;
    private final Set<KnownField> everAsked = EnumSet.noneOf(KnownField.class);

    private Editions(List<Edition> editions) {
        this.editions =
                editions.stream().sorted(Comparator.comparing(Edition::from)).toList();
        // Most editions share their calendars, and compiling one is dear.
        var hours = new HashMap<WorkCalendar, WorkingTime>();
        this.compiled = this.editions.stream()
                .map(edition -> new Compiled(edition, hours))
                .toList();
        compiled.forEach(one -> everAsked.addAll(one.asked));
    }

    /**
     * Compiles what has been in force.
     *
     * @param editions at least one; the first holds for all that was before it too
     */
    public static Editions of(List<Edition> editions) {
        if (editions.isEmpty()) {
            throw new IllegalArgumentException("there is always an edition in force");
        }
        return new Editions(editions);
    }

    /** As if this book had always been in force. */
    public static Editions always(PromiseBook book) {
        return of(List.of(new Edition(Instant.EPOCH, book)));
    }

    /** As if this promise had always been made to every ticket, in these hours. */
    public static Editions always(Promise promise, WorkCalendar calendar) {
        var goals = new EnumMap<Objective, Goal>(Objective.class);
        promise.durations().forEach((objective, within) -> goals.put(objective, Goal.usual(objective, within)));
        var plan = new CalendarPlan(
                "hours",
                calendar.name(),
                Optional.of(calendar.zone()),
                calendar.aroundTheClock(),
                calendar.entries(),
                calendar.holidays().stream().map(set -> set.id()).toList());
        var policy =
                new Policy("all", "Everybody", "", true, Criteria.everything(), Optional.of("hours"), goals, List.of());
        return always(new PromiseBook(calendar.zone(), "hours", List.of(plan), calendar.holidays(), List.of(policy)));
    }

    /** What has been in force, in order. */
    public List<Edition> all() {
        return editions;
    }

    /** The one in force at an instant. */
    public Edition at(Instant instant) {
        return editions.get(index(instant));
    }

    /** The latest one. */
    public Edition latest() {
        return editions.getLast();
    }

    /** The policy that holds for a ticket at an instant, on which none was put. */
    public Optional<InForce> match(Instant at, Facts facts) {
        return compiled.get(index(at)).match(facts, "");
    }

    /** The policy that was put on a ticket, if it is in force at that instant; nothing for a blank key. */
    public Optional<Policy> put(Instant at, String key) {
        return compiled.get(index(at)).policies.stream()
                .map(InForce::policy)
                .filter(policy -> policy.id().equals(key))
                .findFirst();
    }

    /** All policies up to the one that matches, in order, with their answers. */
    public List<Tried> tried(Instant at, Facts facts) {
        var tried = new ArrayList<Tried>();
        for (InForce one : compiled.get(index(at)).policies) {
            Verdict verdict = Matching.explain(one.policy().criteria(), facts);
            tried.add(new Tried(one.policy(), verdict));
            if (verdict.matches()) {
                break;
            }
        }
        return tried;
    }

    /** The hours of a policy as it was in force at an instant; nothing when there was none of this key. */
    public Optional<WorkingTime> hours(Instant at, String policy) {
        return compiled.get(index(at)).policies.stream()
                .filter(one -> one.policy().id().equals(policy))
                .findFirst()
                .map(InForce::hours);
    }

    /** Whether any policy of any edition asks about this field. */
    boolean everAsks(KnownField field) {
        return everAsked.contains(field);
    }

    int index(Instant at) {
        int i = editions.size() - 1;
        while (i > 0 && editions.get(i).from().isAfter(at)) {
            i--;
        }
        return i;
    }

    Compiled compiled(int index) {
        return compiled.get(index);
    }

    int size() {
        return compiled.size();
    }
}
