package rafter.app.promises.board;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.clock;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.sefa;
import static rafter.app.RunningApp.unique;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import rafter.app.Browsing;
import rafter.app.RunningApp;
import rafter.app.house.access.Viewer;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.writing.Answering;
import rafter.core.id.TicketNumber;
import rafter.core.target.Objective;
import rafter.core.ticket.Act;
import rafter.core.ticket.Turn;

/** The target board over a week that no other test lives in. */
@ExtendWith(RunningApp.class)
class BoardTest extends Browsing {

    private static final Instant START = RunningApp.MONDAY.plus(Duration.ofDays(98 * 7));
    private static Instant end = START;

    @BeforeAll
    static void a_week() {
        clock().set(START);
        for (int i = 0; i < 5; i++) {
            answered(ticket(), Duration.ofMinutes(20), imani());
        }
        for (int i = 0; i < 3; i++) {
            answered(ticket(), Duration.ofDays(3), sefa());
            clock().set(START.plus(Duration.ofHours(1)));
        }
        reachedLate();
        ticket();
        end = START.plus(Duration.ofDays(8));
        clock().set(end);
    }

    private static TicketNumber ticket() {
        int n = unique();
        String raw = "From: b" + n + "@post.example\nMessage-ID: <b" + n + "@post.example>\nSubject: Board " + n
                + "\n\nHello";
        return RunningApp.ticketOf(
                RunningApp.take(raw.getBytes(StandardCharsets.UTF_8)).orElseThrow());
    }

    private static void answered(TicketNumber number, Duration after, Viewer by) {
        bean(Acts.class).perform(number, new Act.HandToPerson(Optional.of(by.id())), by);
        clock().tick(after);
        int seen = bean(Tickets.class).find(number, odile()).orElseThrow().lastPublicSeq();
        bean(Answering.class).answer(number, new Answering.Answer("<p>Yes</p>", "", Turn.CUSTOMER, seen), by);
    }

    /** It came to Odile when its time was over; that is not hers. */
    private static void reachedLate() {
        TicketNumber number = ticket();
        bean(Acts.class).perform(number, new Act.HandToPerson(Optional.of(sefa().id())), sefa());
        clock().tick(Duration.ofDays(2));
        bean(Acts.class).perform(number, new Act.HandToPerson(Optional.of(odile().id())), odile());
        int seen = bean(Tickets.class).find(number, odile()).orElseThrow().lastPublicSeq();
        bean(Answering.class).answer(number, new Answering.Answer("<p>Sorry</p>", "", Turn.CUSTOMER, seen), odile());
    }

    private static BoardStore.Scope scope(Optional<Objective> objective, Optional<Boolean> reachedLate) {
        return new BoardStore.Scope(
                START,
                end,
                end,
                objective.map(Objective::name),
                Optional.empty(),
                reachedLate,
                bean(Targets.class).terms().zone());
    }

    private static BoardStore.Group of(List<BoardStore.Group> groups, Viewer person) {
        return groups.stream()
                .filter(g -> g.key().equals(person.id().toString()))
                .findFirst()
                .orElseThrow();
    }

    @Test
    void who_answered_in_time_and_who_did_not_is_told_apart() {
        List<BoardStore.Group> agents = bean(BoardStore.class)
                .groups(
                        BoardStore.Dimension.AGENT,
                        scope(Optional.of(Objective.FIRST_REPLY), Optional.empty()),
                        odile());
        assertThat(of(agents, imani()).met()).isEqualTo(5);
        assertThat(of(agents, imani()).missed()).isZero();
        assertThat(of(agents, sefa()).missed()).isEqualTo(3);
    }

    @Test
    void a_ticket_that_was_reached_late_is_counted_apart() {
        Optional<Objective> first = Optional.of(Objective.FIRST_REPLY);
        var store = bean(BoardStore.class);
        assertThat(of(store.groups(BoardStore.Dimension.AGENT, scope(first, Optional.of(true)), odile()), odile())
                        .missed())
                .isEqualTo(1);
        assertThat(store.groups(BoardStore.Dimension.AGENT, scope(first, Optional.of(false)), odile()))
                .noneMatch(g -> g.key().equals(odile().id().toString()));
    }

    @ParameterizedTest
    @EnumSource(BoardStore.Dimension.class)
    void every_figure_opens_exactly_the_clocks_that_it_counted(BoardStore.Dimension dimension) {
        var store = bean(BoardStore.class);
        BoardStore.Scope scope = scope(Optional.of(Objective.FIRST_REPLY), Optional.empty());
        for (BoardStore.Group group : store.groups(dimension, scope, odile())) {
            Optional<BoardStore.Dimension> by = Optional.of(dimension);
            assertThat(store.behind(by, group.key(), BoardStore.Kind.MET, scope, 0, 5000, odile()))
                    .as(group.toString())
                    .hasSize((int) group.met());
            assertThat(store.behind(by, group.key(), BoardStore.Kind.MISSED, scope, 0, 5000, odile()))
                    .hasSize((int) group.missed());
            assertThat(store.behind(by, group.key(), BoardStore.Kind.RISK, scope, 0, 5000, odile()))
                    .hasSize((int) group.risk());
        }
    }

    @Test
    void whichever_way_the_clocks_are_parted_they_are_the_same_clocks() {
        var store = bean(BoardStore.class);
        BoardStore.Scope scope = scope(Optional.empty(), Optional.empty());
        List<Long> met = java.util.Arrays.stream(BoardStore.Dimension.values())
                .map(d -> store.groups(d, scope, odile()).stream()
                        .mapToLong(BoardStore.Group::met)
                        .sum())
                .distinct()
                .toList();
        List<Long> missed = java.util.Arrays.stream(BoardStore.Dimension.values())
                .map(d -> store.groups(d, scope, odile()).stream()
                        .mapToLong(BoardStore.Group::missed)
                        .sum())
                .distinct()
                .toList();
        assertThat(met).hasSize(1);
        assertThat(missed).hasSize(1);
    }

    @Test
    void pages_of_the_tickets_behind_a_figure_follow_each_other() {
        var store = bean(BoardStore.class);
        BoardStore.Scope scope = scope(Optional.of(Objective.FIRST_REPLY), Optional.empty());
        List<BoardStore.Behind> all = store.behind(Optional.empty(), "", BoardStore.Kind.MET, scope, 0, 100, odile());
        List<BoardStore.Behind> second = store.behind(Optional.empty(), "", BoardStore.Kind.MET, scope, 2, 2, odile());
        assertThat(second).isEqualTo(all.subList(2, 4));
        assertThat(all).allMatch(behind -> behind.objective().equals("FIRST_REPLY"));
    }

    @Test
    void the_page_shows_them_to_leads_with_how_sure_they_are() throws Exception {
        clock().set(end);
        signIn("odile@ternpassage.example", RunningApp.PASSWORD);
        assertThat(get("/reports").body()).contains("Sefa Tui", "Imani Okoro", "%");
    }
}
