package rafter.core.telephone;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import java.util.TreeSet;
import rafter.core.id.PersonId;

/**
 * The course of a call. It follows from what was told alone, and neither from the order in which that came nor from how often. From the beginning to
 * the end every moment is one of waiting, of talking and of being held, so that the three add up to its length.
 *
 * @param waited how long until somebody took it, or it ended
 * @param talked how long they spoke with one of us
 * @param held how long they waited while one of us had them
 * @param people who had it, in their order, each time once
 * @param takenAt when the first of them took it
 * @param state as what every moment passes now
 * @param since since when
 * @param message how long they spoke on our machine, if they did
 * @param endedAt nothing while it goes on
 */
public record Course(
        boolean incoming,
        String number,
        String line,
        Instant beganAt,
        Duration waited,
        Duration talked,
        Duration held,
        List<PersonId> people,
        Optional<Instant> takenAt,
        State state,
        Instant since,
        Optional<Duration> message,
        Optional<Instant> endedAt) {

    public Course {
        people = List.copyOf(people);
    }

    /** How a call that is over ended. */
    public enum Outcome {
        /** One of us spoke with them. */
        ANSWERED,
        /** They spoke on our machine. */
        MESSAGE,
        /** They waited for a while and gave up. */
        ABANDONED,
        /** They hung up at once, or nobody took our call. */
        MISSED
    }

    /** Who hangs up within this has not waited. */
    public static final Duration AT_ONCE = Duration.ofSeconds(5);

    /** As what a moment of a call passes. */
    public enum State {
        /** Nobody has it yet. */
        WAITING,
        /** One of us speaks with them. */
        TALKING,
        /** One of us has them, and looks something up. */
        HELD,
        /** It is over. */
        OVER
    }

    /**
     * The course of a call up to an instant. O(n log n).
     *
     * @return nothing as long as nobody has told that it began
     */
    public static Optional<Course> of(Collection<CallEvent> told, Instant now) {
        var inOrder = new TreeSet<>(Comparator.comparing(CallEvent::at).thenComparing(CallEvent::id));
        inOrder.addAll(told);
        return inOrder.stream()
                .filter(CallEvent.Began.class::isInstance)
                .map(CallEvent.Began.class::cast)
                .findFirst()
                .map(began -> new Walk(began).along(inOrder, now));
    }

    /** How it ended; nothing while it goes on. */
    public Optional<Outcome> outcome() {
        return endedAt.map(end -> {
            if (!people.isEmpty()) {
                return Outcome.ANSWERED;
            }
            if (message.isPresent()) {
                return Outcome.MESSAGE;
            }
            return incoming && waited.compareTo(AT_ONCE) > 0 ? Outcome.ABANDONED : Outcome.MISSED;
        });
    }

    /** One walk along what happened. */
    private static final class Walk {
        private final CallEvent.Began began;
        private final List<PersonId> people = new ArrayList<>();
        private Duration waited = Duration.ZERO;
        private Duration talked = Duration.ZERO;
        private Duration held = Duration.ZERO;
        private Optional<Duration> message = Optional.empty();
        private Optional<Instant> ended = Optional.empty();
        private Optional<Instant> takenAt = Optional.empty();
        private State state = State.WAITING;
        private Instant changed;
        private Instant since;

        Walk(CallEvent.Began began) {
            this.began = began;
            this.since = began.at();
            this.changed = began.at();
        }

        Course along(Collection<CallEvent> inOrder, Instant now) {
            // What is told of before the beginning belongs to no moment of the call.
            inOrder.stream().filter(event -> !event.at().isBefore(began.at())).forEach(this::take);
            if (state != State.OVER && now.isAfter(since)) {
                pass(now);
            }
            return new Course(
                    began.incoming(),
                    began.number(),
                    began.line(),
                    began.at(),
                    waited,
                    talked,
                    held,
                    people,
                    takenAt,
                    state,
                    changed,
                    message,
                    ended);
        }

        private void take(CallEvent event) {
            if (state == State.OVER) {
                if (event instanceof CallEvent.Spoken spoken) {
                    message = message.or(() -> Optional.of(spoken.length()));
                }
                return;
            }
            pass(event.at());
            State was = state;
            switch (event) {
                case CallEvent.Began again -> {}
                case CallEvent.Taken taken -> {
                    if (people.isEmpty() || !people.getLast().equals(taken.person())) {
                        people.add(taken.person());
                    }
                    takenAt = takenAt.or(() -> Optional.of(taken.at()));
                    state = State.TALKING;
                }
                case CallEvent.Held held -> state = state == State.TALKING ? State.HELD : state;
                case CallEvent.Resumed resumed -> state = state == State.HELD ? State.TALKING : state;
                case CallEvent.Spoken spoken -> message = message.or(() -> Optional.of(spoken.length()));
                case CallEvent.Ended end -> {
                    ended = Optional.of(end.at());
                    state = State.OVER;
                }
            }
            changed = state == was ? changed : event.at();
        }

        private void pass(Instant until) {
            Duration passed = Duration.between(since, until);
            since = until;
            switch (state) {
                case WAITING -> waited = waited.plus(passed);
                case TALKING -> talked = talked.plus(passed);
                case HELD -> held = held.plus(passed);
                case OVER -> {}
            }
        }
    }
}
