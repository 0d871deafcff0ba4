package rafter.app.tickets.acts;

import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.house.notices.Notices;
import rafter.app.house.people.Contacts;
import rafter.app.platform.Problem;
import rafter.app.platform.SafeHtml;
import rafter.app.promises.targets.Targets;
import rafter.core.id.TicketNumber;
import rafter.core.target.Objective;
import rafter.core.target.Reckoning;
import rafter.core.target.TargetClock;
import rafter.core.ticket.Act;
import rafter.core.ticket.Actor;
import rafter.core.ticket.Conduct;
import rafter.core.ticket.Decision;
import rafter.core.ticket.Doer;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;

/**
 * Performs acts on tickets, whoever does them: what {@link Conduct} decides is written down, and what stands beside the events (entries,
 * mail, notices) is done. Each act is one transaction, or a part of the caller's.
 */
@Component
public class Acts {

    /**
     * What came of an act.
     *
     * @param changed whether anything happened; it may have been so already
     * @param undo what takes it back
     */
    public record Outcome(boolean changed, Optional<Decision.Undo> undo) {

        static Outcome undoneBy(Act act) {
            return new Outcome(true, Optional.of(new Decision.Undo(act, Optional.empty())));
        }
    }

    private final TicketStore store;
    private final CustomerFacts customerFacts;
    private final Workplace workplace;
    private final Targets targets;
    private final Notices notices;
    private final Contacts contacts;
    private final Blanks blanks;
    private final ObjectProvider<Correspondence> correspondence;
    private final ObjectProvider<NoteTaking> noteTaking;
    private final Splitting splitting;
    private final TicketJoining joining;
    private final Clock clock;

    Acts(
            TicketStore store,
            CustomerFacts customerFacts,
            Workplace workplace,
            Targets targets,
            Notices notices,
            Contacts contacts,
            Blanks blanks,
            ObjectProvider<Correspondence> correspondence,
            ObjectProvider<NoteTaking> noteTaking,
            Splitting splitting,
            TicketJoining joining,
            Clock clock) {
        this.store = store;
        this.customerFacts = customerFacts;
        this.workplace = workplace;
        this.targets = targets;
        this.notices = notices;
        this.contacts = contacts;
        this.blanks = blanks;
        this.correspondence = correspondence;
        this.noteTaking = noteTaking;
        this.splitting = splitting;
        this.joining = joining;
        this.clock = clock;
    }

    /** Does something to a ticket, whatever happened to it since it was chosen. */
    @Transactional
    public Outcome perform(TicketNumber number, Act act, Viewer by) {
        return perform(number, act, Optional.empty(), by);
    }

    /**
     * Does something to a ticket.
     *
     * @param seen how the ticket stood in that respect when the act was chosen, see {@link Conduct#standing}
     * @throws Problem when it cannot be done; nothing happens then
     */
    @Transactional
    public Outcome perform(TicketNumber number, Act act, Optional<String> seen, Viewer by) {
        Access.require(by, Right.WORK);
        return switch (act) {
            case Act.Note note ->
                inOne(number, List.of(new Act.Several.One(note, seen)), by).getFirst();
            case Act.TakeNoteBack back -> {
                noteTaking.getObject().takeNoteBack(number, back.message(), by);
                yield new Outcome(true, Optional.empty());
            }
            case Act.Answer answer -> answer(number, answer, seen, by);
            case Act.Split split -> {
                TicketStore.Held held = store.hold(number, by);
                decided(held, act, by, seen);
                yield splitting.split(held, split, by);
            }
            case Act.PutBack back -> {
                TicketStore.Held held = store.hold(number, by);
                decided(held, act, by, seen);
                yield splitting.putBack(held, back, by);
            }
            case Act.Several several -> several(number, several, by);
            case Act.Join join -> {
                TicketJoining.Pair pair = joining.hold(number, join.into(), by);
                yield joining.join(pair, join, decided(pair.one(), act, by, Optional.empty()), by);
            }
            case Act.Part part -> {
                TicketJoining.Pair pair = joining.hold(number, part.from(), by);
                yield joining.part(pair, decided(pair.one(), act, by, Optional.empty()), by);
            }
            case Act.Notify notify ->
                throw new Problem.Invalid("Only steps of targets tell somebody by mail. Nothing was changed.");
            default -> plain(number, act, seen, by);
        };
    }

    private Outcome answer(TicketNumber number, Act.Answer answer, Optional<String> seen, Viewer by) {
        TicketStore.Held held = store.hold(number, by);
        decided(held, answer, by, seen);
        correspondence
                .getObject()
                .answer(
                        number,
                        SafeHtml.fromText(blanks.filled(answer.text(), number, held.events(), by.person())),
                        answer.then(),
                        held.ticket().lastPublicSeq(),
                        by);
        return new Outcome(true, Optional.empty());
    }

    /** What is nothing but events, but for what stands beside some of them. */
    private Outcome plain(TicketNumber number, Act act, Optional<String> seen, Viewer by) {
        TicketStore.Held held = store.hold(number, by);
        if (act instanceof Act.PutUnder(Optional<TicketNumber> parent) && parent.isPresent()) {
            joining.insistOnNoCircle(number, parent.get(), by);
        }
        Decision.Done done = decided(held, act, by, seen);
        apply(held, act, done.events(), clock.instant(), by.name());
        // Also of one that lay in the bin already: it is the senders who are meant.
        if (act instanceof Act.NoRequest(boolean sendersAside) && sendersAside) {
            contacts.unwanted(held.ticket().contact(), by.id(), clock.instant());
        }
        return new Outcome(!done.events().isEmpty(), done.undo());
    }

    /** One after the other in one transaction, so that what one is told of the ticket is what the one before made of it. */
    private Outcome several(TicketNumber number, Act.Several several, Viewer by) {
        var back = new ArrayList<Act.Several.One>();
        boolean changed = false;
        List<Act.Several.One> left = several.acts();
        while (!left.isEmpty()) {
            int together = together(left.stream().map(Act.Several.One::act).toList());
            List<Outcome> outcomes = together > 0
                    ? inOne(number, left.subList(0, together), by)
                    : List.of(perform(
                            number, left.getFirst().act(), left.getFirst().seen(), by));
            for (Outcome outcome : outcomes) {
                changed |= outcome.changed();
                outcome.undo().ifPresent(undo -> back.addFirst(new Act.Several.One(undo.act(), undo.seen())));
            }
            left = left.subList(outcomes.size(), left.size());
        }
        return new Outcome(
                changed,
                back.isEmpty()
                        ? Optional.empty()
                        : Optional.of(new Decision.Undo(new Act.Several(back), Optional.empty())));
    }

    /** Does several things to a ticket, all of them or none. */
    @Transactional
    public void performAll(TicketNumber number, List<? extends Act> acts, Viewer by) {
        Access.require(by, Right.WORK);
        several(number, Act.Several.of(List.copyOf(acts)), by);
    }

    /** How many of these, from the first on, only change the ticket or add a note to it, so that it is read and written once. */
    private static int together(List<Act> acts) {
        int many = 0;
        while (many < acts.size() && changesOnly(acts.get(many))) {
            many++;
        }
        return many;
    }

    private static boolean changesOnly(Act act) {
        return switch (act) {
            case Act.SetPriority a -> true;
            case Act.RaisePriority a -> true;
            case Act.SetTopic a -> true;
            case Act.SetTags a -> true;
            case Act.Tag a -> true;
            case Act.Untag a -> true;
            case Act.Fill a -> true;
            case Act.Carry a -> true;
            case Act.MoveTo a -> true;
            case Act.HandToPerson a -> true;
            case Act.HandOver a -> true;
            case Act.HandBack a -> true;
            case Act.BringBack a -> true;
            case Act.AnswerBy a -> true;
            case Act.PutUnder a -> false;
            case Act.OfWork a -> true;
            case Act.OfSteering a -> true;
            case Act.AgreeTime a -> false;
            case Act.Note a -> true;
            case Act.TakeNoteBack a -> false;
            case Act.Answer a -> false;
            case Act.Notify a -> false;
            case Act.Join a -> false;
            case Act.Part a -> false;
            case Act.NoRequest a -> false;
            case Act.Delete a -> false;
            case Act.Restore a -> false;
            case Act.Several a -> false;
            case Act.Split a -> false;
            case Act.PutBack a -> false;
        };
    }

    /** Each is decided on the ticket as those before it leave it; what comes of them is written at once. */
    private List<Outcome> inOne(TicketNumber number, List<Act.Several.One> acts, Viewer by) {
        TicketStore.Held held = store.hold(number, by);
        Instant now = clock.instant();
        Ticket ticket = held.ticket();
        var all = new ArrayList<TicketEvent>();
        var handed = new ArrayList<TicketEvent>();
        var outcomes = new ArrayList<Outcome>();
        for (Act.Several.One one : acts) {
            Decision.Done done = done(Conduct.decide(number, ticket, one.act(), doer(by), workplace, now, one.seen()));
            if (one.act() instanceof Act.Note(String text)) {
                done = noted(number, ticket, text, events(held, all), by);
            }
            List<TicketEvent> events = Conduct.withWhatFollows(ticket, done.events());
            for (TicketEvent event : events) {
                ticket = ticket.after(event);
            }
            all.addAll(events);
            if (one.act() instanceof Act.HandToPerson) {
                handed.addAll(done.events());
            }
            outcomes.add(new Outcome(!done.events().isEmpty(), done.undo()));
        }
        TicketStore.Held after = store.append(held, all, now);
        handed.forEach(event -> tellOwner(after, event, by.name()));
        return outcomes;
    }

    private static List<TicketEvent> events(TicketStore.Held held, List<TicketEvent> more) {
        var all = new ArrayList<>(held.events());
        all.addAll(more);
        return all;
    }

    private Decision.Done noted(TicketNumber number, Ticket ticket, String text, List<TicketEvent> events, Viewer by) {
        String html = SafeHtml.fromText(blanks.filled(text, number, events, by.person()));
        TicketEvent.NoteAdded note = noteTaking.getObject().entry(number, ticket, html, by);
        return new Decision.Done(
                List.of(note), Optional.of(new Decision.Undo(new Act.TakeNoteBack(note.message()), Optional.empty())));
    }

    /**
     * Does something to a ticket that is held already, by a standing instruction; what cannot be done is left.
     *
     * @return the ticket after it
     */
    public TicketStore.Held perform(TicketStore.Held held, Act act, Instant now) {
        return tried(held, act, now).held();
    }

    /**
     * What came of trying something.
     *
     * @param held the ticket after it
     * @param refused why it could not be done; nothing when it could
     */
    public record Tried(TicketStore.Held held, Optional<String> refused) {}

    /** Does something to a ticket that is held already, by a standing instruction, and says why when it cannot be done. */
    public Tried tried(TicketStore.Held held, Act act, Instant now) {
        return switch (Conduct.decide(
                held.number(), held.ticket(), act, Doer.rafter(), workplace, now, Optional.empty())) {
            case Decision.Done done -> new Tried(apply(held, act, done.events(), now, "Rafter"), Optional.empty());
            case Decision.Refused refused -> new Tried(held, Optional.of(refused.words()));
        };
    }

    /** Does something to a ticket by a standing instruction; why it cannot be done, when it cannot. */
    @Transactional(propagation = Propagation.MANDATORY)
    public Optional<String> byItself(TicketNumber number, Act act) {
        return tried(store.hold(number), act, clock.instant()).refused();
    }

    /** Who a person is to what they do. */
    static Doer doer(Viewer by) {
        return new Doer(
                new Actor.Person(by.id()),
                by.role().has(Right.HAND_OVER_ANY),
                by.role().has(Right.DELETE));
    }

    private Decision.Done decided(TicketStore.Held held, Act act, Viewer by, Optional<String> seen) {
        return done(Conduct.decide(held.number(), held.ticket(), act, doer(by), workplace, clock.instant(), seen));
    }

    private static Decision.Done done(Decision decision) {
        return switch (decision) {
            case Decision.Done done -> done;
            case Decision.Refused(Decision.Why why, String words) ->
                throw switch (why) {
                    case INVALID -> new Problem.Invalid(words);
                    case STALE -> new Problem.Stale(words);
                    case NO_RIGHT -> new Problem.NoRight(words);
                };
        };
    }

    private TicketStore.Held apply(TicketStore.Held held, Act act, List<TicketEvent> events, Instant now, String who) {
        if (events.isEmpty()) {
            return held;
        }
        TicketStore.Held after = store.append(held, events, now);
        if (act instanceof Act.HandToPerson) {
            events.forEach(event -> tellOwner(after, event, who));
        }
        if (act instanceof Act.Restore && held.ticket().discardedWhy().equals(Conduct.NO_REQUEST)) {
            contacts.wantedAgain(held.ticket().contact());
        }
        if (act instanceof Act.AgreeTime(Optional<Instant> due, String why) && due.isPresent()) {
            insistOnTime(after, now);
        }
        return after;
    }

    /** Tells a person what was handed to them, unless they took it themselves. */
    private void tellOwner(TicketStore.Held held, TicketEvent event, String who) {
        if (event instanceof TicketEvent.OwnerChanged changed
                && changed.owner().isPresent()
                && !changed.actor().equals(new Actor.Person(changed.owner().orElseThrow()))) {
            notices.tell(
                    changed.owner().orElseThrow(),
                    held.number(),
                    Notices.Kind.ASSIGNED,
                    who + " handed you " + held.number() + ": " + held.ticket().subject());
        }
    }

    /** A time at which it would be late from the first is no promise. */
    private void insistOnTime(TicketStore.Held held, Instant now) {
        if (resolution(held.number(), held.events(), now)
                .filter(one -> !one.left().isPositive())
                .isPresent()) {
            throw new Problem.Invalid(
                    "Nobody works between now and then, so it would be late at once. Choose a time when we are open. Nothing was changed.");
        }
    }

    /** The clock of the resolution, while it runs. */
    private Optional<TargetClock> resolution(TicketNumber number, List<TicketEvent> events, Instant now) {
        List<TargetClock> clocks = targets.reckon(events, customerFacts.customer(number), now);
        return Optional.ofNullable(Reckoning.latest(clocks).get(Objective.RESOLUTION))
                .filter(TargetClock::live);
    }

    /** When the resolution of a ticket falls due; nothing while it is paused or nothing is promised. */
    @Transactional(readOnly = true)
    public Optional<Instant> resolutionDue(TicketNumber number) {
        return resolution(number, store.events(number), clock.instant()).flatMap(TargetClock::dueMark);
    }
}
