package rafter.core.target;

import static java.time.DayOfWeek.*;
import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.EnumMap;
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
import rafter.core.criteria.Criteria;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.CompanyId;
import rafter.core.id.ContactId;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Priority;
import rafter.core.ticket.RandomHistory;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;
import rafter.core.ticket.Way;
import rafter.core.time.Entry;
import rafter.core.time.WorkCalendar;

/** Policies, changes in mid-course and steps by example. The week begins on Monday 1 March 2027; open Monday to Friday 08 to 17, Oslo. */
class PolicyClocksTest {

    private static final ZoneId OSLO = ZoneId.of("Europe/Oslo");
    private static final Actor IMANI = new Actor.Person(new PersonId(1));
    private static final Actor DOV = new Actor.Contact(new ContactId(7));
    private static final List<Entry> WEEK = WorkCalendar.weekly(
                    "Office",
                    OSLO,
                    LocalTime.of(8, 0),
                    LocalTime.of(17, 0),
                    MONDAY,
                    TUESDAY,
                    WEDNESDAY,
                    THURSDAY,
                    FRIDAY)
            .entries();
    private static final List<CalendarPlan> CALENDARS =
            List.of(new CalendarPlan("office", "Office", Optional.empty(), false, WEEK, List.of()));
    private static final Criteria ANCHOR = Criteria.test(KnownField.PLAN, Operator.IS, "Anchor");

    private final List<TicketEvent> events = new ArrayList<>();
    private Facts customer = Facts.none().with(KnownField.PLAN, "Anchor");

    private static Instant at(String local) {
        return LocalDateTime.parse("2027-03-" + local).atZone(OSLO).toInstant();
    }

    private static Policy policy(String id, Criteria criteria, Map<Objective, Integer> hours, Step... steps) {
        var goals = new EnumMap<Objective, Goal>(Objective.class);
        hours.forEach((objective, h) -> {
            var within = new EnumMap<Priority, Duration>(Priority.class);
            for (Priority priority : Priority.values()) {
                // The higher the priority, the shorter: P3 gets what is said, P1 a quarter of it.
                within.put(priority, Duration.ofMinutes(h * 60L * (priority.ordinal() + 2) / 4));
            }
            within.put(Priority.P3, Duration.ofHours(h));
            within.put(Priority.P1, Duration.ofMinutes(h * 15L));
            goals.put(objective, Goal.usual(objective, within));
        });
        return new Policy(id, id, "", true, criteria, Optional.of("office"), goals, List.of(steps));
    }

    private static PromiseBook book(Policy... policies) {
        return new PromiseBook(OSLO, "office", CALENDARS, List.of(), List.of(policies));
    }

    private PolicyClocksTest opened(String when) {
        events.add(new TicketEvent.Opened(
                at(when),
                DOV,
                TicketEvent.Origin.CUSTOMER,
                Way.by("email"),
                "Slot lost",
                new ContactId(7),
                Priority.P3,
                Optional.of(new TeamId(2))));
        return this;
    }

    private PolicyClocksTest weWrote(String when) {
        events.add(new TicketEvent.WeWrote(at(when), IMANI, new MessageId(1), false));
        return moved(when, TicketState.WITH_CUSTOMER);
    }

    private PolicyClocksTest customerWrote(String when) {
        events.add(new TicketEvent.CustomerWrote(at(when), DOV, new MessageId(2), false));
        return moved(when, TicketState.IN_HAND);
    }

    private PolicyClocksTest moved(String when, TicketState state) {
        events.add(new TicketEvent.StateChanged(at(when), IMANI, state));
        return this;
    }

    private PolicyClocksTest owned(String when, Optional<PersonId> owner) {
        events.add(new TicketEvent.OwnerChanged(at(when), IMANI, owner));
        return this;
    }

    private List<TargetClock> clocks(Editions editions, String now) {
        return Reckoning.reckon(events, customer, editions, at(now));
    }

    private TargetClock clock(Editions editions, Objective objective, String now) {
        return Reckoning.latest(clocks(editions, now)).get(objective);
    }

    private static Editions always(Policy... policies) {
        return Editions.always(book(policies));
    }

    // ------------------------------------------------------------------ objectives

    @Test
    void pick_up_runs_until_a_person_owns_it_and_again_when_the_owner_is_lost() {
        Editions editions = always(policy("all", Criteria.everything(), Map.of(Objective.PICK_UP, 2)));
        opened("01T08:00").owned("01T09:00", Optional.of(new PersonId(1))).owned("01T12:00", Optional.empty());
        List<TargetClock> clocks = clocks(editions, "01T12:30");
        assertThat(clocks).hasSize(2);
        assertThat(clocks.getFirst().state()).isEqualTo(new ClockState.Met(at("01T09:00")));
        assertThat(clocks.getLast().dueMark()).hasValue(at("01T14:00"));
    }

    @Test
    void a_team_alone_does_not_pick_a_ticket_up() {
        Editions editions = always(policy("all", Criteria.everything(), Map.of(Objective.PICK_UP, 2)));
        opened("01T08:00");
        events.add(new TicketEvent.TeamChanged(at("01T09:00"), IMANI, Optional.of(new TeamId(3))));
        assertThat(clock(editions, Objective.PICK_UP, "01T10:30").late()).isTrue();
    }

    @Test
    void a_regular_update_is_owed_in_every_turn_and_begins_again_with_each_word_of_ours() {
        Editions editions = always(policy("all", Criteria.everything(), Map.of(Objective.REGULAR_UPDATE, 4)));
        opened("01T08:00").weWrote("01T10:00");
        List<TargetClock> clocks = clocks(editions, "01T15:00");
        assertThat(clocks.getFirst().state()).isEqualTo(new ClockState.Met(at("01T10:00")));
        assertThat(clocks.getLast().dueMark()).hasValue(at("01T14:00"));
        assertThat(clocks.getLast().late()).isTrue();
        moved("01T16:00", TicketState.RESOLVED);
        assertThat(clock(editions, Objective.REGULAR_UPDATE, "02T16:00").state())
                .isEqualTo(new ClockState.Lifted(at("01T16:00")));
    }

    @Test
    void an_acknowledgement_meets_a_first_reply_only_when_the_policy_says_so() {
        events.clear();
        opened("01T08:00");
        events.add(new TicketEvent.WeWrote(at("01T08:01"), Actor.system(), new MessageId(1), true));
        Policy strict = policy("all", Criteria.everything(), Map.of(Objective.FIRST_REPLY, 2));
        assertThat(clock(always(strict), Objective.FIRST_REPLY, "01T09:00").live())
                .isTrue();
        Goal goal = strict.goals().get(Objective.FIRST_REPLY);
        var lenient = new Policy(
                "all",
                "all",
                "",
                true,
                Criteria.everything(),
                Optional.of("office"),
                Map.of(Objective.FIRST_REPLY, new Goal(goal.within(), goal.held(), 100, true)),
                List.of());
        assertThat(clock(always(lenient), Objective.FIRST_REPLY, "01T09:00").state())
                .isEqualTo(new ClockState.Met(at("01T08:01")));
    }

    @Test
    void the_turns_that_hold_are_those_the_policy_names() {
        var goal = new Goal(Map.of(Priority.P3, Duration.ofHours(8)), Set.of(Turn.PARTNER), 100, false);
        Editions editions = always(new Policy(
                "all",
                "all",
                "",
                true,
                Criteria.everything(),
                Optional.of("office"),
                Map.of(Objective.RESOLUTION, goal),
                List.of()));
        opened("01T08:00").weWrote("01T09:00").moved("01T11:00", TicketState.WITH_PARTNER);
        assertThat(clock(editions, Objective.RESOLUTION, "01T12:00").state())
                .isEqualTo(new ClockState.Held(Duration.ofHours(5)));
    }

    // ------------------------------------------------------------------ which policy

    @Test
    void the_first_policy_in_order_that_matches_holds_and_one_that_is_off_is_passed_over() {
        Policy anchor = policy("anchor", ANCHOR, Map.of(Objective.FIRST_REPLY, 1));
        Policy all = policy("all", Criteria.everything(), Map.of(Objective.FIRST_REPLY, 4));
        opened("01T08:00");
        assertThat(clock(always(anchor, all), Objective.FIRST_REPLY, "01T08:30").dueMark())
                .hasValue(at("01T09:00"));
        assertThat(clock(always(all, anchor), Objective.FIRST_REPLY, "01T08:30").dueMark())
                .hasValue(at("01T12:00"));
        var off = new Policy("anchor", "anchor", "", false, ANCHOR, Optional.of("office"), anchor.goals(), List.of());
        assertThat(clock(always(off, all), Objective.FIRST_REPLY, "01T08:30").dueMark())
                .hasValue(at("01T12:00"));
        assertThat(always(all, anchor).tried(at("01T08:00"), customer)).hasSize(1);
    }

    @Test
    void a_policy_that_was_put_on_a_ticket_holds_whatever_it_asks_until_it_is_taken_off_or_gone() {
        customer = Facts.none();
        Policy anchor = policy("anchor", ANCHOR, Map.of(Objective.FIRST_REPLY, 1));
        Policy all = policy("all", Criteria.everything(), Map.of(Objective.FIRST_REPLY, 4));
        opened("01T08:00");
        events.add(new TicketEvent.PolicyPut(at("01T08:10"), IMANI, "anchor"));
        assertThat(clock(always(all, anchor), Objective.FIRST_REPLY, "01T08:30").dueMark())
                .hasValue(at("01T09:00"));
        assertThat(clock(always(all), Objective.FIRST_REPLY, "01T08:30").dueMark())
                .as("it is gone")
                .hasValue(at("01T12:00"));
        events.add(new TicketEvent.PolicyPut(at("01T08:20"), IMANI, ""));
        assertThat(clock(always(all, anchor), Objective.FIRST_REPLY, "01T08:30").dueMark())
                .hasValue(at("01T12:00"));
    }

    @Test
    void a_plan_bought_in_mid_course_keeps_what_was_used_and_counts_from_the_same_start() {
        customer = Facts.none().with(KnownField.PLAN, "Anchor");
        Editions editions = always(
                policy("anchor", ANCHOR, Map.of(Objective.FIRST_REPLY, 2)),
                policy("all", Criteria.everything(), Map.of(Objective.FIRST_REPLY, 6)));
        opened("01T08:00");
        var before = new TicketEvent.CustomerKnown(Optional.of(new CompanyId(3)), "");
        events.add(new TicketEvent.CustomerChanged(
                at("01T09:00"),
                Actor.system(),
                before,
                new TicketEvent.CustomerKnown(Optional.of(new CompanyId(3)), "Anchor")));
        assertThat(Reckoning.reckon(events.subList(0, 1), Facts.none(), editions, at("01T08:30"))
                        .getFirst()
                        .dueMark())
                .hasValue(at("01T14:00"));
        TargetClock clock = clock(editions, Objective.FIRST_REPLY, "01T09:30");
        assertThat(clock.dueMark()).hasValue(at("01T10:00"));
        assertThat(clock.changes()).singleElement().satisfies(change -> {
            assertThat(change.at()).isEqualTo(at("01T09:00"));
            assertThat(change.policy()).hasValue("anchor");
        });
    }

    @Test
    void a_policy_edited_counts_from_its_coming_into_force_and_what_has_ended_stays() {
        opened("01T08:00").weWrote("01T11:00").customerWrote("01T12:00");
        Map<Objective, Integer> old = Map.of(Objective.FIRST_REPLY, 4, Objective.NEXT_REPLY, 4);
        Map<Objective, Integer> strict = Map.of(Objective.FIRST_REPLY, 1, Objective.NEXT_REPLY, 2);
        Editions editions = Editions.of(List.of(
                new Editions.Edition(Instant.EPOCH, book(policy("all", Criteria.everything(), old))),
                new Editions.Edition(at("01T13:00"), book(policy("all", Criteria.everything(), strict)))));
        assertThat(clock(editions, Objective.FIRST_REPLY, "01T15:00").late()).isFalse();
        TargetClock next = clock(editions, Objective.NEXT_REPLY, "01T13:30");
        assertThat(next.dueMark()).hasValue(at("01T14:00"));
        assertThat(next.changes()).extracting(ClockChange::why).containsExactly(ClockChange.Why.EDITION);
        assertThat(clock(editions, Objective.NEXT_REPLY, "01T12:59").dueMark()).hasValue(at("01T16:00"));
    }

    @Test
    void an_objective_that_a_new_edition_adds_counts_from_its_own_start() {
        opened("01T08:00");
        Editions editions = Editions.of(List.of(
                new Editions.Edition(
                        Instant.EPOCH, book(policy("all", Criteria.everything(), Map.of(Objective.FIRST_REPLY, 2)))),
                new Editions.Edition(
                        at("01T09:00"), book(policy("all", Criteria.everything(), Map.of(Objective.RESOLUTION, 8))))));
        assertThat(clock(editions, Objective.RESOLUTION, "01T10:00").dueMark()).hasValue(at("01T16:00"));
        assertThat(clock(editions, Objective.FIRST_REPLY, "01T10:00").state())
                .isEqualTo(new ClockState.Lifted(at("01T09:00")));
    }

    @Test
    void a_joined_ticket_neither_meets_nor_misses_and_one_that_was_no_request_leaves_all_figures() {
        Editions editions =
                always(policy("all", Criteria.everything(), Map.of(Objective.FIRST_REPLY, 2, Objective.RESOLUTION, 4)));
        opened("01T08:00").weWrote("01T08:30");
        events.add(new TicketEvent.Joined(at("01T09:00"), IMANI, new TicketNumber(4001)));
        assertThat(clock(editions, Objective.RESOLUTION, "03T09:00").state())
                .isEqualTo(new ClockState.Joined(at("01T09:00")));
        assertThat(clock(editions, Objective.RESOLUTION, "03T09:00").counts()).isFalse();
        events.removeLast();
        events.add(new TicketEvent.Discarded(at("01T09:00"), IMANI, "not a request"));
        assertThat(clocks(editions, "03T09:00"))
                .hasSize(2)
                .noneMatch(TargetClock::counts)
                .allMatch(c -> c.state() instanceof ClockState.Void);
    }

    @Test
    void a_ticket_taken_out_of_the_bin_goes_on_as_though_it_had_never_been_there() {
        Editions editions =
                always(policy("all", Criteria.everything(), Map.of(Objective.FIRST_REPLY, 2, Objective.RESOLUTION, 4)));
        opened("01T08:00");
        List<TargetClock> without = clocks(editions, "03T09:00");
        events.add(new TicketEvent.Discarded(at("01T09:00"), IMANI, "it was no request"));
        events.add(new TicketEvent.Restored(at("02T09:00"), IMANI));
        assertThat(clocks(editions, "03T09:00")).isEqualTo(without);
        events.add(new TicketEvent.Discarded(at("03T08:00"), IMANI, "it was deleted"));
        assertThat(clocks(editions, "03T09:00")).allMatch(c -> c.state() instanceof ClockState.Void);
    }

    @Test
    void taken_up_again_the_earlier_end_is_told_and_does_not_count() {
        Editions editions = always(policy("all", Criteria.everything(), Map.of(Objective.RESOLUTION, 8)));
        opened("01T08:00").moved("01T09:00", TicketState.RESOLVED).customerWrote("02T08:00");
        TargetClock clock = clock(editions, Objective.RESOLUTION, "02T09:00");
        assertThat(clock.changes()).extracting(ClockChange::why).contains(ClockChange.Why.REOPENED);
        assertThat(clock.used()).isEqualTo(Duration.ofHours(2));
        assertThat(clock.counts()).isFalse();
    }

    @Test
    void whoever_gets_a_ticket_when_most_of_the_time_is_used_got_it_late() {
        Editions editions = always(policy("all", Criteria.everything(), Map.of(Objective.FIRST_REPLY, 4)));
        opened("01T08:00").owned("01T09:00", Optional.of(new PersonId(1)));
        assertThat(clock(editions, Objective.FIRST_REPLY, "01T10:00").reachedLate())
                .isFalse();
        owned("01T11:00", Optional.of(new PersonId(2)));
        TargetClock clock = clock(editions, Objective.FIRST_REPLY, "01T11:10");
        assertThat(clock.reachedLate()).isTrue();
        assertThat(clock.owner()).hasValue(new PersonId(2));
    }

    // ------------------------------------------------------------------ steps

    private static final Step SOON =
            new Step("soon", Objective.FIRST_REPLY, new Step.When.Before(Duration.ofMinutes(30)), List.of());
    private static final Step HALF = new Step("half", Objective.FIRST_REPLY, new Step.When.Used(50), List.of());
    private static final Step LATE =
            new Step("late", Objective.FIRST_REPLY, new Step.When.After(Duration.ofHours(1)), List.of());

    private Map<String, Instant> steps(Editions editions, String now) {
        var found = new java.util.HashMap<String, Instant>();
        clock(editions, Objective.FIRST_REPLY, now)
                .steps()
                .forEach(time -> found.put(time.step().id(), time.at()));
        return found;
    }

    @Test
    void steps_stand_at_their_working_time_before_and_after_the_due_instant() {
        Editions editions =
                always(policy("all", Criteria.everything(), Map.of(Objective.FIRST_REPLY, 4), SOON, HALF, LATE));
        opened("05T15:00");
        assertThat(steps(editions, "05T15:30"))
                .containsEntry("half", at("05T17:00"))
                .containsEntry("soon", at("08T09:30"))
                .containsEntry("late", at("08T11:00"));
        assertThat(steps(editions, "08T12:00")).isEqualTo(steps(editions, "05T15:30"));
    }

    @Test
    void a_step_that_a_higher_priority_finds_past_stands_at_the_change() {
        Editions editions = always(policy("all", Criteria.everything(), Map.of(Objective.FIRST_REPLY, 4), HALF));
        opened("01T08:00");
        events.add(new TicketEvent.PriorityChanged(at("01T09:00"), IMANI, Priority.P1));
        assertThat(steps(editions, "01T09:10")).containsEntry("half", at("01T09:00"));
    }

    @Test
    void a_step_that_a_new_edition_finds_past_never_stands_anywhere() {
        opened("01T08:00");
        Editions editions = Editions.of(List.of(
                new Editions.Edition(
                        Instant.EPOCH, book(policy("all", Criteria.everything(), Map.of(Objective.FIRST_REPLY, 8)))),
                new Editions.Edition(
                        at("01T12:00"),
                        book(policy(
                                "all", Criteria.everything(), Map.of(Objective.FIRST_REPLY, 4), SOON, HALF, LATE)))));
        assertThat(steps(editions, "01T12:10")).containsOnlyKeys("late").containsEntry("late", at("01T13:00"));
    }

    @Test
    void while_a_clock_is_held_its_steps_to_come_have_no_instant() {
        Editions editions = always(policy("all", Criteria.everything(), Map.of(Objective.FIRST_REPLY, 4), SOON, HALF));
        opened("01T08:00").moved("01T11:00", TicketState.WITH_PARTNER);
        assertThat(steps(editions, "01T12:00")).containsOnlyKeys("half");
    }

    // ------------------------------------------------------------------ laws

    static LongStream seeds() {
        return Seeds.upTo(80);
    }

    private static Editions random(Random random) {
        var editions = new ArrayList<Editions.Edition>();
        Instant from = Instant.EPOCH;
        for (int i = 0; i <= random.nextInt(3); i++) {
            var hours = new EnumMap<Objective, Integer>(Objective.class);
            for (Objective objective : Objective.values()) {
                if (random.nextInt(4) > 0) {
                    hours.put(objective, 1 + random.nextInt(20));
                }
            }
            Policy urgent = policy("urgent", Criteria.test(KnownField.PRIORITY, Operator.AT_LEAST, "P2"), hours, HALF);
            Policy rest = policy(
                    "rest", Criteria.test(KnownField.TAGS, Operator.HAS_NONE, "lost"), Map.of(Objective.RESOLUTION, 9));
            editions.add(new Editions.Edition(from, book(urgent, rest)));
            from = Instant.parse("2027-03-03T07:00:00Z").plusSeconds(random.nextInt(2_500_000));
        }
        return Editions.of(editions);
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void what_is_to_come_never_changes_a_clock_of_the_past_also_with_policies_and_editions(long seed) {
        Editions editions = random(new Random(seed));
        List<TicketEvent> all = RandomHistory.of(seed);
        Instant then = all.get(new Random(seed).nextInt(all.size())).at();
        List<TicketEvent> known =
                all.stream().filter(e -> !e.at().isAfter(then)).toList();
        Editions knownEditions = Editions.of(
                editions.all().stream().filter(e -> !e.from().isAfter(then)).toList());
        assertThat(shape(Reckoning.reckon(all, Facts.none(), editions, then)))
                .isEqualTo(shape(Reckoning.reckon(known, Facts.none(), knownEditions, then)));
    }

    @ParameterizedTest
    @MethodSource("seeds")
    void segments_tile_and_a_later_edition_never_changes_what_has_ended(long seed) {
        Editions editions = random(new Random(seed));
        List<TicketEvent> all = RandomHistory.of(seed);
        Instant now = all.getLast().at().plus(Duration.ofHours(5));
        var later = new ArrayList<>(editions.all());
        later.add(new Editions.Edition(
                now, book(policy("new", Criteria.everything(), Map.of(Objective.RESOLUTION, 1)))));
        List<TargetClock> before = Reckoning.reckon(all, Facts.none(), editions, now);
        List<TargetClock> after = Reckoning.reckon(all, Facts.none(), Editions.of(later), now.plusSeconds(60));
        var ended = shape(before.stream()
                .filter(c -> c.ended().isPresent() && !(c.state() instanceof ClockState.Lifted))
                .toList());
        assertThat(shape(after)).containsAll(ended);
        for (TargetClock clock : before) {
            Instant edge = clock.started();
            Duration counted = Duration.ZERO;
            for (Segment segment : clock.segments()) {
                assertThat(segment.from()).isEqualTo(edge);
                edge = segment.to();
                counted = segment.counts() ? counted.plus(segment.working()) : counted;
            }
            assertThat(counted).isEqualTo(clock.used());
        }
    }

    /** All that a clock says, without the compiled policy behind it. */
    private static List<List<Object>> shape(List<TargetClock> clocks) {
        return clocks.stream()
                .map(c -> List.<Object>of(
                        c.objective(),
                        c.started(),
                        c.segments(),
                        c.changes(),
                        c.used(),
                        c.allowed(),
                        c.state(),
                        c.late(),
                        c.dueMark(),
                        c.steps(),
                        c.policy().map(p -> p.policy().id())))
                .toList();
    }

    // ------------------------------------------------------------------ times agreed with the customer

    private PolicyClocksTest agreed(String when, Optional<Instant> due) {
        events.add(new TicketEvent.TimeAgreed(at(when), IMANI, due, ""));
        return this;
    }

    private static Editions sixteenHours() {
        return always(policy("all", Criteria.everything(), Map.of(Objective.RESOLUTION, 16)));
    }

    @Test
    void another_time_agreed_with_the_customer_is_when_the_resolution_is_due() {
        opened("01T08:00").agreed("01T10:00", Optional.of(at("05T12:00")));
        TargetClock clock = clock(sixteenHours(), Objective.RESOLUTION, "01T11:00");
        assertThat(clock.dueMark()).hasValue(at("05T12:00"));
        assertThat(clock.used()).isEqualTo(Duration.ofHours(3));
        assertThat(clock.changes()).extracting(ClockChange::why).containsExactly(ClockChange.Why.AGREED);
    }

    @Test
    void a_time_agreed_within_closed_hours_means_the_last_working_moment_before() {
        opened("01T08:00").agreed("01T10:00", Optional.of(at("06T12:00")));
        assertThat(clock(sixteenHours(), Objective.RESOLUTION, "01T11:00").dueMark())
                .hasValue(at("05T17:00"));
    }

    @Test
    void a_time_agreed_moves_on_while_the_customer_has_the_turn() {
        opened("01T08:00")
                .agreed("01T10:00", Optional.of(at("02T12:00")))
                .weWrote("01T11:00")
                .customerWrote("01T15:00");
        assertThat(clock(sixteenHours(), Objective.RESOLUTION, "01T15:00").dueMark())
                .hasValue(at("02T16:00"));
    }

    @Test
    void a_time_agreed_outlasts_a_change_of_priority_and_its_taking_back_brings_what_the_policy_says() {
        opened("01T08:00").agreed("01T10:00", Optional.of(at("05T12:00")));
        events.add(new TicketEvent.PriorityChanged(at("01T12:00"), IMANI, Priority.P1));
        assertThat(clock(sixteenHours(), Objective.RESOLUTION, "01T13:00").dueMark())
                .hasValue(at("05T12:00"));
        agreed("01T14:00", Optional.empty());
        TargetClock clock = clock(sixteenHours(), Objective.RESOLUTION, "01T14:30");
        // P1 has four hours, and six were used when it was taken back.
        assertThat(clock.late()).isTrue();
        assertThat(clock.dueMark()).hasValue(at("01T14:00"));
        assertThat(clock.changes())
                .extracting(ClockChange::why)
                .containsExactly(ClockChange.Why.AGREED, ClockChange.Why.AS_PROMISED);
    }

    @Test
    void where_no_resolution_is_promised_a_time_agreed_is_a_promise_of_its_own() {
        Editions none = always(policy("all", Criteria.everything(), Map.of(Objective.FIRST_REPLY, 2)));
        opened("01T08:00");
        assertThat(Reckoning.latest(clocks(none, "01T09:00"))).doesNotContainKey(Objective.RESOLUTION);
        agreed("01T10:00", Optional.of(at("02T09:00")));
        TargetClock clock = clock(none, Objective.RESOLUTION, "01T11:00");
        assertThat(clock.dueMark()).hasValue(at("02T09:00"));
        agreed("01T12:00", Optional.empty());
        assertThat(clock(none, Objective.RESOLUTION, "01T13:00").state()).isInstanceOf(ClockState.Lifted.class);
    }

    @Test
    void other_objectives_know_nothing_of_a_time_agreed_for_the_resolution() {
        Editions both = always(
                policy("all", Criteria.everything(), Map.of(Objective.FIRST_REPLY, 2, Objective.RESOLUTION, 16)));
        opened("01T08:00").agreed("01T09:00", Optional.of(at("05T12:00")));
        assertThat(clock(both, Objective.FIRST_REPLY, "01T09:30").dueMark()).hasValue(at("01T10:00"));
    }
}
