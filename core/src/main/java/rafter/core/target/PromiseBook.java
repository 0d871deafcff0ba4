package rafter.core.target;

import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import rafter.core.criteria.Criteria;
import rafter.core.time.HolidaySet;
import rafter.core.time.WorkCalendar;

/**
 * All that a workspace promises and all that its promises count in: one document, changed and put into force as a whole.
 *
 * @param zone the workspace's time zone
 * @param defaultCalendar the id of the calendar that is used where none is named
 * @param policies in the order in which they are tried
 * @param risk when a clock is at risk; books of an earlier version do not say
 */
public record PromiseBook(
        ZoneId zone,
        String defaultCalendar,
        List<CalendarPlan> calendars,
        List<HolidaySet> holidaySets,
        List<Policy> policies,
        Optional<Risk> risk) {

    /** A book that says nothing of risk. */
    public PromiseBook(
            ZoneId zone,
            String defaultCalendar,
            List<CalendarPlan> calendars,
            List<HolidaySet> holidaySets,
            List<Policy> policies) {
        this(zone, defaultCalendar, calendars, holidaySets, policies, Optional.empty());
    }

    /** When a clock is at risk. */
    public Risk riskOrUsual() {
        return risk.orElse(Risk.USUAL);
    }

    public PromiseBook withRisk(Risk other) {
        return new PromiseBook(zone, defaultCalendar, calendars, holidaySets, policies, Optional.of(other));
    }

    public PromiseBook {
        calendars = List.copyOf(calendars);
        holidaySets = List.copyOf(holidaySets);
        policies = List.copyOf(policies);
        // A document that was written before has none.
        risk = Objects.requireNonNullElse(risk, Optional.empty());
    }

    /** The calendar of this id. */
    public Optional<CalendarPlan> plan(String id) {
        return calendars.stream().filter(plan -> plan.id().equals(id)).findFirst();
    }

    /** A calendar with its zone and its holidays. */
    public WorkCalendar calendar(CalendarPlan plan) {
        List<HolidaySet> sets = holidaySets.stream()
                .filter(set -> plan.holidaySets().contains(set.id()))
                .toList();
        return new WorkCalendar(plan.name(), plan.zone().orElse(zone), plan.aroundTheClock(), plan.entries(), sets);
    }

    /** The calendar in which a policy counts. */
    public WorkCalendar calendarOf(Policy policy) {
        return policy.calendar()
                .flatMap(this::plan)
                .map(this::calendar)
                .orElseGet(() -> WorkCalendar.aroundTheClock("Around the clock", zone));
    }

    /** The policy of this id. */
    public Optional<Policy> policy(String id) {
        return policies.stream().filter(policy -> policy.id().equals(id)).findFirst();
    }

    public PromiseBook withPolicies(List<Policy> others) {
        return new PromiseBook(zone, defaultCalendar, calendars, holidaySets, others, risk);
    }

    public PromiseBook withCalendars(List<CalendarPlan> others) {
        return new PromiseBook(zone, defaultCalendar, others, holidaySets, policies, risk);
    }

    public PromiseBook withHolidaySets(List<HolidaySet> others) {
        return new PromiseBook(zone, defaultCalendar, calendars, others, policies, risk);
    }

    public PromiseBook withDefault(String calendar) {
        return new PromiseBook(zone, calendar, calendars, holidaySets, policies, risk);
    }

    public PromiseBook withZone(ZoneId other) {
        return new PromiseBook(other, defaultCalendar, calendars, holidaySets, policies, risk);
    }

    /** What keeps it from being put into force, in words; empty when nothing does. */
    public List<String> faults() {
        var faults = new ArrayList<String>();
        var names = new HashSet<String>();
        if (plan(defaultCalendar).isEmpty()) {
            faults.add("No calendar is the default.");
        }
        calendars.forEach(plan -> faultsOf(plan, faults));
        for (Policy policy : policies) {
            if (!names.add(policy.name())) {
                faults.add("Two policies are called “" + policy.name() + "”.");
            }
            if (policy.calendar().isPresent()
                    && policy.calendar().flatMap(this::plan).isEmpty()) {
                faults.add("Policy “" + policy.name() + "” counts in a calendar that is gone.");
            }
            if (policy.goals().isEmpty()) {
                faults.add("Policy “" + policy.name() + "” promises nothing.");
            }
            Criteria.faults(policy.criteria()).forEach(fault -> faults.add("Policy “" + policy.name() + "”: " + fault));
        }
        return faults;
    }

    private void faultsOf(CalendarPlan plan, List<String> faults) {
        plan.entries()
                .forEach(entry -> entry.trouble()
                        .ifPresent(trouble -> faults.add(
                                "Calendar “" + plan.name() + "”, entry “" + entry.name() + "”: " + trouble + ".")));
        plan.holidaySets().stream()
                .filter(set ->
                        holidaySets.stream().noneMatch(known -> known.id().equals(set)))
                .forEach(set -> faults.add("Calendar “" + plan.name() + "” uses a holiday set that is gone."));
    }
}
