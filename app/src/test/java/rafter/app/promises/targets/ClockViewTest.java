package rafter.app.promises.targets;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import rafter.core.target.ClockOutline;
import rafter.core.target.Objective;
import rafter.core.ticket.Turn;

/** How a clock reads in a list. */
class ClockViewTest {

    private static final Instant NOW = Instant.parse("2027-03-01T10:00:00Z");
    private static final Instant PAST = Instant.parse("2027-03-01T09:00:00Z");
    private static final Instant AHEAD = Instant.parse("2027-03-01T12:30:00Z");

    private static ClockView clock(boolean running, Optional<Instant> due, int usedMinutes, boolean late, Turn turn) {
        Duration used = Duration.ofMinutes(usedMinutes);
        var outline = new ClockOutline(
                Objective.FIRST_REPLY,
                "everybody",
                NOW,
                running,
                due,
                Optional.empty(),
                used,
                Duration.ofHours(4),
                late,
                List.of(new ClockOutline.Part(true, used)));
        return ClockView.of(outline, turn, NOW, ZoneOffset.UTC);
    }

    @Test
    void what_runs_says_how_much_is_left_and_by_when() {
        ClockView view = clock(true, Optional.of(AHEAD), 90, false, Turn.OURS);
        assertThat(view.headline()).isEqualTo("2 h 30 left");
        assertThat(view.line()).isEqualTo("first reply by 12:30");
        assertThat(view.usedOfTwenty()).isEqualTo(7);
    }

    @Test
    void what_is_late_says_by_how_much() {
        ClockView view = clock(true, Optional.of(PAST), 300, true, Turn.OURS);
        assertThat(view.headline()).isEqualTo("1 h over");
        assertThat(view.line()).isEqualTo("first reply was due 09:00");
        assertThat(view.usedOfTwenty()).isEqualTo(20);
    }

    @Test
    void what_became_late_under_an_earlier_promise_is_late_and_not_over_by_what_is_left() {
        assertThat(clock(true, Optional.of(PAST), 35, true, Turn.OURS).headline())
                .isEqualTo("late");
        assertThat(clock(false, Optional.of(PAST), 35, true, Turn.CUSTOMER).headline())
                .isEqualTo("late, paused");
    }

    @Test
    void what_is_held_says_for_whom_it_waits() {
        ClockView view = clock(false, Optional.empty(), 60, false, Turn.PARTNER);
        assertThat(view.headline()).isEqualTo("3 h left");
        assertThat(view.line()).isEqualTo("paused, partner to answer");
        assertThat(clock(false, Optional.of(PAST), 270, true, Turn.CUSTOMER).headline())
                .isEqualTo("30 m over, paused");
    }

    @Test
    void what_has_no_opening_ahead_is_never_due() {
        ClockView view = clock(true, Optional.empty(), 10, false, Turn.OURS);
        assertThat(view.headline()).isEqualTo("never due");
        assertThat(view.line()).isEqualTo("first reply: no opening ahead");
        assertThat(view.exact()).isEmpty();
    }
}
