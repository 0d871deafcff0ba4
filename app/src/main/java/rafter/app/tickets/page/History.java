package rafter.app.tickets.page;

import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Everybody;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.access.Viewers;
import rafter.app.house.fields.OwnFields;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.app.promises.targets.Targets;
import rafter.app.tickets.acts.TicketStore;
import rafter.app.tickets.acts.Workplace;
import rafter.app.tickets.clocks.FiredSteps;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Folding;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;

/** Everything that happened to a ticket, line by line: when exactly, who or what did it, what was before and what is after. */
@Component
class History {

    /** What a line is about; lines can be asked for by it. */
    enum About {
        WRITTEN("what was written"),
        STATE("state and turn"),
        HANDS("owner and team"),
        FACTS("priority, topic, tags, fields"),
        TIMES("times and targets"),
        WORK("tasks, time and watchers"),
        LINKS("links and ends");

        private final String words;

        About(String words) {
            this.words = words;
        }

        public String words() {
            return words;
        }

        /** As an address says it. */
        public String key() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    /**
     * One thing that happened.
     *
     * @param who blank: Rafter by itself
     * @param before blank where there is nothing to compare
     */
    public record Line(Instant at, String exact, String who, About about, String what, String before, String after) {}

    private final TicketStore store;
    private final FiredSteps fired;
    private final Everybody everybody;
    private final OwnFields fields;
    private final Targets targets;
    private final Viewers viewers;
    private final Workplace workplace;
    private final Clock clock;

    History(
            TicketStore store,
            FiredSteps fired,
            Everybody everybody,
            OwnFields fields,
            Targets targets,
            Viewers viewers,
            Workplace workplace,
            Clock clock) {
        this.workplace = workplace;
        this.store = store;
        this.fired = fired;
        this.everybody = everybody;
        this.fields = fields;
        this.targets = targets;
        this.viewers = viewers;
        this.clock = clock;
    }

    /** The subject of a ticket with its lines, the oldest first. */
    public record Told(String subject, List<Line> lines) {}

    /** What happened to a ticket. */
    @Transactional(readOnly = true)
    Told of(TicketNumber number, Viewer me) {
        Access.require(me, Right.WORK);
        viewers.insist(me, number);
        List<TicketEvent> events = store.events(number);
        if (!(events.stream().findFirst().orElse(null) instanceof TicketEvent.Opened opened)) {
            throw new Problem.NotFound("There is no ticket " + number + ".");
        }
        ZoneId zone = targets.zone();
        var words = new ChangeWords(everybody.colleagues(), fields, workplace, zone, clock.instant());
        var lines = new ArrayList<Line>();
        lines.add(new Line(
                opened.at(),
                Say.exactly(opened.at(), zone),
                words.who(opened.actor()),
                About.WRITTEN,
                "opened it",
                "",
                opened.subject()));
        var folding = new Folding(opened);
        for (TicketEvent event : events.subList(1, events.size())) {
            Ticket before = folding.ticket();
            folding.take(event);
            lines.add(line(event, before, folding.ticket(), words, zone));
        }
        fired.of(number).forEach(step -> lines.add(line(step, zone)));
        lines.sort(Comparator.comparing(Line::at));
        return new Told(opened.subject(), lines);
    }

    private static Line line(FiredSteps.Fired step, ZoneId zone) {
        return new Line(step.at(), Say.exactly(step.at(), zone), "A service target", About.TIMES, step.words(), "", "");
    }

    /** What was before and after, as people read it. */
    private String said(String field, Ticket ticket) {
        return fields.said(field, ticket.own().getOrDefault(field, ""));
    }

    private record Change(About about, String what, String before, String after) {

        Change(About about, String what) {
            this(about, what, "", "");
        }
    }

    private Line line(TicketEvent event, Ticket before, Ticket after, ChangeWords words, ZoneId zone) {
        String who = words.who(event.actor());
        Change change = change(event, before, after, words);
        return new Line(
                event.at(),
                Say.exactly(event.at(), zone),
                who,
                change.about(),
                change.what(),
                change.before(),
                change.after());
    }

    private Change change(TicketEvent event, Ticket before, Ticket after, ChangeWords words) {
        return switch (event) {
            case TicketEvent.CustomerWrote e ->
                new Change(About.WRITTEN, e.automatic() ? "wrote, by a machine" : "wrote");
            case TicketEvent.WeWrote e -> new Change(About.WRITTEN, e.automatic() ? "acknowledged it" : "answered");
            case TicketEvent.NoteAdded e -> new Change(About.WRITTEN, "wrote a note");
            case TicketEvent.PublicNoteAdded e -> new Change(About.WRITTEN, "wrote a note that the customer sees");
            case TicketEvent.NoteTakenBack e -> new Change(About.WRITTEN, "took a note back");
            case TicketEvent.Bounced e -> new Change(About.WRITTEN, "a mail of ours was not delivered");
            case TicketEvent.StateChanged e ->
                new Change(
                        About.STATE,
                        "state",
                        before.state().name(),
                        after.state().name());
            case TicketEvent.PriorityChanged e ->
                new Change(
                        About.FACTS,
                        "priority",
                        before.priority().name(),
                        after.priority().name());
            case TicketEvent.OwnerChanged e ->
                new Change(About.HANDS, "owner", owner(before, words), owner(after, words));
            case TicketEvent.TeamChanged e -> new Change(About.HANDS, "team", team(before, words), team(after, words));
            case TicketEvent.TopicChanged e -> new Change(About.FACTS, "topic", before.topic(), after.topic());
            case TicketEvent.TagsChanged e -> new Change(About.FACTS, "tags", tags(before), tags(after));
            case TicketEvent.FieldSet e ->
                new Change(About.FACTS, fields.name(e.field()), said(e.field(), before), said(e.field(), after));
            case TicketEvent.TimeAgreed e ->
                new Change(
                        About.TIMES,
                        "time agreed with the customer" + (e.why().isEmpty() ? "" : ": " + e.why()),
                        before.agreedDue().map(words::when).orElse(""),
                        after.agreedDue().map(words::when).orElse(""));
            case TicketEvent.BringBackSet e ->
                new Change(
                        About.TIMES,
                        "comes back",
                        before.bringBackAt().map(words::when).orElse(""),
                        after.bringBackAt().map(words::when).orElse(""));
            case TicketEvent.WayChanged e -> link(event, words);
            case TicketEvent.BroughtBack e -> new Change(About.TIMES, "it came back, as set");
            case TicketEvent.WroteOutside e -> new Change(About.WRITTEN, "wrote outside");
            case TicketEvent.OutsideWrote e -> new Change(About.WRITTEN, "an answer came from outside");
            case TicketEvent.OfWork e -> new Change(About.WORK, said(event, words));
            case TicketEvent.OfSteering e -> new Change(About.HANDS, said(event, words));
            case TicketEvent.Opened e -> link(event, words);
            case TicketEvent.SplitOff e -> link(event, words);
            case TicketEvent.SplitBack e -> link(event, words);
            case TicketEvent.Linked e -> link(event, words);
            case TicketEvent.CustomerIs e -> link(event, words);
            case TicketEvent.CustomerChanged e -> link(event, words);
            case TicketEvent.Joined e -> link(event, words);
            case TicketEvent.Parted e -> link(event, words);
            case TicketEvent.Unlinked e -> link(event, words);
            case TicketEvent.Continued e -> link(event, words);
            case TicketEvent.Discarded e -> link(event, words);
            case TicketEvent.Restored e -> link(event, words);
        };
    }

    private static Change link(TicketEvent event, ChangeWords words) {
        return new Change(About.LINKS, said(event, words));
    }

    private static String said(TicketEvent event, ChangeWords words) {
        String who = words.who(event.actor()) + " ";
        return words.of(event)
                .map(all -> all.startsWith(who) ? all.substring(who.length()) : all)
                .orElse("");
    }

    private static String owner(Ticket ticket, ChangeWords words) {
        return ticket.owner().map(id -> words.who(new Actor.Person(id))).orElse("nobody");
    }

    private static String team(Ticket ticket, ChangeWords words) {
        return ticket.team().map(words.colleagues()::team).orElse("none");
    }

    private static String tags(Ticket ticket) {
        return ticket.tags().stream().sorted().collect(Collectors.joining(", "));
    }

    /** Those about something, or all. */
    static List<Line> about(List<Line> lines, String key) {
        Optional<About> wanted = java.util.Arrays.stream(About.values())
                .filter(one -> one.key().equals(key))
                .findFirst();
        return wanted.isEmpty()
                ? lines
                : lines.stream().filter(line -> line.about() == wanted.get()).toList();
    }
}
