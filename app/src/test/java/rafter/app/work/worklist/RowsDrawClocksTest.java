package rafter.app.work.worklist;

import static org.assertj.core.api.Assertions.assertThat;
import static rafter.app.RunningApp.bean;
import static rafter.app.RunningApp.imani;
import static rafter.app.RunningApp.odile;
import static rafter.app.RunningApp.sql;
import static rafter.app.RunningApp.unique;

import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.RepetitionInfo;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.ExtendWith;
import rafter.app.RunningApp;
import rafter.app.platform.BackgroundWork;
import rafter.app.promises.targets.ClockView;
import rafter.app.promises.targets.Outlines;
import rafter.app.promises.targets.TargetDrafts;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.CustomerFacts;
import rafter.app.tickets.acts.TicketStore;
import rafter.app.tickets.clocks.Recalculation;
import rafter.core.id.TicketNumber;
import rafter.core.target.ClockOutline;
import rafter.core.target.TargetClock;
import rafter.core.ticket.Act;
import rafter.core.ticket.Priority;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;
import rafter.database.Tables;

/** What stands with a ticket for its row to draw is what its events say. */
@ExtendWith(RunningApp.class)
class RowsDrawClocksTest {

    private static TicketNumber ticket() {
        return RunningApp.ticketOf(
                RunningApp.take(("""
                        From: Ottilie Varga <ottilie@rows%d.example>
                        To: help@ternpassage.example
                        Subject: Rows %d
                        Message-ID: <rows-%d@rows.example>

                        Where is it?
                        """).formatted(unique(), unique(), unique()).getBytes(StandardCharsets.UTF_8))
                        .orElseThrow());
    }

    private static void act(TicketNumber number, Random random) {
        Act act = switch (random.nextInt(6)) {
            case 0 -> new Act.SetPriority(Priority.values()[random.nextInt(4)]);
            case 1 ->
                new Act.MoveTo(TicketState.shipped().get(random.nextInt(6)).key());
            case 2 -> new Act.HandToPerson(random.nextBoolean() ? Optional.empty() : Optional.of(imani().id()));
            case 3 -> new Act.Answer("We are looking.", Turn.values()[random.nextInt(3)]);
            default -> new Act.SetTopic("t" + random.nextInt(3));
        };
        bean(Acts.class).perform(number, act, odile());
        RunningApp.clock().tick(Duration.ofMinutes(random.nextInt(3000)));
    }

    private static Optional<ClockOutline> keptAt(TicketNumber number, Instant now) {
        Targets targets = bean(Targets.class);
        return sql().select(Tables.TICKET.OUTLINE)
                .from(Tables.TICKET)
                .where(Tables.TICKET.NUMBER.eq(number))
                .fetchOptional(r -> r.value1())
                .flatMap(Outlines::read)
                .map(kept -> kept.at(
                        now,
                        targets.terms()
                                .editions()
                                .hours(kept.asOf(), kept.policy())
                                .orElseThrow()));
    }

    private static List<TargetClock> reckoned(TicketNumber number, Instant now) {
        TicketStore store = bean(TicketStore.class);
        return bean(Targets.class)
                .reckon(store.events(number), bean(CustomerFacts.class).customer(number), now);
    }

    private static void assertTold(TicketNumber number) {
        Instant now = RunningApp.clock().instant();
        List<TargetClock> clocks = reckoned(number, now);
        assertThat(keptAt(number, now)).isEqualTo(ClockOutline.pressing(clocks, now));
        assertThat(sql().select(Tables.TICKET.MISSED)
                        .from(Tables.TICKET)
                        .where(Tables.TICKET.NUMBER.eq(number))
                        .fetchSingle(Tables.TICKET.MISSED))
                .isEqualTo(reckoned(number, written(number)).stream().anyMatch(TargetClock::late));
    }

    private static Instant written(TicketNumber number) {
        return bean(TicketStore.class).events(number).getLast().at();
    }

    @RepeatedTest(8)
    void after_any_acts_and_after_any_time(RepetitionInfo info) {
        var random = new Random(info.getCurrentRepetition());
        var numbers = new ArrayList<TicketNumber>(List.of(ticket(), ticket(), ticket()));
        for (int i = 0; i < 12; i++) {
            act(numbers.get(random.nextInt(3)), random);
            numbers.forEach(RowsDrawClocksTest::assertTold);
        }
    }

    @Test
    void those_of_before_are_written_by_what_recalculates_clocks() {
        TicketNumber number = ticket();
        Optional<ClockOutline> before = keptAt(number, RunningApp.clock().instant());
        assertThat(before).isPresent();
        sql().update(Tables.TICKET)
                .setNull(Tables.TICKET.OUTLINE)
                .where(Tables.TICKET.NUMBER.eq(number))
                .execute();
        long edition = sql().select(Tables.TARGET_EDITION.ID)
                .from(Tables.TARGET_EDITION)
                .orderBy(Tables.TARGET_EDITION.ID.desc())
                .limit(1)
                .fetchSingle(Tables.TARGET_EDITION.ID);
        // As the migration leaves it behind.
        sql().deleteFrom(Tables.BACKGROUND_WORK)
                .where(Tables.BACKGROUND_WORK.KIND.eq(TargetDrafts.RECALCULATION))
                .and(Tables.BACKGROUND_WORK.ABOUT.eq(edition))
                .execute();
        bean(BackgroundWork.class).begin(TargetDrafts.RECALCULATION, edition, 1, Optional.empty());
        assertThat(ClockView.of(
                        null, Turn.OURS, Instant.now(), bean(Targets.class).terms()))
                .as("until then a row draws no clock")
                .isEmpty();
        bean(Recalculation.class).run(edition);
        assertThat(keptAt(number, RunningApp.clock().instant())).isEqualTo(before);
    }
}
