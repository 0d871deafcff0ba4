package rafter.app.handout.queues;

import java.time.Duration;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.LongFunction;
import org.springframework.util.MultiValueMap;
import rafter.app.house.criteria.CriteriaForm;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.app.platform.Whole;
import rafter.core.criteria.Criteria;
import rafter.core.id.QueueId;
import rafter.core.id.SkillId;
import rafter.core.id.TeamId;
import rafter.core.routing.Handing;
import rafter.core.routing.Ordering;
import rafter.core.routing.Overflow;
import rafter.core.routing.Queue;
import rafter.core.time.Amount;

/** A queue as the fields of its form, and back. What is typed is kept as it is typed until it can be read. */
record QueueForm(
        QueueId id,
        int version,
        String name,
        boolean on,
        Criteria criteria,
        String order,
        String priority,
        String plan,
        String hour,
        Set<TeamId> teams,
        Set<SkillId> skills,
        Handing way,
        String answer,
        String own,
        List<Step> steps) {

    private static final String NOT_AT_ALL = "0 m";

    /** The ways that a queue can have. */
    static final List<Handing> WAYS = List.of(Handing.values());

    /** A step of the overflow as it was typed. */
    public record Step(String when, String time, Set<TeamId> teams) {}

    static QueueForm empty() {
        return new QueueForm(
                new QueueId(0),
                0,
                "",
                true,
                Criteria.everything(),
                "due",
                "10",
                "5",
                "1",
                Set.of(),
                Set.of(),
                Handing.PULL,
                "1 m",
                "",
                List.of());
    }

    static QueueForm of(Queues.Kept kept) {
        Queue queue = kept.queue();
        Ordering.Weighted points =
                queue.order() instanceof Ordering.Weighted weighted ? weighted : new Ordering.Weighted(10, 5, 1);
        String order = switch (queue.order()) {
            case Ordering.Due due -> "due";
            case Ordering.Oldest oldest -> "oldest";
            case Ordering.Weighted weighted -> "weighted";
        };
        return new QueueForm(
                queue.id(),
                kept.version(),
                queue.name(),
                queue.on(),
                queue.criteria(),
                order,
                Integer.toString(points.priority()),
                Integer.toString(points.plan()),
                Integer.toString(points.hour()),
                queue.teams(),
                queue.skills(),
                queue.way(),
                written(queue.answerWithin()),
                queue.ownFirst().map(Amount::written).orElse(""),
                queue.overflow().stream().map(QueueForm::step).toList());
    }

    private static Step step(Overflow step) {
        return switch (step.when()) {
            case Overflow.When.Waited(Duration time) -> new Step("waited", Amount.written(time), step.teams());
            case Overflow.When.NobodyFree nobody -> new Step("nobody-free", "", step.teams());
            case Overflow.When.DueWithin(Duration time) -> new Step("due-within", Amount.written(time), step.teams());
        };
    }

    static QueueForm read(MultiValueMap<String, String> typed) {
        var steps = new ArrayList<Step>();
        for (int i = 0; i <= Queue.MOST_STEPS && typed.containsKey("s." + i + ".when"); i++) {
            steps.add(new Step(
                    text(typed, "s." + i + ".when"),
                    text(typed, "s." + i + ".time"),
                    ids(typed, "s." + i + ".team", TeamId::new)));
        }
        return new QueueForm(
                new QueueId(Whole.of(text(typed, "id"), 0)),
                Whole.of(text(typed, "version"), 0),
                text(typed, "name"),
                typed.containsKey("on"),
                CriteriaForm.read(typed),
                text(typed, "order"),
                text(typed, "priority"),
                text(typed, "plan"),
                text(typed, "hour"),
                ids(typed, "team", TeamId::new),
                ids(typed, "skill", SkillId::new),
                WAYS.stream()
                        .filter(way -> way.name().equals(text(typed, "way")))
                        .findFirst()
                        .orElse(Handing.HAND),
                text(typed, "answer"),
                typed.containsKey("own-first") ? text(typed, "own").isEmpty() ? "0 m" : text(typed, "own") : "",
                steps);
    }

    private static String text(MultiValueMap<String, String> typed, String name) {
        return Say.orBlank(typed.getFirst(name)).strip();
    }

    private static <T> Set<T> ids(MultiValueMap<String, String> typed, String name, LongFunction<T> as) {
        var all = new HashSet<T>();
        typed.getOrDefault(name, List.of()).stream()
                .filter(one -> one.matches("\\d{1,15}"))
                .forEach(one -> all.add(as.apply(Long.parseLong(one))));
        return all;
    }

    /** This form after a button was pressed that changes its shape. */
    QueueForm after(String act) {
        var changed = new ArrayList<>(steps);
        if (act.equals("add-step") && changed.size() < Queue.MOST_STEPS) {
            changed.add(new Step("waited", "30 m", Set.of()));
        } else if (act.matches("remove-step:\\d") && act.charAt(12) - '0' < changed.size()) {
            changed.remove(act.charAt(12) - '0');
        }
        return new QueueForm(
                id,
                version,
                name,
                on,
                CriteriaForm.act(criteria, act),
                order,
                priority,
                plan,
                hour,
                teams,
                skills,
                way,
                answer,
                own,
                changed);
    }

    /**
     * The queue that it says.
     *
     * @throws Problem.Invalid when a number or a length of time in it cannot be read
     */
    Queue queue() {
        Ordering ordering = switch (order) {
            case "oldest" -> new Ordering.Oldest();
            case "weighted" -> new Ordering.Weighted(points(priority), points(plan), points(hour));
            default -> new Ordering.Due();
        };
        return new Queue(
                id,
                name,
                on,
                criteria,
                ordering,
                teams,
                skills,
                way,
                answer.isEmpty() ? Duration.ofMinutes(1) : answer(answer),
                own.isEmpty() ? Optional.empty() : Optional.of(own.equals(NOT_AT_ALL) ? Duration.ZERO : time(own)),
                steps.stream()
                        .map(step -> new Overflow(when(step), step.teams()))
                        .toList());
    }

    private static int points(String typed) {
        if (!typed.matches("\\d{1,4}") || Integer.parseInt(typed) > Ordering.Weighted.MOST) {
            throw new Problem.Invalid("“" + typed + "” are no points. They are a number from 0 to 1000.");
        }
        return Integer.parseInt(typed);
    }

    /** Who is asked answers within seconds or minutes. */
    private static Duration answer(String typed) {
        return typed.matches("\\d{1,4} ?s")
                ? Duration.ofSeconds(Long.parseLong(typed.replaceAll("\\D", "")))
                : time(typed);
    }

    private static String written(Duration time) {
        return time.toSecondsPart() == 0 ? Amount.written(time) : time.toSeconds() + " s";
    }

    private static Duration time(String typed) {
        return Amount.read(typed)
                .orElseThrow(
                        () -> new Problem.Invalid("“" + typed + "” is no length of time. Write it like 30 m or 4 h."));
    }

    private static Overflow.When when(Step step) {
        if (step.when().equals("nobody-free")) {
            return new Overflow.When.NobodyFree();
        }
        Duration time = time(step.time());
        return step.when().equals("due-within") ? new Overflow.When.DueWithin(time) : new Overflow.When.Waited(time);
    }
}
