package rafter.core.ticket;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.junit.jupiter.api.Test;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Threading.Candidate;
import rafter.core.ticket.Threading.Evidence;
import rafter.core.ticket.Threading.Verdict;

class ThreadingTest {

    private static final Instant NOW = Instant.parse("2027-03-10T09:00:00Z");
    private static final Duration WEEK = Duration.ofDays(7);
    private static final Set<String> DOV = Set.of("dov@brightwater.example", "dov@post.example");

    private static Candidate candidate(TicketState state, Optional<Instant> resolvedAt) {
        return new Candidate(
                new TicketNumber(4471), Evidence.REFERENCE, state, resolvedAt, Set.of("dov@brightwater.example"));
    }

    @Test
    void a_reply_of_a_participant_joins() {
        var verdict = Threading.decide(List.of(candidate(TicketState.WITH_CUSTOMER, Optional.empty())), DOV, NOW, WEEK);
        assertThat(verdict).isEqualTo(new Verdict.Joins(new TicketNumber(4471), Evidence.REFERENCE));
    }

    @Test
    void a_stranger_gets_a_ticket_of_their_own_linked_to_the_thread() {
        var open = candidate(TicketState.WITH_CUSTOMER, Optional.empty());
        var verdict = Threading.decide(List.of(open), Set.of("nosy@post.example"), NOW, WEEK);
        assertThat(verdict)
                .isEqualTo(new Verdict.Opens(
                        Optional.of(new TicketNumber(4471)), "its sender takes no part in that ticket"));
    }

    @Test
    void an_answer_to_a_ticket_long_resolved_opens_a_linked_one() {
        var old = candidate(TicketState.RESOLVED, Optional.of(NOW.minus(Duration.ofDays(8))));
        assertThat(Threading.decide(List.of(old), DOV, NOW, WEEK))
                .isEqualTo(new Verdict.Opens(Optional.of(new TicketNumber(4471)), "that ticket was over"));
    }

    @Test
    void without_evidence_it_opens_an_unlinked_one() {
        assertThat(Threading.decide(List.of(), DOV, NOW, WEEK)).isEqualTo(new Verdict.Opens(Optional.empty(), ""));
    }

    @Test
    void when_the_first_ticket_is_over_and_another_is_not_it_joins_the_other() {
        var old = candidate(TicketState.CLOSED, Optional.of(NOW.minus(Duration.ofDays(30))));
        var live =
                new Candidate(new TicketNumber(4500), Evidence.REFERENCE, TicketState.IN_HAND, Optional.empty(), DOV);
        assertThat(Threading.decide(List.of(old, live), DOV, NOW, WEEK))
                .isEqualTo(new Verdict.Joins(new TicketNumber(4500), Evidence.REFERENCE));
    }

    @Test
    void an_automatic_message_joins_what_it_points_to_whatever_its_state() {
        assertThat(Threading.decideAutomatic(List.of(candidate(TicketState.CLOSED, Optional.empty()))))
                .hasValue(new TicketNumber(4471));
        assertThat(Threading.decideAutomatic(List.of())).isEmpty();
    }
}
