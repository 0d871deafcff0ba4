package rafter.core.ticket;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeSet;
import rafter.core.id.ContactId;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;

/** What follows from what people do: the events that an act adds to a ticket. */
public final class Conduct {

    /** Why a ticket is in the bin that was no request. */
    public static final String NO_REQUEST = "not a request";

    /** Why a ticket is in the bin that was deleted. */
    public static final String DELETED = "it was deleted";

    private Conduct() {}

    /**
     * What follows from an act on a ticket.
     *
     * @param seen how the ticket stood in that respect when the act was chosen, see {@link #standing}; empty to do it whatever happened since
     */
    public static Decision decide(
            TicketNumber number, Ticket ticket, Act act, Doer doer, House house, Instant now, Optional<String> seen) {
        return new Deciding(number, ticket, doer, house, now, seen).decide(act);
    }

    /** Why an act could be done to no ticket whatever, such as a state that there is not; nothing when it could. */
    public static Optional<Decision.Refused> hindrance(Act act, Doer doer, House house, Instant now) {
        Ticket any = Ticket.replay(List.of(new TicketEvent.Opened(
                now,
                doer.actor(),
                TicketEvent.Origin.CUSTOMER,
                Way.by(""),
                "",
                new ContactId(0),
                Priority.P3,
                Optional.empty())));
        return decide(new TicketNumber(0), any, act, doer, house, now, Optional.empty())
                        instanceof Decision.Refused refused
                ? Optional.of(refused)
                : Optional.empty();
    }

    /** How a ticket stands in the respect that an act changes, as forms and undo remember it; empty when nothing can be remembered. */
    public static Optional<String> standing(Ticket ticket, Act act) {
        return switch (act) {
            case Act.HandToPerson a ->
                Optional.of(ticket.owner().map(PersonId::toString).orElse(""));
            case Act.MoveTo a -> Optional.of(ticket.state().key());
            case Act.SetPriority a -> Optional.of(ticket.priority().name());
            case Act.SetTopic a -> Optional.of(ticket.topic());
            case Act.SetTags a -> Optional.of(String.join(",", new TreeSet<>(ticket.tags())));
            case Act.Fill a -> Optional.of(ticket.own().getOrDefault(a.field(), ""));
            case Act.AgreeTime a ->
                Optional.of(ticket.agreedDue().map(Instant::toString).orElse(""));
            case Act.BringBack a ->
                Optional.of(ticket.bringBackAt().map(Instant::toString).orElse(""));
            case Act.AnswerBy a -> Optional.of(standing(ticket.way()));
            case Act.HandOver a -> Optional.empty();
            case Act.HandBack a -> Optional.empty();
            case Act.RaisePriority a -> Optional.empty();
            case Act.Tag a -> Optional.empty();
            case Act.Untag a -> Optional.empty();
            case Act.Carry a -> Optional.empty();
            case Act.Note a -> Optional.empty();
            case Act.TakeNoteBack a -> Optional.empty();
            case Act.Answer a -> Optional.empty();
            case Act.Notify a -> Optional.empty();
            case Act.Join a -> Optional.empty();
            case Act.Part a -> Optional.empty();
            case Act.NoRequest a -> Optional.empty();
            case Act.Delete a -> Optional.empty();
            case Act.Restore a -> Optional.empty();
            case Act.Several a -> Optional.empty();
            case Act.Split a -> Optional.empty();
            case Act.PutBack a -> Optional.empty();
            case Act.OfWork a -> WorkDeciding.standing(ticket.work(), a);
            case Act.OfSteering a -> Optional.of(SteeringDeciding.standing(ticket.steering(), a));
        };
    }

    private static String standing(Way way) {
        return way.address().isPresent() ? way.channel() + ":" + way.address().getAsLong() : way.channel();
    }

    /**
     * The customer's side wrote by a way; answers go back by it, unless a machine wrote. Where that is another way than before, this is told
     * first. See {@link #customerWrote(Ticket, Instant, Actor, MessageId, boolean)}.
     */
    public static List<TicketEvent> customerWrote(
            Ticket ticket, Instant at, Actor who, MessageId message, boolean automatic, Way way) {
        var events = new ArrayList<TicketEvent>();
        if (turnsTo(ticket, automatic, way)) {
            events.add(new TicketEvent.WayChanged(at, Actor.system(), way));
        }
        events.addAll(customerWrote(ticket, at, who, message, automatic));
        return events;
    }

    /** Whether answers go another way once the customer's side has written by this one. */
    public static boolean turnsTo(Ticket ticket, boolean automatic, Way way) {
        return !automatic && !way.channel().equals(ticket.way().channel());
    }

    /**
     * The customer's side wrote. It becomes our turn, and a resolved ticket is taken up again, unless a machine wrote.
     *
     * @param message the entry
     */
    public static List<TicketEvent> customerWrote(
            Ticket ticket, Instant at, Actor who, MessageId message, boolean automatic) {
        var events = new ArrayList<TicketEvent>();
        events.add(new TicketEvent.CustomerWrote(at, who, message, automatic));
        if (!automatic && ticket.turn() != Turn.OURS) {
            events.add(new TicketEvent.StateChanged(at, Actor.system(), TicketState.IN_HAND));
        }
        return events;
    }

    /**
     * A person of ours answered the customer. An unowned ticket becomes theirs; the turn becomes the one they chose.
     *
     * @param message the entry
     * @param then whose move it is now, by the sender's choice
     */
    public static List<TicketEvent> answered(Ticket ticket, Instant at, PersonId person, MessageId message, Turn then) {
        var who = new Actor.Person(person);
        var events = new ArrayList<TicketEvent>();
        events.add(new TicketEvent.WeWrote(at, who, message, false));
        if (ticket.owner().isEmpty()) {
            events.add(new TicketEvent.OwnerChanged(at, who, Optional.of(person)));
        }
        TicketState next = TicketState.waitingFor(then);
        if (!ticket.state().equals(next)) {
            events.add(new TicketEvent.StateChanged(at, who, next));
        }
        return events;
    }

    /**
     * What a ticket lacks for getting into a state: how it was resolved, where the state asks for that; what its form wants, where it
     * would end. Nothing when it lacks nothing.
     */
    public static Optional<Decision> lacks(Ticket ticket, TicketState to, House house) {
        if (house.asksResolution(to.key()) && ticket.work().resolution().none()) {
            return Optional.of(Deciding.invalid(
                    "“" + to.name() + "” asks how it was resolved. Write that down first, beside the conversation."));
        }
        boolean ends = to.ending() && !ticket.state().ending();
        List<String> missing = ends ? house.unfilled(ticket, to) : List.of();
        return missing.isEmpty()
                ? Optional.empty()
                : Optional.of(Deciding.invalid(
                        "Before it ends, fill “" + String.join("”, “", missing) + "”, beside the conversation."));
    }

    /**
     * The customer says how they were helped: once for a ticket.
     *
     * @param comment in their own words; may be blank
     */
    public static Decision rated(Ticket ticket, Instant at, Work.Rating rating, String comment) {
        if (ticket.work().rated().isPresent()) {
            return new Decision.Refused(Decision.Why.STALE, "This request was rated already.");
        }
        if (comment.strip().length() > WorkDeciding.LONGEST_TEXT) {
            return Deciding.invalid("A comment has at most " + WorkDeciding.LONGEST_TEXT + " letters.");
        }
        var event = new TicketEvent.WasRated(at, new Actor.Contact(ticket.contact()), rating, comment.strip());
        return new Decision.Done(List.of(event), Optional.empty());
    }

    /**
     * Why a message cannot be split off from a ticket; empty when it can.
     *
     * @param events all that happened to the ticket
     */
    public static Optional<String> unsplittable(List<TicketEvent> events, MessageId message) {
        List<MessageId> written = events.stream()
                .filter(TicketEvent.CustomerWrote.class::isInstance)
                .flatMap(event -> event.entry().stream())
                .toList();
        if (!written.contains(message)) {
            return Optional.of("Only what the customer wrote on this ticket can be split off." + Deciding.UNCHANGED);
        }
        if (written.getFirst().equals(message)) {
            return Optional.of(
                    "The first message is what the ticket is about. Split off the later one that is about something else."
                            + Deciding.UNCHANGED);
        }
        return splitInto(events, message)
                .map(into -> "It was split off into ticket " + into + " already." + Deciding.UNCHANGED);
    }

    /** The ticket that a message became; nothing when it was not split off, or was put back. */
    public static Optional<TicketNumber> splitInto(List<TicketEvent> events, MessageId message) {
        return Optional.ofNullable(splits(events).get(message));
    }

    /** The messages that were split off and not put back, and the tickets that they became. */
    public static Map<MessageId, TicketNumber> splits(List<TicketEvent> events) {
        var splits = new HashMap<MessageId, TicketNumber>();
        for (TicketEvent event : events) {
            if (event instanceof TicketEvent.SplitOff off) {
                splits.put(off.message(), off.into());
            } else if (event instanceof TicketEvent.SplitBack back) {
                splits.remove(back.message());
            }
        }
        return splits;
    }

    /**
     * We wrote to a third party. A ticket that is open waits for them then, if that is wanted.
     *
     * @param thread the conversation that it belongs to
     */
    public static List<TicketEvent> wroteOutside(
            Ticket ticket, Instant at, Actor who, MessageId message, long thread, boolean waits) {
        var events = new ArrayList<TicketEvent>();
        events.add(new TicketEvent.WroteOutside(at, who, message, thread));
        if (waits && ticket.open() && ticket.turn() != Turn.PARTNER) {
            events.add(new TicketEvent.StateChanged(at, who, TicketState.waitingFor(Turn.PARTNER)));
        }
        return events;
    }

    /** A third party wrote to us. Where we waited for a partner it is our turn now, unless a machine wrote. */
    public static List<TicketEvent> outsideAnswered(
            Ticket ticket, Instant at, MessageId message, long thread, boolean automatic) {
        var events = new ArrayList<TicketEvent>();
        events.add(new TicketEvent.OutsideWrote(at, Actor.system(), message, thread, automatic));
        if (!automatic && ticket.turn() == Turn.PARTNER) {
            events.add(new TicketEvent.StateChanged(at, Actor.system(), TicketState.IN_HAND));
        }
        return events;
    }

    /**
     * What happens to a ticket, with what follows from it by itself: it comes back when that is what it waited for.
     *
     * @param ticket as it stood before
     */
    public static List<TicketEvent> withWhatFollows(Ticket ticket, List<TicketEvent> events) {
        boolean comes =
                ticket.work().await().filter(await -> await.comes(events)).isPresent();
        if (!comes || events.stream().anyMatch(TicketEvent.BroughtBack.class::isInstance)) {
            return events;
        }
        var folding = new Folding(ticket);
        var all = new ArrayList<TicketEvent>();
        for (TicketEvent event : events) {
            Optional<Await> await = folding.ticket().work().await();
            folding.take(event);
            all.add(event);
            // What ended with this event waits for nothing any more.
            Ticket after = folding.ticket();
            if (await.filter(one -> one.comes(List.of(event))).isPresent()
                    && after.work().await().isPresent()) {
                List<TicketEvent> back = broughtBack(after, event.at());
                back.forEach(folding::take);
                all.addAll(back);
            }
        }
        return all;
    }

    /** The time came at which a ticket was to come back: whoever's turn it was, it is ours now. */
    public static List<TicketEvent> broughtBack(Ticket ticket, Instant at) {
        var events = new ArrayList<TicketEvent>();
        events.add(new TicketEvent.BroughtBack(at, Actor.system()));
        if (ticket.turn() != Turn.OURS) {
            events.add(new TicketEvent.StateChanged(at, Actor.system(), TicketState.IN_HAND));
        }
        return events;
    }

    /** Whether an answer of the customer's still belongs to this ticket, rather than to a new one linked to it. */
    public static boolean takesAnswers(Ticket ticket, Instant now, Duration reopenFor) {
        return takesAnswers(ticket.state(), ticket.resolvedAt(), now, reopenFor);
    }

    /**
     * As {@link #takesAnswers(Ticket, Instant, Duration)}, from a ticket's row.
     *
     * @param resolvedAt when it entered its ending state, if it is in one
     */
    public static boolean takesAnswers(
            TicketState state, java.util.Optional<Instant> resolvedAt, Instant now, Duration reopenFor) {
        if (!state.ending()) {
            return true;
        }
        return state.equals(TicketState.RESOLVED)
                && resolvedAt.map(at -> now.isBefore(at.plus(reopenFor))).orElse(false);
    }
}
