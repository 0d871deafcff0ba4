package rafter.app.promises.targets;

import java.time.Instant;
import java.time.ZoneId;
import java.util.Comparator;
import java.util.List;
import java.util.Optional;
import rafter.app.platform.Say;
import rafter.core.target.ClockState;
import rafter.core.target.Objective;
import rafter.core.target.Reckoning;
import rafter.core.target.TargetClock;
import rafter.core.ticket.Turn;

/**
 * A clock as a list shows it.
 *
 * @param objective its kind, as a style names it
 * @param tone how pressing it is, as a style names it
 * @param headline "13 m left", "16 m over"
 * @param line "first reply by 10:34", "paused, customer to answer"
 * @param exact the due instant with its zone; empty when unknown
 * @param due the due instant, if it is known
 * @param usedOfTwenty how much of the time is used, in twentieths
 */
public record ClockView(
        String objective,
        String tone,
        String headline,
        String line,
        String exact,
        Rail rail,
        Optional<Instant> due,
        int usedOfTwenty) {

    /** The clock that matters most now: the one that falls due first, else the held one with the least time left. */
    public static Optional<ClockView> mostPressing(List<TargetClock> clocks, Turn turn, Instant now, ZoneId zone) {
        return Reckoning.nextDue(clocks)
                .or(() -> clocks.stream().filter(TargetClock::live).min(Comparator.comparing(TargetClock::left)))
                .map(clock -> of(clock, turn, now, zone));
    }

    /** One clock as a list shows it. */
    public static ClockView of(TargetClock clock, Turn turn, Instant now, ZoneId zone) {
        String exact = clock.dueMark().map(due -> Say.exactly(due, zone)).orElse("");
        return new ClockView(
                css(clock.objective()),
                Tone.of(clock).css(),
                headline(clock),
                line(clock, turn, now, zone),
                exact,
                Rail.of(clock),
                clock.dueMark(),
                (int) Math.min(
                        20,
                        clock.used().toMillis()
                                * 20
                                / Math.max(1, clock.allowed().toMillis())));
    }

    /** An objective as a style names it. */
    public static String css(Objective objective) {
        return objective.name().toLowerCase(java.util.Locale.ROOT).replace('_', '-');
    }

    /** How much is left or over, or how it ended. */
    public static String headline(TargetClock clock) {
        return switch (clock.state()) {
            case ClockState.Met met ->
                (clock.late() ? "met late, " : "met, ") + Say.worked(clock.used()) + " of "
                        + Say.worked(clock.allowed());
            case ClockState.Lifted lifted -> "no longer applies";
            case ClockState.Joined joined -> "joined";
            case ClockState.Void nothing -> "out of all figures";
            case ClockState.Held held when clock.late() -> Say.worked(clock.left()) + " over, paused";
            case ClockState.Held held -> Say.worked(held.left()) + " left";
            case ClockState.Running r when r.due().isEmpty() -> "never due";
            case ClockState.Running r -> Say.worked(clock.left()) + (clock.late() ? " over" : " left");
        };
    }

    private static String line(TargetClock clock, Turn turn, Instant now, ZoneId zone) {
        String what = clock.objective().words();
        return switch (clock.state()) {
            case ClockState.Held held -> "paused, " + waitsFor(turn);
            case ClockState.Running r ->
                r.due()
                        .map(due -> what + (clock.late() ? " was due " : " by ") + Say.when(due, now, zone))
                        .orElse(what + ": no opening ahead");
            case ClockState.Met met -> what + " " + Say.when(met.at(), now, zone);
            case ClockState.Lifted lifted -> what;
            case ClockState.Joined joined -> what;
            case ClockState.Void nothing -> what;
        };
    }

    private static String waitsFor(Turn turn) {
        return switch (turn) {
            case CUSTOMER -> "customer to answer";
            case PARTNER -> "partner to answer";
            case NOBODY -> "nobody's turn";
            case OURS -> "our turn";
        };
    }
}
