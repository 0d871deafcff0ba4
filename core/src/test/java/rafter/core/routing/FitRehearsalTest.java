package rafter.core.routing;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.Set;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.Seeds;
import rafter.core.id.ContactId;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.measure.Share;
import rafter.core.ticket.Priority;

/** What best fit would have done, by example and by its laws. */
class FitRehearsalTest {

    private static final Instant NOW = Instant.parse("2027-06-01T08:00:00Z");
    private static final TeamId TEAM = new TeamId(1);
    private static final Duration EACH = Duration.ofMinutes(20);
    private static final PersonId IMANI = new PersonId(1);
    private static final PersonId SEFA = new PersonId(2);

    static LongStream seeds() {
        return Seeds.upTo(50);
    }

    private static Worker worker(PersonId id, double used) {
        return new Worker(id, "P" + id, Set.of(TEAM), Map.of(), Presence.HERE, true, used, 10, Set.of());
    }

    private static FitRehearsal.Choice choice(
            long number, long minute, List<Worker> people, PersonId chosen, Optional<Instant> until, long due) {
        var ticket = new Waiting(
                new TicketNumber(number),
                Priority.P3,
                "",
                "",
                new ContactId(1),
                NOW,
                Optional.of(NOW.plus(Duration.ofMinutes(due))),
                1,
                "",
                List.of());
        var question = new BestFit.Question(
                ticket,
                Set.of(TEAM),
                Set.of(),
                Factor.weights(),
                new Share(0, 0),
                person -> Knowledge.NOTHING,
                NOW.plus(Duration.ofMinutes(minute)));
        return new FitRehearsal.Choice(question, people, chosen, until);
    }

    @Test
    void who_had_less_to_do_would_have_been_chosen_and_would_have_come_to_it_in_time() {
        FitRehearsal.Report report = FitRehearsal.of(
                List.of(choice(1, 0, List.of(worker(IMANI, 6), worker(SEFA, 0)), IMANI, Optional.empty(), 60)), EACH);

        assertThat(report.choices()).isEqualTo(1);
        assertThat(report.same()).isZero();
        assertThat(report.few()).isEqualTo(1);
        assertThat(report.people().late()).isEqualTo(1);
        assertThat(report.fit().late()).isZero();
        assertThat(report.fit().got()).isEqualTo(Map.of(SEFA, 1));
        assertThat(report.people().highest()).isEqualTo(0.7);
        assertThat(report.fit().highest()).isEqualTo(0.6);
        assertThat(report.examples()).singleElement().satisfies(one -> {
            assertThat(one.best()).isEqualTo(SEFA);
            assertThat(one.bestScore()).isGreaterThan(one.itsScore());
        });
    }

    @Test
    void what_it_gave_somebody_counts_for_as_long_as_it_was_load() {
        List<Worker> people = List.of(worker(IMANI, 1), worker(SEFA, 0));
        Optional<Instant> until = Optional.of(NOW.plus(Duration.ofMinutes(30)));
        var first = choice(1, 0, people, IMANI, until, 900);
        // By now Imani has the first one, too; had it gone to Sefa, both would have one.
        List<Worker> then = List.of(worker(IMANI, 2), worker(SEFA, 0));

        FitRehearsal.Report within =
                FitRehearsal.of(List.of(first, choice(2, 10, then, IMANI, Optional.empty(), 900)), EACH);
        FitRehearsal.Report after =
                FitRehearsal.of(List.of(first, choice(2, 40, people, IMANI, Optional.empty(), 900)), EACH);

        assertThat(within.fit().got()).as("both have one, the first by id").isEqualTo(Map.of(SEFA, 1, IMANI, 1));
        assertThat(after.fit().got()).isEqualTo(Map.of(SEFA, 2));
    }

    @Test
    void where_nobody_could_take_it_the_choice_of_people_stands() {
        FitRehearsal.Report report = FitRehearsal.of(
                List.of(choice(1, 0, List.of(worker(IMANI, 10), worker(SEFA, 10)), IMANI, Optional.empty(), 60)), EACH);

        assertThat(report.nobody()).isEqualTo(1);
        assertThat(report.same()).isEqualTo(1);
        assertThat(report.could()).isZero();
    }

    @Test
    void nothing_chosen_is_nothing_rehearsed() {
        assertThat(FitRehearsal.of(List.of(), EACH).choices()).isZero();
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void each_choice_goes_to_one_by_either_way_whatever_their_order(long seed) {
        var random = new Random(seed);
        var choices = new ArrayList<FitRehearsal.Choice>();
        for (int i = 0; i < 40; i++) {
            List<Worker> people = List.of(
                    worker(IMANI, random.nextInt(9)),
                    worker(SEFA, random.nextInt(9)),
                    worker(new PersonId(3), random.nextInt(9)));
            choices.add(choice(
                    i,
                    random.nextInt(500),
                    people,
                    new PersonId(1 + random.nextInt(3)),
                    random.nextBoolean() ? Optional.empty() : Optional.of(NOW.plus(Duration.ofMinutes(600))),
                    random.nextInt(900)));
        }
        FitRehearsal.Report report = FitRehearsal.of(choices, EACH);
        assertThat(report.people().got().values().stream().mapToInt(one -> one).sum())
                .isEqualTo(40);
        assertThat(report.fit().got().values().stream().mapToInt(one -> one).sum())
                .isEqualTo(40);
        assertThat(report.same()).isLessThanOrEqualTo(report.few() + report.nobody());
        assertThat(report.few()).isLessThanOrEqualTo(report.could());
        Collections.shuffle(choices, random);
        assertThat(FitRehearsal.of(choices, EACH)).isEqualTo(report);
    }
}
