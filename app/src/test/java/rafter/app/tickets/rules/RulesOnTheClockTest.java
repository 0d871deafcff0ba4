package rafter.app.tickets.rules;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.sql;
import static rafter.database.Tables.RULE_TIMER;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.Executors;
import org.junit.jupiter.api.Test;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.TicketNumber;
import rafter.core.rule.Moment;
import rafter.core.rule.Occasion;
import rafter.core.rule.Rule;
import rafter.core.ticket.Act;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;

/** Rules on the clock: at their instants, once, and nothing is made up for. */
class RulesOnTheClockTest extends RulesAtWork {

    @Test
    void a_rule_on_the_clock_fires_at_its_instants_and_no_more_often() {
        Rule chase = rule(
                new Occasion.Clock(Moment.CUSTOMER, Duration.ofHours(2), false, 2, Duration.ofHours(1)),
                about(),
                true,
                deed("note", "text", "Still waiting"));
        force(chase);
        TicketNumber number = arrived("Hello");
        Instant came = clock().instant();
        clock().set(came.plus(Duration.ofMinutes(119)));
        read();
        assertThat(runs(chase)).isZero();
        clock().set(came.plus(Duration.ofMinutes(120)));
        read();
        read();
        assertThat(runs(chase)).isEqualTo(1);
        clock().set(came.plus(Duration.ofHours(9)));
        read();
        assertThat(runs(chase)).isEqualTo(2);
        clock().set(came.plus(Duration.ofHours(30)));
        read();
        assertThat(runs(chase)).isEqualTo(2);
        assertThat(sql().fetchExists(RULE_TIMER, RULE_TIMER.TICKET.eq(number))).isFalse();
    }

    @Test
    void a_time_at_which_it_does_not_match_passes_and_does_not_come_again() {
        Criteria mine = new Criteria.All(List.of(about(), Criteria.test(KnownField.TURN, Operator.IS, "CUSTOMER")));
        Rule chase = rule(
                new Occasion.Clock(Moment.CREATED, Duration.ofHours(1), false, 1, Duration.ZERO),
                mine,
                true,
                deed("tag", "tag", "late"));
        force(chase);
        TicketNumber number = arrived("Hello");
        clock().set(clock().instant().plus(Duration.ofHours(1)));
        read();
        acts.perform(
                number, new Act.MoveTo(TicketState.waitingFor(Turn.CUSTOMER).key()), imani());
        read();
        assertThat(runs(chase)).isZero();
    }

    @Test
    void what_was_due_before_a_rule_was_in_force_is_not_made_up_for() {
        TicketNumber number = arrived("Hello");
        Rule chase = rule(
                new Occasion.Clock(Moment.CREATED, Duration.ofHours(1), false, 2, Duration.ofHours(1)),
                about(),
                true,
                deed("tag", "tag", "late"));
        clock().set(clock().instant().plus(Duration.ofMinutes(90)));
        force(chase);
        read();
        assertThat(runs(chase)).isZero();
        clock().set(clock().instant().plus(Duration.ofMinutes(30)));
        read();
        assertThat(runs(chase)).isEqualTo(1);
        assertThat(ticket(number).tags()).contains("late");
    }

    @Test
    void two_nodes_do_each_thing_once() throws Exception {
        Rule sort = arrival(deed("note", "text", "Once"));
        Rule chase = rule(
                new Occasion.Clock(Moment.CREATED, Duration.ofMinutes(30), false, 1, Duration.ZERO),
                about(),
                true,
                deed("note", "text", "Once more"));
        force(sort, chase);
        for (int i = 0; i < 12; i++) {
            mail("Hello " + i);
        }
        try (var pool = Executors.newFixedThreadPool(4)) {
            Callable<Integer> reading = () -> firing.readDue(100);
            for (var done : pool.invokeAll(List.of(reading, reading, reading, reading))) {
                done.get();
            }
            read();
            clock().set(clock().instant().plus(Duration.ofHours(1)));
            for (var done : pool.invokeAll(List.of(reading, reading, reading, reading))) {
                done.get();
            }
        }
        read();
        assertThat(runs(sort)).isEqualTo(12);
        assertThat(runs(chase)).isEqualTo(12);
        assertThat(timers.come(clock().instant(), 100)).isEmpty();
    }
}
