package rafter.app.promises.targets;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.Optional;
import org.jooq.JSONB;
import org.jspecify.annotations.Nullable;
import rafter.app.platform.Say;
import rafter.core.target.ClockOutline;
import rafter.core.target.ClockState;
import rafter.core.target.Objective;
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

    /**
     * The clock that matters most of a ticket, as a list shows it.
     *
     * @param outline as it was kept with the ticket
     * @param turn whose move it is
     */
    public static Optional<ClockView> of(@Nullable JSONB outline, Turn turn, Instant now, Terms terms) {
        return Outlines.read(outline)
                .map(kept -> kept.at(
                        now, terms.editions().hours(kept.asOf(), kept.policy()).orElse(terms.hours())))
                .map(clock -> of(clock, turn, now, terms.zone()));
    }

    static ClockView of(ClockOutline clock, Turn turn, Instant now, ZoneId zone) {
        return new ClockView(
                css(clock.objective()),
                Tone.of(clock.late(), clock.atRisk()).css(),
                headline(clock.running(), clock.due(), clock.left(), clock.late()),
                line(clock, turn, now, zone),
                clock.due().map(due -> Say.exactly(due, zone)).orElse(""),
                Rail.of(clock.parts(), clock.used(), clock.allowed()),
                clock.due(),
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
            case ClockState.Held held -> headline(false, Optional.empty(), clock.left(), clock.late());
            case ClockState.Running r -> headline(true, r.due(), clock.left(), clock.late());
        };
    }

    private static String headline(boolean running, Optional<Instant> due, Duration left, boolean late) {
        if (running && due.isEmpty()) {
            return "never due";
        }
        return (late ? over(left) : Say.worked(left) + " left") + (late && !running ? ", paused" : "");
    }

    /** By how much it is late; what became late under an earlier promise has time left under that of today, and is late all the same. */
    private static String over(Duration left) {
        return left.isPositive() ? "late" : Say.worked(left) + " over";
    }

    private static String line(ClockOutline clock, Turn turn, Instant now, ZoneId zone) {
        String what = clock.objective().words();
        if (!clock.running()) {
            return "paused, " + waitsFor(turn);
        }
        return clock.due()
                .map(due -> what + (clock.late() ? " was due " : " by ") + Say.when(due, now, zone))
                .orElse(what + ": no opening ahead");
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
