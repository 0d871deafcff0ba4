package rafter.app.tickets.clocks;

import static rafter.database.Tables.STEP_FIRED;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Viewer;
import rafter.app.house.access.Viewers;
import rafter.app.house.criteria.CriteriaNames;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.app.promises.targets.ClockView;
import rafter.app.promises.targets.Rail;
import rafter.app.promises.targets.Targets;
import rafter.app.promises.targets.Terms;
import rafter.app.promises.targets.Tone;
import rafter.app.tickets.acts.CustomerFacts;
import rafter.app.tickets.acts.TicketStore;
import rafter.core.criteria.Fact;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.Matching;
import rafter.core.criteria.Sentence;
import rafter.core.id.TicketNumber;
import rafter.core.target.ClockChange;
import rafter.core.target.ClockState;
import rafter.core.target.Editions;
import rafter.core.target.Policy;
import rafter.core.target.Segment;
import rafter.core.target.TargetClock;
import rafter.core.target.TicketFacts;
import rafter.core.ticket.Steering;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.Turn;
import rafter.core.time.Closing;
import rafter.core.time.WorkingTime;

/** Explains every clock of a ticket: which policy holds and why, what counted, what paused it, and what changed. */
@Component
class ReckoningPage {

    private static final DateTimeFormatter MOMENT = DateTimeFormatter.ofPattern("EEE d MMM HH:mm", Locale.ENGLISH);

    /** The page. */
    public record View(TicketNumber number, String subject, List<ClockReckoning> clocks, String zone) {}

    /**
     * One run of one clock.
     *
     * @param question what it answers, such as "Why is the first reply due Mon 11:43?"
     * @param because which policy matched and which did not, in order
     * @param rows what its life was made of
     * @param steps the steps to come and those that fired
     */
    public record ClockReckoning(
            String id,
            String objective,
            String tone,
            String question,
            String hours,
            List<String> because,
            Rail rail,
            List<Row> rows,
            List<String> steps,
            boolean live) {}

    /** A line: when, what, how much, and how much so far; {@code kind} is {@code used}, {@code held}, {@code change}, {@code closed} or {@code end}. */
    public record Row(String when, String what, String amount, String sum, String kind) {}

    /** A row before it is put in order. */
    private record Placed(Instant at, Row row) {}

    private final DSLContext sql;
    private final TicketStore store;
    private final CustomerFacts customerFacts;
    private final Targets targets;
    private final CriteriaNames names;
    private final Clock clock;
    private final Viewers viewers;

    ReckoningPage(
            DSLContext sql,
            TicketStore store,
            CustomerFacts customerFacts,
            Targets targets,
            CriteriaNames names,
            Clock clock,
            Viewers viewers) {
        this.viewers = viewers;
        this.sql = sql;
        this.store = store;
        this.customerFacts = customerFacts;
        this.targets = targets;
        this.names = names;
        this.clock = clock;
    }

    /**
     * The reckoning of a ticket's clocks, those that are live first.
     *
     * @throws Problem.NotFound when there is no ticket of this number
     */
    @Transactional(readOnly = true)
    View load(TicketNumber number, Viewer me) {
        viewers.insist(me, number);
        List<TicketEvent> events = store.events(number);
        if (events.isEmpty()) {
            throw new Problem.NotFound("There is no ticket " + number + ".");
        }
        Instant now = clock.instant();
        Terms terms = targets.terms();
        Facts customer = customerFacts.customer(number);
        List<TargetClock> clocks = targets.reckon(events, customer, now, terms).stream()
                .sorted(Comparator.comparing((TargetClock c) -> !c.live())
                        .thenComparing(TargetClock::started, Comparator.reverseOrder()))
                .toList();
        var shown = clocks.stream()
                .map(c -> explain(number, c, events, customer, terms, now))
                .toList();
        return new View(
                number, Ticket.replay(events).subject(), shown, terms.zone().getId());
    }

    private ClockReckoning explain(
            TicketNumber number, TargetClock c, List<TicketEvent> events, Facts customer, Terms terms, Instant now) {
        ZoneId zone = terms.zone();
        String id = c.objective().name().toLowerCase(Locale.ROOT).replace('_', '-') + "-"
                + c.started().getEpochSecond();
        String tone = c.live() || c.late() ? Tone.of(c).css() : "calm";
        return new ClockReckoning(
                id,
                ClockView.css(c.objective()),
                tone,
                question(c, now, zone),
                hours(c),
                because(c, events, customer, terms),
                Rail.of(c),
                rows(c, allowedAtFirst(c, events, customer, terms), zone),
                steps(number, c, now, zone),
                c.live());
    }

    private static String hours(TargetClock c) {
        return c.policy()
                .map(p -> p.hours().calendar())
                .map(cal -> cal.aroundTheClock()
                        ? "around the clock"
                        : "in the hours of " + cal.name() + ", " + cal.zone().getId())
                .orElse("");
    }

    private static String question(TargetClock c, Instant now, ZoneId zone) {
        String what = c.objective().words();
        return switch (c.state()) {
            case ClockState.Running r ->
                r.due()
                        .map(due -> "Why is the " + what + (c.late() ? " late since " : " due ")
                                + Say.when(due, now, zone) + "?")
                        .orElse("Why is the " + what + " never due?");
            case ClockState.Held h ->
                "Why is the " + what + " paused"
                        + (c.late() ? ", and late?" : " with " + Say.worked(h.left()) + " left?");
            case ClockState.Met m ->
                "Why was the " + what + (c.late() ? " missed " : " met ") + Say.when(m.at(), now, zone) + "?";
            case ClockState.Lifted l -> "Why is there no " + what + " any more?";
            case ClockState.Joined j -> "Why did the " + what + " end?";
            case ClockState.Void v -> "Why does the " + what + " not count?";
        };
    }

    /** The policies that were tried when the clock began, and what came of it. */
    private List<String> because(TargetClock c, List<TicketEvent> events, Facts customer, Terms terms) {
        Instant at =
                c.changes().stream().map(ClockChange::at).reduce((a, b) -> b).orElse(c.started());
        Optional<Policy> put = terms.editions().put(at, steering(events, at).policy());
        if (put.isPresent()) {
            return List.of("“" + put.get().name() + "” was put on the ticket by hand or by a rule, whatever it asks.");
        }
        Facts facts = TicketFacts.at(at, customer, events);
        Sentence sentence = names.sentence();
        var because = new ArrayList<String>();
        for (Editions.Tried tried : terms.editions().tried(at, facts)) {
            String why = Matching.decisive(tried.verdict()).stream()
                    .map(sentence::why)
                    .distinct()
                    .collect(Collectors.joining("; "));
            because.add("“" + tried.policy().name() + "” "
                    + (tried.verdict().matches()
                            ? "matched" + (why.isEmpty() ? ": it takes all tickets" : ": " + why) + "."
                            : "was read before and did not: " + why + "."));
        }
        if (because.isEmpty() || terms.editions().match(at, facts).isEmpty()) {
            because.add("No policy matched.");
        }
        return because.reversed();
    }

    private static Steering steering(List<TicketEvent> events, Instant at) {
        return Ticket.replay(events.stream()
                        .takeWhile(event -> !event.at().isAfter(at))
                        .toList())
                .steering();
    }

    private static List<Row> rows(TargetClock c, Optional<Duration> allowed, ZoneId zone) {
        var placed = new ArrayList<Placed>();
        String begins =
                "begins" + allowed.map(d -> "; " + Say.worked(d) + " allowed").orElse("; nothing promised yet");
        placed.add(new Placed(c.started(), new Row(moment(c.started(), zone), begins, "", "0 m", "change")));
        Duration sum = Duration.ZERO;
        for (Segment s : c.segments()) {
            sum = s.counts() ? sum.plus(s.working()) : sum;
            String what = s.counts() ? turn(s.turn()) + ", counted" : "paused: " + turn(s.turn());
            String range = moment(s.from(), zone) + " to " + moment(s.to(), zone);
            placed.add(new Placed(
                    s.from(),
                    new Row(
                            range,
                            what,
                            s.counts() ? Say.worked(s.working()) : "–",
                            s.counts() ? Say.worked(sum) : "",
                            s.counts() ? "used" : "held")));
            placed.addAll(closings(c, s, zone));
        }
        c.changes().forEach(change -> placed.add(placed(change, zone)));
        // A change stands above the stretch that begins with it.
        placed.sort(Comparator.comparing(Placed::at)
                .thenComparing(one -> !one.row().kind().equals("change")));
        var rows = new ArrayList<>(placed.stream().map(Placed::row).toList());
        rows.add(end(c, zone));
        return rows;
    }

    private static Placed placed(ClockChange change, ZoneId zone) {
        String now = change.allowed().map(d -> Say.worked(d) + " allowed").orElse("not promised any more");
        String policy = change.policy().map(name -> " under “" + name + "”").orElse("");
        return new Placed(
                change.at(),
                new Row(moment(change.at(), zone), change.why().words() + ": " + now + policy, "", "", "change"));
    }

    /** What was promised when the clock began. */
    private static Optional<Duration> allowedAtFirst(
            TargetClock c, List<TicketEvent> events, Facts customer, Terms terms) {
        Facts facts = TicketFacts.at(c.started(), customer, events);
        return terms.editions()
                .match(c.started(), facts)
                .flatMap(p -> Optional.ofNullable(p.policy().goals().get(c.objective())))
                .flatMap(goal -> facts.of(KnownField.PRIORITY, Fact.Ranked.class)
                        .map(Fact.Ranked::priority)
                        .flatMap(goal::of));
    }

    /** Holidays and closings that took open time away within a counted stretch. */
    private static List<Placed> closings(TargetClock c, Segment s, ZoneId zone) {
        if (!s.counts() || c.policy().isEmpty()) {
            return List.of();
        }
        WorkingTime hours = c.policy().get().hours();
        var placed = new ArrayList<Placed>();
        for (Closing closing : hours.closings(s.from(), s.to())) {
            ZoneId own = closing.zone();
            String of = own.equals(zone) ? "" : ", a day of " + own.getId();
            Instant at = closing.time().startInclusive().isBefore(s.from())
                    ? s.from()
                    : closing.time().startInclusive();
            placed.add(new Placed(
                    at.plusNanos(1),
                    new Row(
                            moment(closing.time().startInclusive(), zone) + " to "
                                    + moment(closing.time().endExclusive(), zone),
                            (closing.name().isBlank() ? "closed" : "closed: " + closing.name()) + of,
                            "–",
                            "",
                            "closed")));
        }
        return placed;
    }

    private static Row end(TargetClock c, ZoneId zone) {
        boolean over = c.late() && !c.left().isPositive();
        String left = Say.worked(c.left())
                + (over ? " over of " : " left of ")
                + Say.worked(c.allowed())
                + (c.late() && !over ? ", and late by an earlier promise" : "");
        return switch (c.state()) {
            case ClockState.Running r ->
                new Row(r.due().map(due -> "due " + moment(due, zone)).orElse("never due"), left, "", "", "end");
            case ClockState.Held h -> new Row("paused", left + "; the due time moves on with the pause", "", "", "end");
            case ClockState.Met m ->
                new Row("ended " + moment(m.at(), zone), (c.late() ? "missed: " : "met: ") + left, "", "", "end");
            case ClockState.Lifted l ->
                new Row("ended " + moment(l.at(), zone), "no longer applies: neither met nor missed", "", "", "end");
            case ClockState.Joined j ->
                new Row(
                        "ended " + moment(j.at(), zone),
                        "joined into another ticket: neither met nor missed",
                        "",
                        "",
                        "end");
            case ClockState.Void v ->
                new Row("ended " + moment(v.at(), zone), "taken out of all figures", "", "", "end");
        };
    }

    private static String turn(Turn turn) {
        return SpanDrawing.words(turn);
    }

    private static String moment(Instant at, ZoneId zone) {
        return MOMENT.format(at.atZone(zone));
    }

    private List<String> steps(TicketNumber number, TargetClock c, Instant now, ZoneId zone) {
        var lines = new ArrayList<String>();
        sql.selectFrom(STEP_FIRED)
                .where(STEP_FIRED.TICKET.eq(number))
                .and(STEP_FIRED.OBJECTIVE.eq(c.objective().name()))
                .and(STEP_FIRED.RUN_STARTED.eq(c.started()))
                .orderBy(STEP_FIRED.FIRED_AT)
                .forEach(r -> lines.add(Say.when(r.getFiredAt(), now, zone) + ": " + r.getDone()));
        c.steps().stream()
                .filter(step -> step.at().isAfter(now))
                .sorted(Comparator.comparing(TargetClock.StepTime::at))
                .forEach(step ->
                        lines.add(Say.when(step.at(), now, zone) + ": still to come, unless it is met or moved"));
        return lines;
    }
}
