package rafter.core.rule;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.Seeds;
import rafter.core.id.TicketNumber;

class RuleRehearsalTest {

    private static final Instant FROM = Instant.parse("2027-01-04T00:00:00Z");

    static LongStream seeds() {
        return Seeds.upTo(100);
    }

    /** A reading of a ticket, in both books. */
    private record Read(TicketNumber ticket, Instant at, Set<String> now, Set<String> then, Map<String, String> taken) {

        void into(RuleRehearsal rehearsal) {
            rehearsal.ticket(rehearsal.take(ticket, at, now, then, taken));
        }
    }

    private static Read read(long number, Duration after, Set<String> now, Set<String> then) {
        return new Read(new TicketNumber(number), FROM.plus(after), now, then, Map.of());
    }

    private static RuleRehearsal of(List<Read> reads) {
        var rehearsal = new RuleRehearsal(FROM);
        reads.forEach(read -> read.into(rehearsal));
        return rehearsal;
    }

    private static Set<String> some(Random random) {
        var some = new HashSet<String>();
        List.of("a", "b", "c").forEach(rule -> {
            if (random.nextBoolean()) {
                some.add(rule);
            }
        });
        return some;
    }

    private static List<Read> random(Random random, int many) {
        var reads = new ArrayList<Read>();
        for (int i = 0; i < many; i++) {
            Map<String, String> taken =
                    random.nextInt(3) == 0 ? Map.of("c", random.nextBoolean() ? "a" : "b") : Map.of();
            Instant at = FROM.plus(Duration.ofHours(random.nextInt(2_000))).plusNanos(i);
            reads.add(new Read(new TicketNumber(4000 + i), at, some(random), some(random), taken));
        }
        return reads;
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void parts_that_are_added_up_come_to_the_whole(long seed) {
        var random = new Random(seed);
        List<Read> all = random(random, 60);
        int cut = random.nextInt(all.size());
        RuleRehearsal parts = of(all.subList(0, cut));
        parts.add(of(all.subList(cut, all.size())));
        RuleRehearsal.Result result = parts.result();
        RuleRehearsal.Result whole = of(all).result();
        assertThat(result.byRule()).isEqualTo(whole.byRule());
        assertThat(result.takenBy()).isEqualTo(whole.takenBy());
        assertThat(result.tickets()).isEqualTo(all.size());
        assertThat(result.differing()).isEqualTo(whole.differing());
        assertThat(result.changed()).containsExactlyInAnyOrderElementsOf(whole.changed());
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void what_was_and_what_differs_make_what_will_be(long seed) {
        of(random(new Random(seed), 40)).result().byRule().values().forEach(tally -> {
            assertThat(tally.now() + tally.more() - tally.less()).isEqualTo(tally.then());
            assertThat(tally.weeksNow().values().stream().mapToLong(n -> n).sum())
                    .isEqualTo(tally.now());
            assertThat(tally.weeksThen().values().stream().mapToLong(n -> n).sum())
                    .isEqualTo(tally.then());
        });
    }

    @Test
    void weeks_are_counted_from_the_beginning_of_the_period() {
        RuleRehearsal.Tally tally = of(List.of(
                        read(1, Duration.ZERO, Set.of("a"), Set.of()),
                        read(2, Duration.ofDays(7).minusNanos(1), Set.of("a"), Set.of()),
                        read(3, Duration.ofDays(7), Set.of("a"), Set.of("a")),
                        read(4, Duration.ofDays(-3), Set.of(), Set.of("a"))))
                .result()
                .byRule()
                .get("a");
        assertThat(tally.weeksNow()).isEqualTo(Map.of(0, 2L, 1, 1L));
        assertThat(tally.weeksThen()).isEqualTo(Map.of(0, 1L, 1, 1L));
        assertThat(tally)
                .extracting(RuleRehearsal.Tally::more, RuleRehearsal.Tally::less)
                .containsExactly(1L, 2L);
    }

    @Test
    void a_ticket_that_both_books_treat_alike_is_no_difference() {
        RuleRehearsal.Result result = of(List.of(
                        read(1, Duration.ZERO, Set.of("a"), Set.of("a")),
                        read(2, Duration.ZERO, Set.of(), Set.of("a"))))
                .result();
        assertThat(result.differing()).isEqualTo(1);
        assertThat(result.changed()).containsExactly(new RuleRehearsal.Changed(new TicketNumber(2), FROM, "a", true));
    }

    @Test
    void of_many_differences_the_latest_are_kept_and_all_are_counted() {
        List<Read> first = new ArrayList<>();
        List<Read> second = new ArrayList<>();
        for (int i = 0; i < 250; i++) {
            first.add(read(i + 1, Duration.ofMinutes(i), Set.of(), Set.of("a")));
            second.add(read(i + 1_001, Duration.ofDays(1).plusMinutes(i), Set.of(), Set.of("a")));
        }
        RuleRehearsal all = of(first);
        all.add(of(second));
        assertThat(all.result().differing()).isEqualTo(500);
        assertThat(all.result().changed()).hasSize(300);
        assertThat(all.result().changed().getFirst().ticket()).isEqualTo(new TicketNumber(1_250));
        assertThat(all.result().changed().stream()
                        .filter(one ->
                                one.at().isAfter(FROM.plus(Duration.ofDays(1)).minusNanos(1))))
                .hasSize(250);
    }
}
