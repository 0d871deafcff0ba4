package rafter.app.worklist;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.unique;

import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.junit.jupiter.params.provider.ValueSource;
import rafter.app.RunningApp;
import rafter.app.tickets.Tickets;
import rafter.core.ticket.Priority;
import rafter.core.ticket.TicketState;

@ExtendWith(RunningApp.class)
class WorklistTest {

    private final List<Long> mine = new ArrayList<>();

    @BeforeEach
    void tickets_of_all_kinds() {
        Tickets tickets = bean(Tickets.class);
        for (int i = 0; i < 40; i++) {
            int nth = unique();
            String raw = "From: w" + nth + "@post.example\nMessage-ID: <w" + nth + "@post.example>\nSubject: List " + nth + "\n\nHello " + nth;
            long number = RunningApp.ticketOf(RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
            mine.add(number);
            tickets.changePriority(number, Priority.values()[i % 4], Optional.empty(), imani());
            if (i % 3 > 0) {
                tickets.take(number, Optional.empty(), imani());
            }
            if (i % 5 == 0) {
                tickets.changeState(number, TicketState.shipped().get(i % 6), Optional.empty(), imani());
            }
        }
    }

    @ParameterizedTest
    @EnumSource(ShippedView.class)
    void walking_the_pages_meets_every_ticket_of_the_view_once_and_in_order(ShippedView view) {
        var store = bean(WorklistStore.class);
        var seen = new ArrayList<WorklistStore.TicketRow>();
        Optional<Cursor> after = Optional.empty();
        List<WorklistStore.TicketRow> page;
        do {
            page = store.page(view, imani(), after, 7);
            seen.addAll(page);
            after = page.isEmpty() ? after : Cursor.read(page.getLast().cursor(view).written());
        } while (!page.isEmpty());
        assertThat(new HashSet<>(seen.stream().map(WorklistStore.TicketRow::number).toList())).hasSameSizeAs(seen);
        if (view.working()) {
            assertThat(seen).hasSize(bean(Worklist.class).counts(imani()).get(view));
            var dues = seen.stream().map(row -> row.nextDue().orElse(Instant.MAX)).toList();
            assertThat(dues).isSorted();
        } else {
            assertThat(seen.stream().map(WorklistStore.TicketRow::changedAt).toList()).isSortedAccordingTo((a, b) -> b.compareTo(a));
        }
    }

    @Test
    void each_view_holds_what_it_says() {
        var store = bean(WorklistStore.class);
        assertThat(store.page(ShippedView.MY_TURN, imani(), Optional.empty(), 500))
                .isNotEmpty()
                .allMatch(row -> row.turn().equals("OURS") && row.owner().equals(Optional.of(imani().id())));
        assertThat(store.page(ShippedView.UNOWNED, imani(), Optional.empty(), 500)).isNotEmpty().allMatch(row -> row.owner().isEmpty());
        assertThat(store.page(ShippedView.CLOSED, imani(), Optional.empty(), 500)).isNotEmpty().allMatch(row -> row.turn().equals("NOBODY"));
        assertThat(store.page(ShippedView.OPEN, imani(), Optional.empty(), 500)).noneMatch(row -> row.turn().equals("NOBODY"));
    }

    @Test
    void only_what_is_in_the_view_comes_back_and_what_changed_is_found() {
        var worklist = bean(Worklist.class);
        List<Long> in = worklist.those(ShippedView.UNOWNED, imani(), mine).stream().map(Worklist.Card::number).toList();
        assertThat(in).isNotEmpty().hasSizeLessThan(mine.size());
        assertThat(worklist.any(ShippedView.UNOWNED, imani(), mine)).hasSameSizeAs(mine);
        assertThat(worklist.changedSince(ShippedView.OPEN, imani(), RunningApp.MONDAY, 1000)).containsAll(in);
        assertThat(worklist.changedSince(ShippedView.OPEN, imani(), RunningApp.MONDAY.plusSeconds(60), 1000)).doesNotContainAnyElementsOf(mine);
    }

    @Test
    void the_horizon_counts_every_running_target_that_falls_due_within_it() {
        Horizon horizon = bean(Worklist.class).horizon(ShippedView.OPEN, imani());
        assertThat(horizon.total()).isPositive();
        assertThat(horizon.late()).isZero();
        assertThat(horizon.text()).contains(horizon.total() + " targets running");
        int drawn = horizon.marks().size() + horizon.more().stream().mapToInt(m -> Integer.parseInt(m.words().substring(1))).sum();
        assertThat(drawn).isEqualTo(horizon.total());
        assertThat(horizon.marksSvg().split("<a ")).hasSize(horizon.marks().size() + 1);
    }

    @Test
    void what_is_late_stands_in_the_bin() {
        RunningApp.clock().tick(java.time.Duration.ofDays(20));
        Horizon horizon = bean(Worklist.class).horizon(ShippedView.OPEN, imani());
        assertThat(horizon.late()).isEqualTo(horizon.total()).isPositive();
        assertThat(horizon.marks()).hasSize(Math.min(9, horizon.late())).allMatch(mark -> mark.tone().equals("late"));
        RunningApp.clock().set(RunningApp.MONDAY);
    }

    @ParameterizedTest
    @ValueSource(strings = {"", "x", "1.2", "~5", "1~2", "1.2~x", "99999999999999.1~5", "-~"})
    void a_wrong_place_in_an_address_is_no_place(String written) {
        assertThat(Cursor.read(written)).isEmpty();
    }

    @Test
    void a_place_is_read_back_as_it_was_written() {
        var due = new Cursor(Optional.of(Instant.parse("2027-03-01T09:00:00.123456789Z")), 4471);
        var undue = new Cursor(Optional.empty(), 4471);
        assertThat(Cursor.read(due.written())).hasValue(due);
        assertThat(Cursor.read(undue.written())).hasValue(undue);
    }
}
