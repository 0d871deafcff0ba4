package rafter.app.promises.policies;

import java.time.Duration;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import org.springframework.util.MultiValueMap;
import rafter.app.house.criteria.CriteriaForm;
import rafter.app.platform.Problem;
import rafter.core.criteria.Criteria;
import rafter.core.criteria.KnownField;
import rafter.core.target.Goal;
import rafter.core.target.Objective;
import rafter.core.target.Policy;
import rafter.core.target.Step;
import rafter.core.text.Placeholder;
import rafter.core.ticket.Act;
import rafter.core.ticket.ActForm;
import rafter.core.ticket.Priority;
import rafter.core.ticket.Turn;
import rafter.core.time.Amount;

/** A policy as the fields of its form, and back. What is typed is kept as it is typed until it can be read. */
record PolicyForm(
        String id,
        String name,
        String description,
        boolean on,
        String calendar,
        Criteria criteria,
        List<GoalLine> goals,
        List<StepLine> steps) {

    private static final Set<String> PLACEHOLDERS = Placeholder.names(Placeholder.forSteps());

    private static final int MOST_STEPS = 40;

    /** The promises for one objective; durations by priority, empty for none. */
    public record GoalLine(
            String objective,
            String words,
            String help,
            Map<String, String> within,
            String share,
            boolean heldCustomer,
            boolean heldPartner,
            boolean canMeetByMachine,
            boolean automaticMeets) {}

    /**
     * One act of a step.
     *
     * @param when {@code before}, {@code used} or {@code after}
     * @param amount a duration, or a share of a hundred
     * @param act {@code notify-owner}, {@code notify-team}, {@code notify-lead}, {@code notify-address}, {@code raise}, {@code hand-over}, {@code
     *     tag} or {@code note}
     * @param target an address, the id of a team, or a tag
     */
    public record StepLine(
            String id, String objective, String when, String amount, String act, String target, String text) {}

    static PolicyForm empty(String calendar) {
        return of(new Policy("new", "", "", true, Criteria.everything(), Optional.of(calendar), Map.of(), List.of()));
    }

    static PolicyForm of(Policy p) {
        var goals = new ArrayList<GoalLine>();
        for (Objective objective : Objective.values()) {
            goals.add(line(objective, Optional.ofNullable(p.goals().get(objective))));
        }
        var steps = new ArrayList<StepLine>();
        for (Step step : p.steps()) {
            for (int i = 0; i < step.acts().size(); i++) {
                steps.add(line(step, step.acts().get(i), i == 0 ? step.id() : step.id() + "-" + (i + 1)));
            }
        }
        return new PolicyForm(
                p.id(), p.name(), p.description(), p.on(), p.calendar().orElse(""), p.criteria(), goals, steps);
    }

    private static GoalLine line(Objective objective, Optional<Goal> goal) {
        var within = new java.util.LinkedHashMap<String, String>();
        for (Priority priority : Priority.values()) {
            within.put(
                    priority.name(),
                    goal.flatMap(g -> g.of(priority)).map(Amount::written).orElse(""));
        }
        Goal shown = goal.orElseGet(() -> Goal.usual(objective, Map.of()));
        return new GoalLine(
                objective.name(),
                objective.words(),
                help(objective),
                within,
                Integer.toString(shown.share()),
                shown.held().contains(Turn.CUSTOMER),
                shown.held().contains(Turn.PARTNER),
                objective == Objective.FIRST_REPLY,
                shown.automaticMeets());
    }

    private static String help(Objective objective) {
        return switch (objective) {
            case FIRST_REPLY -> "from the request to a person’s first answer";
            case NEXT_REPLY -> "from a customer’s message to our next answer";
            case RESOLUTION -> "from the request until it is resolved";
            case PICK_UP -> "until a person owns it";
            case REGULAR_UPDATE -> "never silent for longer than";
        };
    }

    private static StepLine line(Step step, Act.Automatic act, String id) {
        String when = switch (step.when()) {
            case Step.When.Before b -> "before";
            case Step.When.Used u -> "used";
            case Step.When.After a -> "after";
        };
        String amount = switch (step.when()) {
            case Step.When.Before(Duration left) -> Amount.written(left);
            case Step.When.Used(int percent) -> Integer.toString(percent);
            case Step.When.After(Duration late) -> Amount.written(late);
        };
        String objective = step.objective().name();
        return switch (act) {
            case Act.Notify n ->
                new StepLine(
                        id,
                        objective,
                        when,
                        amount,
                        "notify-" + n.whom().name().toLowerCase(Locale.ROOT),
                        n.address(),
                        n.message());
            case Act.RaisePriority r -> new StepLine(id, objective, when, amount, "raise", "", "");
            case Act.HandOver h ->
                new StepLine(id, objective, when, amount, "hand-over", h.team().toString(), "");
            case Act.Tag t -> new StepLine(id, objective, when, amount, "tag", t.tag(), "");
            case Act.Note n -> new StepLine(id, objective, when, amount, "note", "", n.text());
        };
    }

    // ------------------------------------------------------------------ from the page

    /** What a form says, as it was typed. */
    static PolicyForm read(MultiValueMap<String, String> form) {
        var goals = new ArrayList<GoalLine>();
        for (Objective objective : Objective.values()) {
            goals.add(goal(form, objective));
        }
        var steps = new ArrayList<StepLine>();
        for (int i = 0; i < MOST_STEPS; i++) {
            String at = "s." + i + ".";
            if (form.containsKey(at + "act")) {
                steps.add(new StepLine(
                        text(form, at + "id"),
                        text(form, at + "objective"),
                        text(form, at + "when"),
                        text(form, at + "amount"),
                        text(form, at + "act"),
                        text(form, at + "target"),
                        text(form, at + "text")));
            }
        }
        return new PolicyForm(
                text(form, "id"),
                text(form, "name"),
                text(form, "description"),
                form.containsKey("on"),
                text(form, "calendar"),
                CriteriaForm.read(form),
                goals,
                steps);
    }

    private static GoalLine goal(MultiValueMap<String, String> form, Objective objective) {
        String at = "g." + objective.name() + ".";
        var within = new java.util.LinkedHashMap<String, String>();
        for (Priority priority : Priority.values()) {
            within.put(priority.name(), text(form, at + priority.name()));
        }
        return new GoalLine(
                objective.name(),
                objective.words(),
                help(objective),
                within,
                text(form, at + "share"),
                form.containsKey(at + "customer"),
                form.containsKey(at + "partner"),
                objective == Objective.FIRST_REPLY,
                form.containsKey(at + "automatic"));
    }

    private static String text(MultiValueMap<String, String> form, String name) {
        String value = form.getFirst(name);
        return value == null ? "" : value.strip();
    }

    /** This form after a button was pressed that changes its shape. */
    PolicyForm after(String act) {
        if (act.equals("add-step")) {
            var more = new ArrayList<>(steps);
            more.add(new StepLine(
                    "",
                    Objective.FIRST_REPLY.name(),
                    "before",
                    "30 m",
                    "notify-owner",
                    "",
                    "{target} of {ticket} is due at {due}: {subject}"));
            return with(criteria, more);
        }
        if (act.matches("remove-step:\\d{1,2}")) {
            var fewer = new ArrayList<>(steps);
            int at = Integer.parseInt(act.substring(act.indexOf(':') + 1));
            if (at < fewer.size()) {
                fewer.remove(at);
            }
            return with(criteria, fewer);
        }
        return with(CriteriaForm.act(criteria, act), steps);
    }

    private PolicyForm with(Criteria other, List<StepLine> others) {
        return new PolicyForm(id, name, description, on, calendar, other, goals, others);
    }

    /**
     * The policy that the form says.
     *
     * @throws Problem.Invalid when something in it is missing or wrong
     */
    Policy policy() {
        if (name.isBlank()) {
            throw new Problem.Invalid("The policy needs a name.");
        }
        var faults = new ArrayList<>(Criteria.faults(criteria));
        Criteria.asked(criteria).stream()
                .filter(field -> !KnownField.ofPromises().contains(field))
                .forEach(field -> faults.add("A promise cannot depend on " + field.words() + "."));
        if (!faults.isEmpty()) {
            throw new Problem.Invalid(String.join(" ", faults));
        }
        var promised = new EnumMap<Objective, Goal>(Objective.class);
        for (GoalLine line : goals) {
            goal(line).ifPresent(goal -> promised.put(Objective.valueOf(line.objective()), goal));
        }
        if (promised.isEmpty()) {
            throw new Problem.Invalid(
                    "The policy promises nothing yet. Fill in a duration for at least one objective.");
        }
        Optional<String> hours = calendar.isEmpty() ? Optional.empty() : Optional.of(calendar);
        String fixed = id.equals("new") ? "policy-" + UUID.randomUUID() : id;
        return new Policy(fixed, name, description, on, criteria, hours, promised, steps(promised));
    }

    private static Optional<Goal> goal(GoalLine line) {
        var within = new EnumMap<Priority, Duration>(Priority.class);
        line.within().forEach((priority, typed) -> {
            if (!typed.isBlank()) {
                within.put(Priority.valueOf(priority), duration(typed, line.words() + " of " + priority));
            }
        });
        if (within.isEmpty()) {
            return Optional.empty();
        }
        var held = EnumSet.noneOf(Turn.class);
        if (line.heldCustomer()) {
            held.add(Turn.CUSTOMER);
        }
        if (line.heldPartner()) {
            held.add(Turn.PARTNER);
        }
        return Optional.of(
                new Goal(within, held, share(line.share(), "the goal of " + line.words()), line.automaticMeets()));
    }

    private List<Step> steps(Map<Objective, Goal> promised) {
        var all = new ArrayList<Step>();
        var ids = new HashSet<String>();
        for (StepLine line : steps) {
            Objective objective = Objective.valueOf(line.objective());
            if (!promised.containsKey(objective)) {
                throw new Problem.Invalid(
                        "A step belongs to " + objective.words() + ", which the policy does not promise.");
            }
            String step = line.id().isEmpty() || !ids.add(line.id()) ? "step-" + UUID.randomUUID() : line.id();
            ids.add(step);
            all.add(new Step(step, objective, when(line), List.of(act(line))));
        }
        return all;
    }

    private static Step.When when(StepLine line) {
        return switch (line.when()) {
            case "used" -> new Step.When.Used(share(line.amount(), "the share of a step"));
            case "after" ->
                new Step.When.After(
                        line.amount().matches("0?( *[hm])?") ? Duration.ZERO : duration(line.amount(), "a step"));
            default -> new Step.When.Before(duration(line.amount(), "a step"));
        };
    }

    private static Act.Automatic act(StepLine line) {
        boolean tells = line.act().startsWith("notify-");
        ActForm form = tells
                ? ActForm.NOTIFY
                : switch (line.act()) {
                    case "raise" -> ActForm.RAISE;
                    case "hand-over" -> ActForm.TEAM;
                    case "tag" -> ActForm.TAG;
                    case "note" -> ActForm.NOTE;
                    default -> throw new Problem.Invalid("A step does nothing that there is.");
                };
        if (line.text().isBlank() && (form == ActForm.NOTE || form == ActForm.NOTIFY)) {
            throw new Problem.Invalid("A step that tells or notes something needs words.");
        }
        if (line.target().isBlank() && form == ActForm.TAG) {
            throw new Problem.Invalid("A step tags, but with no tag.");
        }
        var typed = Map.of(
                "team", line.target(),
                "tag", line.target(),
                "address", line.target(),
                "whom", line.act().replace("notify-", "").toUpperCase(Locale.ROOT),
                "text", line.text());
        try {
            return (Act.Automatic) form.read(new ActForm.Filled(typed, none -> Optional.empty(), PLACEHOLDERS));
        } catch (ActForm.Unfilled e) {
            throw new Problem.Invalid("In a step: " + e.words());
        }
    }

    private static int share(String typed, String what) {
        if (!typed.matches("100|[1-9]\\d?")) {
            throw new Problem.Invalid("“" + typed + "” is no share for " + what + ": write a number from 1 to 100.");
        }
        return Integer.parseInt(typed);
    }

    /**
     * A duration of working time as people type it: "4 h", "1 h 30", "45 m"; a bare number means minutes. In days nobody promises, for a
     * working day has no one length.
     *
     * @throws Problem.Invalid when it is none
     */
    static Duration duration(String typed, String what) {
        Duration d = Amount.read(typed)
                .filter(read -> !typed.toLowerCase(Locale.ROOT).contains("d"))
                .orElseThrow(() -> new Problem.Invalid(
                        "“" + typed + "” for " + what + " is no duration. Write it like 4 h or 45 m."));
        if (d.isZero()) {
            throw new Problem.Invalid(
                    "“" + typed + "” for " + what + " would be late at once. Write it like 4 h or 45 m.");
        }
        return d;
    }
}
