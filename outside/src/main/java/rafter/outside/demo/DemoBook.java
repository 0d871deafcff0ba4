package rafter.outside.demo;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.springframework.context.ApplicationContext;
import rafter.app.promises.targets.StarterBook;
import rafter.app.promises.targets.TargetDrafts;
import rafter.app.tickets.clocks.Recalculation;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Operator;
import rafter.core.id.PersonId;
import rafter.core.target.CalendarPlan;
import rafter.core.target.Goal;
import rafter.core.target.Objective;
import rafter.core.target.Policy;
import rafter.core.target.PromiseBook;
import rafter.core.target.Step;
import rafter.core.ticket.Act;
import rafter.core.ticket.Priority;
import rafter.core.ticket.Turn;
import rafter.core.time.Entry;
import rafter.core.time.Holiday;
import rafter.core.time.HolidaySet;
import rafter.core.time.Repeat;

/** The ferry line's hours and promises. */
final class DemoBook {

    static final ZoneId ZONE = ZoneId.of("Europe/Oslo");
    static final String SHORE = "shore-office";
    static final String ALWAYS = "around-the-clock";

    private DemoBook() {}

    static void putIntoForce(ApplicationContext context, Instant now, PersonId by) {
        var drafts = context.getBean(TargetDrafts.class);
        drafts.save(
                book(now.atZone(ZONE).toLocalDate()), drafts.current().version(), by, "wrote down hours and targets");
        context.getBean(Recalculation.class)
                .run(drafts.putIntoForce(drafts.current().version(), by));
    }

    private static PromiseBook book(LocalDate today) {
        var holidays = HolidaySet.of(
                "line-holidays",
                "Holidays of the line",
                List.of(
                        new Holiday(today.minusDays(38), "Harbour festival"),
                                new Holiday(today.plusDays(32), "Midwinter day"),
                        new Holiday(today.plusDays(39), "New Year’s Day"),
                                new Holiday(today.plusDays(130), "Founders’ day")));
        return new PromiseBook(
                ZONE,
                SHORE,
                List.of(shore(today), nightDesk(), farQuay(), aroundTheClock()),
                List.of(holidays),
                policies());
    }

    private static CalendarPlan shore(LocalDate today) {
        var entries = new ArrayList<Entry>();
        entries.add(entry(
                "weekdays",
                "",
                Entry.Kind.OPENING,
                "2015-01-01T08:00",
                "2015-01-01T17:00",
                "FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR"));
        entries.add(entry(
                "saturday", "", Entry.Kind.OPENING, "2015-01-03T09:00", "2015-01-03T13:00", "FREQ=WEEKLY;BYDAY=SA"));
        entries.add(entry(
                "market",
                "Market Sunday",
                Entry.Kind.OPENING,
                "2015-01-11T10:00",
                "2015-01-11T14:00",
                "FREQ=MONTHLY;BYDAY=2SU"));
        entries.add(Entry.closed(today.plusDays(17), "Yard closed").withId("yard"));
        return new CalendarPlan(SHORE, "Shore office", Optional.empty(), false, entries, List.of("line-holidays"));
    }

    private static CalendarPlan nightDesk() {
        var night = entry("night", "", Entry.Kind.OPENING, "2015-01-01T22:00", "2015-01-02T06:00", "FREQ=DAILY");
        return new CalendarPlan("night-desk", "Night desk", Optional.empty(), false, List.of(night), List.of());
    }

    private static CalendarPlan aroundTheClock() {
        return new CalendarPlan(ALWAYS, "Around the clock", Optional.empty(), true, List.of(), List.of());
    }

    private static CalendarPlan farQuay() {
        var week = new ArrayList<Entry>();
        for (DayOfWeek day : List.of(
                DayOfWeek.MONDAY, DayOfWeek.TUESDAY, DayOfWeek.WEDNESDAY, DayOfWeek.THURSDAY, DayOfWeek.FRIDAY)) {
            week.add(Entry.weekly(day, LocalTime.of(9, 0), LocalTime.of(17, 0)));
        }
        return new CalendarPlan(
                "far-quay",
                "Agents overseas",
                Optional.of(ZoneId.of("America/St_Johns")),
                false,
                week,
                List.of("line-holidays"));
    }

    private static Entry entry(String id, String name, Entry.Kind kind, String start, String end, String rule) {
        return Entry.of(
                        id,
                        name,
                        kind,
                        LocalDateTime.parse(start),
                        LocalDateTime.parse(end),
                        Optional.of(Repeat.of(rule)))
                .synchronised();
    }

    private static List<Policy> policies() {
        var chats = new Policy(
                "chats",
                "Chats",
                "Somebody sits in front of it and waits.",
                true,
                new Criteria.All(List.of(Criteria.test(KnownField.CHANNEL, Operator.IS, "chat"))),
                Optional.of(ALWAYS),
                Map.of(Objective.FIRST_REPLY, minutes(2), Objective.NEXT_REPLY, minutes(3)),
                List.of());
        var callBacks = new Policy(
                "call-back",
                "Call back",
                "Somebody called and spoke with nobody.",
                true,
                new Criteria.All(List.of(Criteria.test(KnownField.TAGS, Operator.HAS_ANY, "call back"))),
                Optional.of(SHORE),
                Map.of(Objective.FIRST_REPLY, minutes(30)),
                List.of());
        var calls = new Policy(
                "calls",
                "Calls",
                "A telephone rings.",
                true,
                new Criteria.All(List.of(Criteria.test(KnownField.CHANNEL, Operator.IS, "telephone"))),
                Optional.of(ALWAYS),
                Map.of(Objective.PICK_UP, minutes(1)),
                List.of());
        var safety = new Policy(
                "on-board",
                "On board now",
                "Somebody is on a vessel while they write.",
                true,
                new Criteria.All(List.of(
                        Criteria.test(KnownField.SUBJECT, Operator.HAS_ANY, "wheelchair", "medical", "on board"))),
                Optional.empty(),
                goals(goal(4, 8, 16, 24), goal(4, 8, 16, 24), goal(24, 48, 96, 120), Optional.empty()),
                List.of());
        Criteria anchor = new Criteria.All(List.of(Criteria.test(KnownField.PLAN, Operator.IS, "Anchor")));
        var anchors = new Policy(
                "anchor",
                "Anchor customers",
                "As the Anchor contract says.",
                true,
                anchor,
                Optional.of(SHORE),
                goals(goal(1, 2, 4, 8), goal(1, 2, 4, 9), goal(6, 12, 18, 36), Optional.of(goal(2, 4, 9, 18))),
                List.of(
                        new Step(
                                "anchor-soon",
                                Objective.FIRST_REPLY,
                                new Step.When.Before(Duration.ofMinutes(30)),
                                List.of(new Act.Notify(
                                        Act.Whom.OWNER, "", "First reply to {customer} is due at {due}: {subject}"))),
                        new Step(
                                "anchor-late",
                                Objective.FIRST_REPLY,
                                new Step.When.After(Duration.ZERO),
                                List.of(
                                        new Act.Notify(
                                                Act.Whom.LEAD,
                                                "",
                                                "First reply to {customer}, an Anchor customer, is late: {subject}"),
                                        new Act.Tag("late")))));
        var harbour = new Policy(
                "harbour",
                "Harbour customers",
                "",
                true,
                new Criteria.All(List.of(Criteria.test(KnownField.PLAN, Operator.IS, "Harbour"))),
                Optional.of(SHORE),
                goals(goal(1, 3, 5, 9), goal(1, 3, 6, 12), goal(8, 16, 24, 45), Optional.empty()),
                List.of());
        var everybody = new Policy(
                "everybody",
                "Everybody",
                "Whoever no other policy is for.",
                true,
                Criteria.everything(),
                Optional.of(SHORE),
                goals(
                        StarterBook.goal(Objective.FIRST_REPLY, 1, 2, 4, 9),
                        StarterBook.goal(Objective.NEXT_REPLY, 1, 3, 6, 18),
                        StarterBook.goal(Objective.RESOLUTION, 8, 18, 27, 45),
                        Optional.empty()),
                List.of(new Step(
                        "all-late",
                        Objective.RESOLUTION,
                        new Step.When.After(Duration.ofHours(9)),
                        List.of(new Act.Notify(
                                Act.Whom.LEAD, "", "Ticket {ticket} is a day past its resolution: {subject}")))));
        return List.of(callBacks, calls, chats, safety, anchors, harbour, everybody);
    }

    private static Goal minutes(int minutes) {
        Duration within = Duration.ofMinutes(minutes);
        Map<Priority, Duration> all =
                Map.of(Priority.P1, within, Priority.P2, within, Priority.P3, within, Priority.P4, within);
        return new Goal(all, Set.of(Turn.CUSTOMER, Turn.PARTNER), 90, false);
    }

    private static Goal goal(int p1, int p2, int p3, int p4) {
        return StarterBook.goal(Objective.FIRST_REPLY, p1, p2, p3, p4);
    }

    private static Map<Objective, Goal> goals(Goal first, Goal next, Goal resolution, Optional<Goal> update) {
        var goals = new EnumMap<Objective, Goal>(Objective.class);
        goals.put(Objective.FIRST_REPLY, with(first, Set.of(Turn.CUSTOMER, Turn.PARTNER), 90));
        goals.put(Objective.NEXT_REPLY, with(next, Set.of(Turn.CUSTOMER, Turn.PARTNER), 90));
        goals.put(Objective.RESOLUTION, with(resolution, Set.of(Turn.CUSTOMER, Turn.PARTNER), 85));
        update.ifPresent(goal -> goals.put(Objective.REGULAR_UPDATE, with(goal, Set.of(Turn.CUSTOMER), 80)));
        return goals;
    }

    private static Goal with(Goal goal, Set<Turn> held, int share) {
        return new Goal(goal.within(), held, share, false);
    }
}
