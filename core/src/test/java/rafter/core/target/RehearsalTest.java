package rafter.core.target;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.junit.jupiter.api.Test;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Facts;
import rafter.core.id.ContactId;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Priority;
import rafter.core.ticket.RandomHistory;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.Way;

class RehearsalTest {

    private static final Instant MONDAY = Instant.parse("2027-03-01T09:00:00Z");
    private static final Instant END = MONDAY.plus(Duration.ofDays(60));

    private static PromiseBook within(int hours) {
        var goal = Goal.usual(Objective.FIRST_REPLY, Map.of(Priority.P3, Duration.ofHours(hours)));
        var policy = new Policy(
                "all",
                "Everybody",
                "",
                true,
                Criteria.everything(),
                Optional.empty(),
                Map.of(Objective.FIRST_REPLY, goal),
                List.of());
        return new PromiseBook(ZoneOffset.UTC, "none", List.of(), List.of(), List.of(policy));
    }

    private static List<TicketEvent> answeredAfter(int hours) {
        return List.of(
                new TicketEvent.Opened(
                        MONDAY,
                        new Actor.Contact(new ContactId(1)),
                        TicketEvent.Origin.CUSTOMER,
                        Way.by("email"),
                        "Any",
                        new ContactId(1),
                        Priority.P3,
                        Optional.empty()),
                new TicketEvent.WeWrote(
                        MONDAY.plus(Duration.ofHours(hours)),
                        new Actor.Person(new PersonId(1)),
                        new MessageId(1),
                        false));
    }

    @Test
    void a_stricter_promise_turns_met_into_missed_and_says_for_whom_and_when() {
        var rehearsal = new Rehearsal(Editions.always(within(4)), Editions.always(within(2)), MONDAY, END);
        rehearsal.take(new TicketNumber(4001), new TeamId(2), Facts.none(), answeredAfter(1));
        rehearsal.take(new TicketNumber(4002), new TeamId(2), Facts.none(), answeredAfter(3));
        rehearsal.take(new TicketNumber(4003), new TeamId(0), Facts.none(), answeredAfter(5));
        Rehearsal.Result result = rehearsal.result();
        assertThat(result.byObjective()).containsEntry(Objective.FIRST_REPLY, new Rehearsal.Tally(2, 1, 1, 2));
        assertThat(result.byTeam())
                .containsEntry(new TeamId(2), new Rehearsal.Tally(2, 0, 1, 1))
                .containsEntry(new TeamId(0), new Rehearsal.Tally(0, 1, 0, 1));
        assertThat(result.byHour()).containsOnlyKeys(9);
        assertThat(result.changed())
                .containsExactly(new Rehearsal.Changed(
                        new TicketNumber(4002),
                        Objective.FIRST_REPLY,
                        MONDAY,
                        Rehearsal.Ending.MET,
                        Rehearsal.Ending.MISSED));
        assertThat(result.tickets()).isEqualTo(3);
    }

    @Test
    void clocks_that_began_before_the_period_are_left_out() {
        var rehearsal =
                new Rehearsal(Editions.always(within(4)), Editions.always(within(2)), MONDAY.plusSeconds(1), END);
        rehearsal.take(new TicketNumber(4002), new TeamId(2), Facts.none(), answeredAfter(3));
        assertThat(rehearsal.result().byObjective()).isEmpty();
    }

    @Test
    void the_same_book_changes_nothing_whatever_the_history() {
        var rehearsal = new Rehearsal(RandomHistory.EDITIONS, RandomHistory.EDITIONS, Instant.EPOCH, END);
        for (long seed = 0; seed < 200; seed++) {
            rehearsal.take(new TicketNumber(seed), new TeamId(0), Facts.none(), RandomHistory.of(seed));
        }
        assertThat(rehearsal.result().changedTotal()).isZero();
        assertThat(rehearsal.result().byObjective().values())
                .allMatch(t -> t.metNow() == t.metThen() && t.missedNow() == t.missedThen());
    }

    @Test
    void the_sums_of_parts_are_the_sum_of_the_whole() {
        Editions strict = Editions.always(within(1));
        var whole = new Rehearsal(RandomHistory.EDITIONS, strict, Instant.EPOCH, END);
        var even = new Rehearsal(RandomHistory.EDITIONS, strict, Instant.EPOCH, END);
        var odd = new Rehearsal(RandomHistory.EDITIONS, strict, Instant.EPOCH, END);
        for (long seed = 0; seed < 60; seed++) {
            whole.take(new TicketNumber(seed), new TeamId(seed % 3), Facts.none(), RandomHistory.of(seed));
            (seed % 2 == 0 ? even : odd)
                    .take(new TicketNumber(seed), new TeamId(seed % 3), Facts.none(), RandomHistory.of(seed));
        }
        even.add(odd);
        assertThat(even.result().byObjective()).isEqualTo(whole.result().byObjective());
        assertThat(even.result().byTeam()).isEqualTo(whole.result().byTeam());
        assertThat(even.result().byHour()).isEqualTo(whole.result().byHour());
        assertThat(even.result().changedTotal())
                .isEqualTo(whole.result().changedTotal())
                .isPositive();
    }

    @Test
    void a_book_says_what_keeps_it_from_coming_into_force() {
        var lost = new Policy(
                "p", "Anchor", "", true, new Criteria.Any(List.of()), Optional.of("gone"), Map.of(), List.of());
        var book = new PromiseBook(ZoneOffset.UTC, "gone", List.of(), List.of(), List.of(lost, lost));
        assertThat(String.join(" ", book.faults()))
                .contains("No calendar is the default")
                .contains("Two policies are called “Anchor”")
                .contains("a calendar that is gone")
                .contains("promises nothing")
                .contains("would match nothing");
    }
}
