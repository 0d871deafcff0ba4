package rafter.core.telephone;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.Seeds;
import rafter.core.id.PersonId;

class CourseTest {

    private static final Instant AT = Instant.parse("2027-03-01T10:00:00Z");
    private static final PersonId IMANI = new PersonId(1);
    private static final PersonId JONAS = new PersonId(2);

    static LongStream seeds() {
        return Seeds.upTo(200);
    }

    private static Instant at(int second) {
        return AT.plusSeconds(second);
    }

    private static Course course(CallEvent... events) {
        var all = new ArrayList<CallEvent>();
        all.add(new CallEvent.Began("0", AT, true, "+47 555 01 23", "Passengers"));
        all.addAll(List.of(events));
        return Course.of(all, at(1000)).orElseThrow();
    }

    @Test
    void a_call_is_waited_for_talked_held_and_handed_over() {
        Course course = course(
                new CallEvent.Taken("1", at(20), IMANI),
                new CallEvent.Held("2", at(80)),
                new CallEvent.Resumed("3", at(110)),
                new CallEvent.Taken("4", at(150), JONAS),
                new CallEvent.Ended("5", at(200)));
        assertThat(course.waited()).isEqualTo(Duration.ofSeconds(20));
        assertThat(course.held()).isEqualTo(Duration.ofSeconds(30));
        assertThat(course.talked()).isEqualTo(Duration.ofSeconds(150));
        assertThat(course.people()).containsExactly(IMANI, JONAS);
        assertThat(course.outcome()).contains(Course.Outcome.ANSWERED);
        assertThat(course.endedAt()).contains(at(200));
    }

    @Test
    void who_waits_and_gives_up_abandoned_it_and_who_hangs_up_at_once_did_not_wait() {
        assertThat(course(new CallEvent.Ended("1", at(6))).outcome()).contains(Course.Outcome.ABANDONED);
        assertThat(course(new CallEvent.Ended("1", at(5))).outcome()).contains(Course.Outcome.MISSED);
        Course ours = Course.of(
                        List.of(
                                new CallEvent.Began("0", AT, false, "+47 555 01 23", "Passengers"),
                                new CallEvent.Ended("1", at(40))),
                        at(50))
                .orElseThrow();
        assertThat(ours.outcome()).contains(Course.Outcome.MISSED);
    }

    @Test
    void a_message_is_kept_with_its_length_also_when_it_is_told_of_afterwards() {
        Course course =
                course(new CallEvent.Ended("1", at(30)), new CallEvent.Spoken("2", at(31), Duration.ofSeconds(17)));
        assertThat(course.message()).contains(Duration.ofSeconds(17));
        assertThat(course.outcome()).contains(Course.Outcome.MESSAGE);
    }

    @Test
    void a_call_that_goes_on_has_no_outcome_and_its_time_runs() {
        Course course = course(new CallEvent.Taken("1", at(20), IMANI), new CallEvent.Taken("2", at(30), IMANI));
        assertThat(course.outcome()).isEmpty();
        assertThat(course.people()).containsExactly(IMANI);
        assertThat(course.talked()).isEqualTo(Duration.ofSeconds(980));
    }

    @Test
    void what_is_told_before_it_began_waits_for_that() {
        assertThat(Course.of(List.of(new CallEvent.Taken("1", AT, IMANI)), at(9)))
                .isEmpty();
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void the_parts_add_up_to_the_whole_whatever_was_told_in_whichever_order_and_how_often(long seed) {
        var random = new Random(seed);
        var told = new ArrayList<CallEvent>();
        told.add(new CallEvent.Began("0", AT, random.nextBoolean(), "", "Passengers"));
        for (int i = 1; i < 10; i++) {
            Instant when = at(random.nextInt(300) - 20);
            String id = "e" + i;
            told.add(
                    switch (random.nextInt(5)) {
                        case 0 -> new CallEvent.Taken(id, when, new PersonId(1 + random.nextInt(3)));
                        case 1 -> new CallEvent.Held(id, when);
                        case 2 -> new CallEvent.Resumed(id, when);
                        case 3 -> new CallEvent.Spoken(id, when, Duration.ofSeconds(i));
                        default -> new CallEvent.Ended(id, when);
                    });
        }
        Course once = Course.of(told, at(400)).orElseThrow();
        Instant end = once.endedAt().orElse(at(400));
        assertThat(once.waited().plus(once.talked()).plus(once.held())).isEqualTo(Duration.between(AT, end));
        var again = new ArrayList<>(told);
        again.addAll(told.subList(0, random.nextInt(told.size())));
        Collections.shuffle(again, random);
        assertThat(Course.of(again, at(400))).contains(once);
    }
}
