package rafter.core.rule;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import rafter.core.time.Amount;
import rafter.core.time.WorkingTime;

/** When a rule is read. */
public sealed interface Occasion {

    /** A ticket is created. */
    record Arrival() implements Occasion {}

    /**
     * Something happens to a ticket that there is.
     *
     * @param of what of
     * @param about the tag, or the key of the own field, that must be meant where one is meant; blank: any
     */
    record Change(Set<Happening> of, String about) implements Occasion {
        public Change {
            of = Set.copyOf(of);
        }
    }

    /**
     * Time has gone by.
     *
     * @param span how long after the moment, or before one that lies ahead
     * @param working whether the time counts that we are open, not that on the wall
     * @param times so often at most from one moment
     * @param again how long after one time the next is
     */
    record Clock(Moment moment, Duration span, boolean working, int times, Duration again) implements Occasion {

        /** More often than this, nobody is reminded. */
        public static final int MOST_TIMES = 20;
        /** Amounts from this on are more than a timer keeps. */
        public static final Duration FURTHEST = Duration.ofDays(366);

        /**
         * The instants at which it fires, counted from one moment; what lies beyond all opening hours is left out.
         *
         * @param hours when we are open
         */
        public List<Instant> instants(Instant from, WorkingTime hours) {
            var all = new ArrayList<Instant>();
            Optional<Instant> at = moment.ahead() ? before(from, hours) : after(from, span, hours);
            for (int i = 0; i < times && at.isPresent(); i++) {
                all.add(at.get());
                at = after(at.get(), again, hours);
            }
            return all;
        }

        private Optional<Instant> after(Instant from, Duration amount, WorkingTime hours) {
            return working ? hours.add(from, amount) : Optional.of(from.plus(amount));
        }

        /** The latest instant from which so much is left until then. */
        private Optional<Instant> before(Instant to, WorkingTime hours) {
            if (!working) {
                return Optional.of(to.minus(span));
            }
            WorkingTime.Reader reader = hours.reader();
            return reader.when(reader.at(to) - span.toNanos());
        }
    }

    /** What is wrong with it, in words. */
    default List<String> faults() {
        return switch (this) {
            case Arrival arrival -> List.of();
            case Change change ->
                change.of().isEmpty() ? List.of("Choose what must happen for it to be read.") : List.of();
            case Clock clock -> clockFaults(clock);
        };
    }

    private static List<String> clockFaults(Clock clock) {
        var faults = new ArrayList<String>();
        if (clock.span().isNegative()
                || (clock.span().isZero() && !clock.moment().ahead())) {
            faults.add("Say after how much time it is read, such as 4 h.");
        }
        if (clock.span().compareTo(Clock.FURTHEST) > 0 || clock.again().compareTo(Clock.FURTHEST) > 0) {
            faults.add("It waits a year at most.");
        }
        if (clock.times() < 1 || clock.times() > Clock.MOST_TIMES) {
            faults.add("It fires from once to " + Clock.MOST_TIMES + " times.");
        }
        if (clock.times() > 1 && !clock.again().isPositive()) {
            faults.add("Say how long it waits before it fires again.");
        }
        return faults;
    }

    /** As a sentence begins with it: “On arrival”, “When the customer writes”, “4 h since the customer last wrote”. */
    default String words() {
        return switch (this) {
            case Arrival arrival -> "On arrival";
            case Change(Set<Happening> of, String about) ->
                "When "
                        + of.stream().sorted().map(Happening::words).collect(Collectors.joining(" or "))
                        + (about.isBlank() ? "" : " (" + about + ")");
            case Clock clock ->
                Amount.written(clock.span())
                        + (clock.working() ? " of opening hours " : " ")
                        + clock.moment().words()
                        + (clock.times() == 1
                                ? ""
                                : ", " + clock.times() + " times, every " + Amount.written(clock.again()));
        };
    }
}
