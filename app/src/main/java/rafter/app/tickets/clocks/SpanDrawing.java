package rafter.app.tickets.clocks;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Optional;
import rafter.app.platform.Say;
import rafter.app.promises.targets.Axis;
import rafter.app.promises.targets.ClockView;
import rafter.app.promises.targets.Terms;
import rafter.app.promises.targets.Tone;
import rafter.core.target.ClockState;
import rafter.core.target.Objective;
import rafter.core.target.Segment;
import rafter.core.target.TargetClock;
import rafter.core.ticket.EventKind;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.Turn;

/**
 * The drawing at the head of a ticket: whose turn it was, the messages and the clocks, all on one time axis.
 *
 * @param turns whose turn it was, from left to right
 * @param marks the messages
 * @param clocks a row for each run of a clock
 * @param days the days that begin within it
 * @param nowX where now stands; nothing once the ticket is over
 * @param height how high it is drawn
 */
public record SpanDrawing(
        List<TurnBar> turns,
        List<Mark> marks,
        List<ClockRow> clocks,
        List<Day> days,
        Optional<Integer> nowX,
        int height) {

    static final int LEFT = 104;
    static final int WIDTH = 1030;
    static final int FIRST_CLOCK = 58;
    static final int ROW = 19;

    /** A stretch in which one side had the turn. */
    public record TurnBar(int x, int width, String turn, String label, String title) {}

    /** A message; {@code kind} is {@code customer}, {@code ours}, {@code note}, {@code automatic} or {@code bounce}. */
    public record Mark(int x, String kind, String title) {}

    /** One run of a clock. */
    public record ClockRow(
            int y,
            String name,
            String objective,
            String tone,
            List<Bar> bars,
            Optional<Integer> dueX,
            String label,
            int labelX,
            String title,
            List<Moved> changes,
            String anchor) {}

    /** Where something changed in mid-course. */
    public record Moved(int x, String title) {}

    /** A part of a clock's row; {@code kind} is {@code used}, {@code held} or {@code rest}. */
    public record Bar(int x, int width, String kind) {}

    /** Where a day begins. */
    public record Day(int x, String name) {}

    public static SpanDrawing of(List<TicketEvent> events, List<TargetClock> clocks, Terms terms, Instant now) {
        Instant from = events.getFirst().at();
        boolean open = Ticket.replay(events).open();
        Instant last = open ? now : events.getLast().at();
        Instant to = clocks.stream()
                .filter(TargetClock::live)
                .flatMap(clock -> clock.dueMark().stream())
                .filter(due -> Duration.between(from, due)
                                .compareTo(Duration.between(from, last)
                                        .multipliedBy(4)
                                        .plusHours(12))
                        < 0)
                .reduce(last, (a, b) -> a.isAfter(b) ? a : b);
        to = to.isAfter(from.plus(Duration.ofMinutes(5))) ? to : from.plus(Duration.ofMinutes(5));
        var axis = new Axis(terms.hours(), from, to, LEFT, WIDTH - 130, 0.08);
        var rows = new ArrayList<ClockRow>();
        for (TargetClock clock : shown(clocks)) {
            rows.add(row(clock, axis, FIRST_CLOCK + ROW * rows.size(), terms, now));
        }
        return new SpanDrawing(
                turns(events, axis, last, terms, now),
                marks(events, axis, terms, now),
                List.copyOf(rows),
                days(axis, from, to, terms),
                open ? Optional.of(axis.x(now)) : Optional.empty(),
                FIRST_CLOCK + ROW * Math.max(1, rows.size()));
    }

    /** Of objectives that begin again and again only the last two runs are drawn; the others are on the page of the reckoning. */
    private static List<TargetClock> shown(List<TargetClock> clocks) {
        var kept = new ArrayList<TargetClock>();
        var runs = new EnumMap<Objective, Integer>(Objective.class);
        for (TargetClock clock : clocks.reversed()) {
            if (runs.merge(clock.objective(), 1, Integer::sum) <= 2) {
                kept.addFirst(clock);
            }
        }
        kept.sort(java.util.Comparator.comparing(TargetClock::objective).thenComparing(TargetClock::started));
        return kept;
    }

    private static List<TurnBar> turns(List<TicketEvent> events, Axis axis, Instant last, Terms terms, Instant now) {
        var bars = new ArrayList<TurnBar>();
        Ticket ticket = Ticket.replay(events.subList(0, 1));
        for (TicketEvent event : events.subList(1, events.size())) {
            Ticket after = ticket.after(event);
            if (after.turn() != ticket.turn()) {
                bars.add(turnBar(axis, ticket.turnSince(), event.at(), ticket.turn(), terms, now));
            }
            ticket = after;
        }
        if (last.isAfter(ticket.turnSince())) {
            bars.add(turnBar(axis, ticket.turnSince(), last, ticket.turn(), terms, now));
        }
        return bars;
    }

    private static TurnBar turnBar(Axis axis, Instant from, Instant to, Turn turn, Terms terms, Instant now) {
        int x = axis.x(from);
        int width = Math.max(2, axis.x(to) - x - 2);
        String words = words(turn);
        String title = words + ", " + Say.when(from, now, terms.zone()) + " to " + Say.when(to, now, terms.zone());
        boolean fits = width > words.length() * 6 + 10;
        return new TurnBar(x, width, turn.name().toLowerCase(java.util.Locale.ROOT), fits ? words : "", title);
    }

    static String words(Turn turn) {
        return switch (turn) {
            case OURS -> "our turn";
            case CUSTOMER -> "customer’s turn";
            case PARTNER -> "partner’s turn";
            case NOBODY -> "nobody’s turn";
        };
    }

    private static List<Mark> marks(List<TicketEvent> events, Axis axis, Terms terms, Instant now) {
        var marks = new ArrayList<Mark>();
        for (TicketEvent event : events) {
            kind(event)
                    .ifPresent(kind -> marks.add(
                            new Mark(axis.x(event.at()), kind, kind + ", " + Say.when(event.at(), now, terms.zone()))));
        }
        return marks;
    }

    private static Optional<String> kind(TicketEvent event) {
        return switch (EventKind.of(event)) {
            case CUSTOMER_WROTE ->
                Optional.of(
                        event instanceof TicketEvent.CustomerWrote(var at, var who, var entry, boolean automatic)
                                        && automatic
                                ? "automatic"
                                : "customer");
            case WE_WROTE ->
                Optional.of(
                        event instanceof TicketEvent.WeWrote(var at, var who, var entry, boolean automatic) && automatic
                                ? "automatic"
                                : "ours");
            case NOTE, PUBLIC_NOTE, WROTE_OUTSIDE, OUTSIDE_WROTE -> Optional.of("note");
            case BOUNCED -> Optional.of("bounce");
            case OPENED,
                    WAY_CHANGED,
                    STATE,
                    PRIORITY,
                    OWNER,
                    TEAM,
                    TOPIC,
                    TAGS,
                    FIELD,
                    LINKED,
                    UNLINKED,
                    CONTINUED,
                    CUSTOMER,
                    JOINED,
                    PARTED,
                    NOTE_TAKEN_BACK,
                    DISCARDED,
                    RESTORED,
                    TIME_AGREED,
                    BRING_BACK,
                    BROUGHT_BACK,
                    CUSTOMER_IS,
                    SPLIT_OFF,
                    SPLIT_BACK,
                    CALL,
                    CALL_DROPPED,
                    MEETING,
                    WATCHED_FOR,
                    AWAITS,
                    SIDE_ASKED,
                    SIDE_ANSWERED,
                    SIDE_DROPPED,
                    POLICY_PUT,
                    QUEUE_PUT,
                    SKILL_PUT,
                    MEETING_OFF,
                    HELP_ASKED,
                    HELP_ENDED,
                    HELP_REOPENED,
                    WATCHED,
                    TASK,
                    TASK_TICKED,
                    TASK_DROPPED,
                    TASKS_ORDERED,
                    TIME_SPENT,
                    TIME_DROPPED,
                    CONCLUDED,
                    PUT_UNDER,
                    RATED -> Optional.empty();
        };
    }

    private static ClockRow row(TargetClock clock, Axis axis, int y, Terms terms, Instant now) {
        int end = axis.x(
                clock.segments().isEmpty()
                        ? clock.started()
                        : clock.segments().getLast().to());
        Optional<Integer> dueX = clock.dueMark().map(axis::x).filter(x -> x <= LEFT + WIDTH);
        List<Bar> bars = bars(clock, axis, end, dueX);
        int labelX = Math.max(end, dueX.orElse(end)) + 10;
        String due = clock.dueMark()
                .map(at -> "due " + Say.exactly(at, terms.zone()))
                .orElse("no due time while paused");
        boolean live = clock.state() instanceof ClockState.Running || clock.state() instanceof ClockState.Held;
        String tone = live || clock.late() ? Tone.of(clock).css() : "calm";
        return new ClockRow(
                y,
                clock.objective().words(),
                ClockView.css(clock.objective()),
                tone,
                bars,
                dueX,
                ClockView.headline(clock),
                labelX,
                due,
                changes(clock, axis, terms, now),
                ClockView.css(clock.objective()) + "-" + clock.started().getEpochSecond());
    }

    private static List<Bar> bars(TargetClock clock, Axis axis, int end, Optional<Integer> dueX) {
        var bars = new ArrayList<Bar>();
        for (Segment segment : clock.segments()) {
            int x = axis.x(segment.from());
            int to = axis.x(segment.to());
            if (to > x) {
                bars.add(new Bar(x, to - x, segment.counts() ? "used" : "held"));
            }
        }
        dueX.filter(x -> x > end).ifPresent(x -> bars.add(new Bar(end, x - end, "rest")));
        return bars;
    }

    private static List<Moved> changes(TargetClock clock, Axis axis, Terms terms, Instant now) {
        return clock.changes().stream()
                .map(c -> new Moved(
                        axis.x(c.at()),
                        Say.when(c.at(), now, terms.zone()) + ": " + c.why().words()
                                + c.allowed()
                                        .map(d -> ", " + Say.worked(d) + " allowed")
                                        .orElse("")))
                .toList();
    }

    private static List<Day> days(Axis axis, Instant from, Instant to, Terms terms) {
        var days = new ArrayList<Day>();
        int lastX = LEFT;
        var day = from.atZone(terms.zone()).toLocalDate().plusDays(1);
        for (int i = 0; i < 400; i++) {
            Instant start = day.atStartOfDay(terms.zone()).toInstant();
            if (!start.isBefore(to)) {
                break;
            }
            int x = axis.x(start);
            if (x - lastX > 44
                    && terms.hours().isOpen(terms.hours().nextOpen(start).orElse(start))) {
                days.add(new Day(
                        x,
                        java.time.format.DateTimeFormatter.ofPattern("EEE d", java.util.Locale.ENGLISH)
                                .format(day)));
                lastX = x;
            }
            day = day.plusDays(1);
        }
        return days;
    }
}
