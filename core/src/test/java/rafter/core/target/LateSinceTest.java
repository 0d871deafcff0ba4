package rafter.core.target;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.stream.LongStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import rafter.core.Seeds;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.ContactId;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Priority;
import rafter.core.ticket.RandomHistory;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Way;
import rafter.core.time.Entry;
import rafter.core.time.Holiday;
import rafter.core.time.HolidaySet;
import rafter.core.time.Repeat;

/** What was late stays late since then; what a change alone brought about ends when the change is taken back. Open Monday to Friday 08 to 17, Oslo. */
class LateSinceTest {

    private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");
    private static final Actor IMANI = new Actor.Person(new PersonId(1));
    private static final Actor DOV = new Actor.Contact(new ContactId(7));
    private static final List<Entry> WEEK = List.of(week(8, 17, "MO,TU,WE,TH,FR"));
    private static final List<Entry> LONG_WEEK = List.of(week(6, 20, "MO,TU,WE,TH,FR,SA"));
    private static final Step HALF = new Step("half", Objective.RESOLUTION, new Step.When.Used(50), List.of());
    private static final Step LATE =
            new Step("late", Objective.RESOLUTION, new Step.When.After(Duration.ofHours(1)), List.of());

    private final List<TicketEvent> events = new ArrayList<>();

    /** A year and a half of weeks, which is compiled in no time. */
    private static Entry week(int opens, int closes, String days) {
        LocalDate first = LocalDate.of(2027, 2, 1);
        var repeat = Optional.of(Repeat.of("FREQ=WEEKLY;COUNT=450;BYDAY=" + days));
        return Entry.of(
                "week-" + opens, "", Entry.Kind.OPENING, first.atTime(opens, 0), first.atTime(closes, 0), repeat);
    }

    private static Instant at(String local) {
        return LocalDateTime.parse("2027-03-" + local).atZone(OSLO).toInstant();
    }

    /** P1 a quarter of the hours, P2 a half, P3 all, P4 nothing. */
    private static Policy policy(String description, Criteria criteria, Map<Objective, Integer> hours) {
        var goals = new EnumMap<Objective, Goal>(Objective.class);
        hours.forEach((objective, h) -> goals.put(
                objective,
                Goal.usual(
                        objective,
                        Map.of(
                                Priority.P1,
                                Duration.ofMinutes(h * 15L),
                                Priority.P2,
                                Duration.ofMinutes(h * 30L),
                                Priority.P3,
                                Duration.ofHours(h)))));
        return new Policy("all", "All", description, true, criteria, Optional.of("office"), goals, List.of(HALF, LATE));
    }

    private static PromiseBook book(List<Entry> entries, List<HolidaySet> holidays, Policy... policies) {
        var plan = new CalendarPlan(
                "office",
                "Office",
                Optional.empty(),
                false,
                entries,
                holidays.stream().map(HolidaySet::id).toList());
        return new PromiseBook(OSLO, "office", List.of(plan), holidays, List.of(policies));
    }

    private static Policy everybody(int hours) {
        var all = new EnumMap<Objective, Integer>(Objective.class);
        for (Objective objective : Objective.values()) {
            all.put(objective, hours);
        }
        return policy("", Criteria.everything(), all);
    }

    private static Editions.Edition from(String when, PromiseBook book) {
        return new Editions.Edition(at(when), book);
    }

    private static Editions editions(PromiseBook first, Editions.Edition... more) {
        var all = new ArrayList<>(List.of(new Editions.Edition(Instant.EPOCH, first)));
        all.addAll(List.of(more));
        return Editions.of(all);
    }

    private LateSinceTest opened(String when) {
        events.add(new TicketEvent.Opened(
                at(when),
                DOV,
                TicketEvent.Origin.CUSTOMER,
                Way.by("email"),
                "Slot lost",
                new ContactId(7),
                Priority.P3,
                Optional.empty()));
        return this;
    }

    private LateSinceTest priority(String when, Priority priority) {
        events.add(new TicketEvent.PriorityChanged(at(when), IMANI, priority));
        return this;
    }

    private LateSinceTest moved(String when, TicketState state) {
        events.add(new TicketEvent.StateChanged(at(when), IMANI, state));
        return this;
    }

    private TargetClock clock(Editions editions, Objective objective, String now) {
        return Reckoning.latest(Reckoning.reckon(events, Facts.none(), editions, at(now)))
                .get(objective);
    }

    private TargetClock resolution(Editions editions, String now) {
        return clock(editions, Objective.RESOLUTION, now);
    }

    private static PromiseBook four() {
        return book(WEEK, List.of(), everybody(4));
    }

    // ------------------------------------------------------------------ examples

    @Test
    void what_became_late_by_the_passing_of_time_stays_late_since_then_whatever_changes() {
        opened("01T08:00").priority("01T14:00", Priority.P1);
        Editions editions = editions(
                four(),
                from(
                        "02T09:00",
                        book(
                                WEEK,
                                List.of(),
                                policy("other words", Criteria.everything(), Map.of(Objective.RESOLUTION, 4)))),
                from(
                        "02T10:00",
                        book(
                                WEEK,
                                List.of(HolidaySet.of(
                                        "h", "Far", List.of(new Holiday(LocalDate.of(2030, 5, 1), "Day")))),
                                everybody(4))),
                from("02T11:00", book(LONG_WEEK, List.of(), everybody(400))));
        for (String now : List.of("01T13:00", "01T15:00", "02T09:30", "02T10:30", "02T12:00", "05T12:00")) {
            assertThat(resolution(editions, now).dueMark()).as(now).hasValue(at("01T12:00"));
            assertThat(resolution(editions, now).late()).isTrue();
        }
    }

    @Test
    void late_at_once_by_a_higher_priority_ends_when_that_is_taken_back() {
        opened("01T08:00").priority("01T10:00", Priority.P1);
        assertThat(resolution(editions(four()), "01T10:30").dueMark()).hasValue(at("01T10:00"));
        priority("01T11:00", Priority.P3);
        TargetClock clock = resolution(editions(four()), "01T11:30");
        assertThat(clock.late()).isFalse();
        assertThat(clock.dueMark()).hasValue(at("01T12:00"));
    }

    @Test
    void late_at_once_stays_late_since_the_change_through_versions_that_do_not_concern_it() {
        opened("01T08:00").priority("01T10:00", Priority.P1);
        Editions editions = editions(
                four(),
                from(
                        "01T11:00",
                        book(
                                WEEK,
                                List.of(),
                                policy("other words", Criteria.everything(), Map.of(Objective.RESOLUTION, 4)))),
                from("01T11:30", book(WEEK, List.of(), everybody(3))));
        assertThat(resolution(editions, "01T13:00").dueMark()).hasValue(at("01T10:00"));
        assertThat(resolution(editions, "01T13:00").changes())
                .hasSize(2)
                .last()
                .satisfies(change -> assertThat(change.effect()).isEqualTo(ClockChange.Effect.STAYS));
    }

    @Test
    void a_version_that_allows_more_makes_a_lateness_by_change_good() {
        opened("01T08:00").priority("01T10:00", Priority.P1);
        Editions editions = editions(four(), from("01T11:00", book(WEEK, List.of(), everybody(40))));
        assertThat(resolution(editions, "01T12:00").late()).isFalse();
    }

    @Test
    void raised_before_and_lowered_after_its_due_time_it_is_late_as_though_never_raised() {
        opened("01T08:00").priority("01T10:00", Priority.P1).priority("01T15:00", Priority.P3);
        assertThat(resolution(editions(four()), "01T16:00").dueMark()).hasValue(at("01T12:00"));
        priority("01T16:30", Priority.P4).priority("02T16:30", Priority.P3);
        assertThat(resolution(editions(four()), "03T16:00").dueMark()).hasValue(at("01T12:00"));
    }

    @Test
    void a_promise_that_goes_and_comes_back_counts_the_gap_by_its_own_hours() {
        PromiseBook nothing =
                book(LONG_WEEK, List.of(), policy("", Criteria.everything(), Map.of(Objective.FIRST_REPLY, 4)));
        opened("01T08:00");
        Editions editions = editions(
                book(WEEK, List.of(), everybody(40)),
                from("01T16:00", nothing),
                from("02T09:00", book(WEEK, List.of(), everybody(40))));
        assertThat(resolution(editions, "02T10:00").used()).isEqualTo(Duration.ofHours(11));
        assertThat(resolution(editions(book(WEEK, List.of(), everybody(40))), "02T10:00")
                        .dueMark())
                .isEqualTo(resolution(editions, "02T10:00").dueMark());
    }

    @Test
    void a_gap_in_which_the_customer_had_the_turn_is_held_by_the_promise_that_comes_back() {
        opened("01T08:00")
                .priority("01T09:00", Priority.P4)
                .moved("01T10:00", TicketState.WITH_CUSTOMER)
                .moved("01T15:00", TicketState.IN_HAND)
                .priority("01T16:00", Priority.P3);
        assertThat(resolution(editions(four()), "01T16:30").used()).isEqualTo(Duration.ofMinutes(210));
    }

    @Test
    void set_back_by_hand_from_closed_a_customer_who_was_never_answered_waits_for_a_first_reply_anew() {
        opened("01T08:00").moved("01T09:00", TicketState.CLOSED).moved("02T09:00", TicketState.IN_HAND);
        TargetClock first = clock(editions(four()), Objective.FIRST_REPLY, "02T10:00");
        assertThat(first.started()).isEqualTo(at("02T09:00"));
        assertThat(first.dueMark()).hasValue(at("02T13:00"));
    }

    @Test
    void set_back_by_hand_from_closed_an_answered_customer_waits_for_a_next_reply_from_their_message() {
        opened("01T08:00");
        events.add(new TicketEvent.WeWrote(at("01T08:30"), IMANI, new MessageId(1), false));
        moved("01T09:00", TicketState.CLOSED).moved("02T09:00", TicketState.IN_HAND);
        assertThat(Reckoning.latest(Reckoning.reckon(events, Facts.none(), editions(four()), at("02T10:00"))))
                .doesNotContainKey(Objective.NEXT_REPLY);
        events.add(new TicketEvent.CustomerWrote(at("02T11:00"), DOV, new MessageId(2), false));
        assertThat(clock(editions(four()), Objective.NEXT_REPLY, "02T12:00").dueMark())
                .hasValue(at("02T15:00"));
        assertThat(clock(editions(four()), Objective.FIRST_REPLY, "02T12:00").state())
                .isEqualTo(new ClockState.Met(at("01T08:30")));
    }

    @Test
    void a_ticket_reopened_begins_pick_up_and_regular_update_anew_and_resolving_ends_both() {
        opened("01T08:00").moved("01T09:00", TicketState.RESOLVED);
        assertThat(clock(editions(four()), Objective.PICK_UP, "01T12:00").state())
                .isEqualTo(new ClockState.Lifted(at("01T09:00")));
        moved("02T09:00", TicketState.IN_HAND);
        assertThat(clock(editions(four()), Objective.PICK_UP, "02T10:00").started())
                .isEqualTo(at("02T09:00"));
        assertThat(clock(editions(four()), Objective.REGULAR_UPDATE, "02T10:00").started())
                .isEqualTo(at("02T09:00"));
        assertThat(clock(editions(four()), Objective.FIRST_REPLY, "02T10:00").started())
                .isEqualTo(at("01T08:00"));
    }

    @Test
    void a_step_that_a_new_version_finds_past_does_not_come_when_the_ticket_is_reopened_either() {
        opened("01T08:00").moved("01T16:30", TicketState.RESOLVED).moved("02T09:00", TicketState.IN_HAND);
        Policy without = new Policy(
                "all",
                "All",
                "",
                true,
                Criteria.everything(),
                Optional.of("office"),
                everybody(10).goals(),
                List.of());
        Editions editions =
                editions(book(WEEK, List.of(), without), from("01T16:00", book(WEEK, List.of(), everybody(10))));
        assertThat(resolution(editions, "02T10:00").steps())
                .extracting(time -> time.step().id())
                .containsExactly("late");
    }

    @Test
    void a_version_that_leaves_a_step_as_it_is_leaves_its_time_too() {
        opened("01T08:00");
        Editions editions = editions(
                four(),
                from(
                        "01T15:00",
                        book(
                                WEEK,
                                List.of(),
                                policy(
                                        "other",
                                        Criteria.everything(),
                                        Map.of(Objective.RESOLUTION, 4, Objective.NEXT_REPLY, 9)))));
        assertThat(resolution(editions, "01T16:00").steps())
                .extracting(TargetClock.StepTime::at)
                .containsExactly(at("01T10:00"), at("01T13:00"));
    }

    @Test
    void our_own_opening_message_begins_a_regular_update_and_owes_no_first_reply() {
        events.add(new TicketEvent.Opened(
                at("01T08:00"),
                IMANI,
                TicketEvent.Origin.OURS,
                Way.by("email"),
                "Your slot",
                new ContactId(7),
                Priority.P3,
                Optional.empty()));
        events.add(new TicketEvent.WeWrote(at("01T08:05"), IMANI, new MessageId(1), false));
        List<TargetClock> clocks = Reckoning.reckon(events, Facts.none(), editions(four()), at("01T09:00"));
        assertThat(clocks)
                .noneMatch(c -> c.state() instanceof ClockState.Met)
                .noneMatch(c -> c.objective() == Objective.FIRST_REPLY);
        assertThat(Reckoning.latest(clocks).get(Objective.REGULAR_UPDATE).started())
                .isEqualTo(at("01T08:05"));
        events.add(new TicketEvent.WeWrote(at("01T10:00"), IMANI, new MessageId(2), false));
        assertThat(Reckoning.reckon(events, Facts.none(), editions(four()), at("01T11:00")))
                .anyMatch(c -> c.objective() == Objective.REGULAR_UPDATE && c.state() instanceof ClockState.Met);
    }

    @Test
    void a_message_of_the_system_meets_no_first_reply_even_when_it_is_not_marked_automatic() {
        opened("01T08:00");
        events.add(new TicketEvent.WeWrote(at("01T08:05"), Actor.system(), new MessageId(1), false));
        assertThat(clock(editions(four()), Objective.FIRST_REPLY, "01T09:00").live())
                .isTrue();
    }

    @Test
    void changed_hours_do_not_move_a_time_agreed_and_a_pause_does() {
        opened("01T08:00");
        events.add(new TicketEvent.TimeAgreed(at("01T09:00"), IMANI, Optional.of(at("04T12:00")), ""));
        Editions editions = editions(four(), from("02T09:00", book(LONG_WEEK, List.of(), everybody(4))));
        assertThat(resolution(editions, "01T10:00").dueMark()).hasValue(at("04T12:00"));
        assertThat(resolution(editions, "03T10:00").dueMark()).hasValue(at("04T12:00"));
        moved("03T11:00", TicketState.WITH_CUSTOMER).moved("03T13:00", TicketState.IN_HAND);
        assertThat(resolution(editions, "03T14:00").dueMark()).hasValue(at("04T14:00"));
    }

    @Test
    void joined_and_void_clocks_never_count_as_missed_also_when_they_were_late() {
        opened("01T08:00");
        events.add(new TicketEvent.Joined(at("02T09:00"), IMANI, new TicketNumber(4001)));
        assertThat(resolution(editions(four()), "02T10:00").late()).isTrue();
        assertThat(resolution(editions(four()), "02T10:00").counts()).isFalse();
        events.set(1, new TicketEvent.Discarded(at("02T09:00"), IMANI, "no request"));
        assertThat(resolution(editions(four()), "02T10:00").counts()).isFalse();
        assertThat(resolution(editions(four()), "02T10:00").ended()).hasValue(at("02T09:00"));
    }

    @Test
    void a_message_that_was_split_off_begins_no_clock_here_and_put_back_it_does_as_though_it_had_stayed() {
        opened("01T08:00");
        events.add(new TicketEvent.CustomerWrote(at("01T08:00"), DOV, new MessageId(1), false));
        events.add(new TicketEvent.WeWrote(at("01T09:00"), IMANI, new MessageId(2), false));
        Editions editions = editions(four());
        List<TargetClock> without = Reckoning.reckon(events, Facts.none(), editions, at("03T10:00"));
        events.add(new TicketEvent.CustomerWrote(at("01T10:00"), DOV, new MessageId(3), false));
        List<TargetClock> with = Reckoning.reckon(events, Facts.none(), editions, at("03T10:00"));
        events.add(new TicketEvent.SplitOff(at("02T10:00"), IMANI, new MessageId(3), new TicketNumber(4480)));
        assertThat(with).isNotEqualTo(without);
        assertThat(Reckoning.reckon(events, Facts.none(), editions, at("03T10:00")))
                .isEqualTo(without);
        events.add(new TicketEvent.SplitBack(at("02T11:00"), IMANI, new MessageId(3), new TicketNumber(4480)));
        assertThat(Reckoning.reckon(events, Facts.none(), editions, at("03T10:00")))
                .isEqualTo(with);
    }

    @Test
    void a_version_holds_from_its_very_instant() {
        opened("01T08:00");
        Editions editions = editions(four(), from("01T09:00", book(WEEK, List.of(), everybody(2))));
        assertThat(resolution(editions, "01T09:00").allowed()).isEqualTo(Duration.ofHours(2));
        assertThat(Reckoning.reckon(
                                events, Facts.none(), editions, at("01T09:00").minusNanos(1))
                        .getFirst()
                        .allowed())
                .isEqualTo(Duration.ofHours(4));
    }

    @Test
    void a_calendars_own_zone_counts() {
        var tokyo = new CalendarPlan("office", "Tokyo", Optional.of(ZoneId.of("Asia/Tokyo")), false, WEEK, List.of());
        opened("01T08:00");
        var editions = editions(new PromiseBook(OSLO, "office", List.of(tokyo), List.of(), List.of(everybody(1))));
        // 17:00 in Tokyo is 09:00 in Oslo.
        assertThat(resolution(editions, "01T08:30").dueMark()).hasValue(Instant.parse("2027-03-01T08:00:00Z"));
        assertThat(resolution(editions, "01T23:00").used()).isEqualTo(Duration.ofHours(1));
    }

    // ------------------------------------------------------------------ laws

    static LongStream seeds() {
        return Seeds.upTo(250);
    }

    /** What a clock that promises something says of how it stands; the path there is another thing. */
    /** The clocks that count for something, with all that they say. */
    private static List<List<Object>> standing(List<TargetClock> clocks) {
        return clocks.stream()
                .filter(c -> !(c.state() instanceof ClockState.Lifted) && !(c.state() instanceof ClockState.Void))
                .map(c -> List.<Object>of(
                        c.objective(), c.started(), c.used(), c.allowed(), c.state(), c.late(), c.dueMark(), c.steps()))
                .toList();
    }

    private static List<TicketEvent> with(List<TicketEvent> events, int index, TicketEvent... more) {
        var all = new ArrayList<>(events.subList(0, index));
        all.addAll(List.of(more));
        all.addAll(events.subList(index, events.size()));
        return all;
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void changing_the_priority_there_and_back_leaves_every_clock_exactly_as_it_was(long seed) {
        var random = new Random(seed);
        // With other changes around it, there and back of one is the way to another.
        List<TicketEvent> all = RandomHistory.of(seed).stream()
                .filter(event -> !(event instanceof TicketEvent.PriorityChanged))
                .toList();
        int index = 1 + random.nextInt(all.size());
        Instant end =
                index < all.size() ? all.get(index).at() : all.getLast().at().plus(Duration.ofHours(40));
        long room = Math.max(1, Duration.between(all.get(index - 1).at(), end).toSeconds());
        Instant there = all.get(index - 1).at().plusSeconds(random.nextLong(room));
        Instant back = there.plusSeconds(
                random.nextLong(Math.max(1, Duration.between(there, end).toSeconds())));
        Priority was = Ticket.replay(all.subList(0, index)).priority();
        List<TicketEvent> detour = with(
                all,
                index,
                new TicketEvent.PriorityChanged(there, IMANI, Priority.values()[random.nextInt(4)]),
                new TicketEvent.PriorityChanged(back, IMANI, was));
        Editions editions = editions(book(WEEK, List.of(), everybody(1 + random.nextInt(30))));
        // What time itself makes late under the other priority stays late, so that is no way back.
        List<TargetClock> meanwhile = Reckoning.reckon(detour.subList(0, index + 1), Facts.none(), editions, back);
        if (meanwhile.stream()
                .anyMatch(c -> c.late()
                        && c.dueMark().filter(due -> due.isAfter(there)).isPresent())) {
            return;
        }
        for (Duration later : List.of(Duration.ZERO, Duration.ofHours(9), Duration.ofDays(9))) {
            Instant now = all.getLast().at().isAfter(back) ? all.getLast().at().plus(later) : back.plus(later);
            assertThat(standing(Reckoning.reckon(detour, Facts.none(), editions, now)))
                    .isEqualTo(standing(Reckoning.reckon(all, Facts.none(), editions, now)));
        }
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void a_version_that_does_not_concern_a_clock_leaves_it_exactly_as_it_was(long seed) {
        var random = new Random(seed);
        List<TicketEvent> all = RandomHistory.of(seed);
        int hours = 1 + random.nextInt(30);
        Instant now = all.getLast().at().plus(Duration.ofDays(random.nextInt(5)));
        Instant when = all.getFirst()
                .at()
                .plusSeconds(random.nextLong(
                        Math.max(1, Duration.between(all.getFirst().at(), now).toSeconds())));
        Policy reworded = new Policy(
                "all",
                "Other name",
                "other words",
                true,
                Criteria.everything(),
                Optional.of("office"),
                everybody(hours).goals(),
                List.of(HALF, LATE));
        Policy nobody =
                policy("", Criteria.test(KnownField.TOPIC, Operator.IS, "never"), Map.of(Objective.RESOLUTION, 1));
        HolidaySet far = HolidaySet.of("h", "Far", List.of(new Holiday(LocalDate.of(2035, 5, 1), "Day")));
        Editions without = editions(book(WEEK, List.of(), everybody(hours)));
        Editions with = Editions.of(List.of(
                new Editions.Edition(Instant.EPOCH, book(WEEK, List.of(), everybody(hours))),
                new Editions.Edition(when, book(WEEK, List.of(far), nobody, reworded))));
        assertThat(standing(Reckoning.reckon(all, Facts.none(), with, now)))
                .isEqualTo(standing(Reckoning.reckon(all, Facts.none(), without, now)));
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void a_running_clock_that_is_late_by_the_passing_of_time_keeps_its_due_time_through_any_change(long seed) {
        var random = new Random(seed);
        opened("01T08:00");
        Editions first = editions(four());
        var changed = new ArrayList<>(first.all());
        var some = new ArrayList<>(events);
        Instant at = at("01T13:00");
        for (int i = 0; i < 12; i++) {
            at = at.plusSeconds(1 + random.nextInt(40_000));
            if (random.nextBoolean()) {
                some.add(new TicketEvent.PriorityChanged(at, IMANI, Priority.values()[random.nextInt(3)]));
            } else {
                changed.add(new Editions.Edition(
                        at,
                        book(random.nextBoolean() ? WEEK : LONG_WEEK, List.of(), everybody(1 + random.nextInt(99)))));
            }
        }
        TargetClock clock = Reckoning.latest(
                        Reckoning.reckon(some, Facts.none(), Editions.of(changed), at.plusSeconds(9)))
                .get(Objective.RESOLUTION);
        assertThat(clock.dueMark()).hasValue(at("01T12:00"));
        assertThat(clock.late()).isTrue();
    }
}
