package rafter.core.target;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.OwnField;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.TicketState;

/** What criteria can ask about a ticket, as its events tell it. */
public final class TicketFacts {

    private static final List<KnownField> BY_STATE = List.of(KnownField.STATE, KnownField.TURN);
    private static final List<KnownField> BY_PRIORITY = List.of(KnownField.PRIORITY);
    private static final List<KnownField> BY_TEAM = List.of(KnownField.TEAM);
    private static final List<KnownField> BY_TOPIC = List.of(KnownField.TOPIC);
    private static final List<KnownField> BY_TAGS = List.of(KnownField.TAGS);
    private static final List<KnownField> BY_CUSTOMER = List.of(KnownField.PLAN, KnownField.COMPANY);

    private TicketFacts() {}

    /**
     * What is known before the first event: the customer as they were then.
     *
     * @param customer as they are known now
     */
    public static Facts begin(Facts customer, List<TicketEvent> events) {
        for (TicketEvent event : events) {
            if (event instanceof TicketEvent.CustomerChanged changed) {
                return known(customer, changed.before());
            }
        }
        return customer;
    }

    /** What is known after all of these events. */
    public static Facts of(Facts customer, List<TicketEvent> events) {
        Facts facts = begin(customer, events);
        for (TicketEvent event : events) {
            facts = after(facts, event);
        }
        return facts;
    }

    /** What is known after one more event. */
    public static Facts after(Facts facts, TicketEvent event) {
        return switch (event) {
            case TicketEvent.Opened e -> facts.with(KnownField.CHANNEL, e.way().channel())
                    .with(KnownField.SUBJECT, e.subject())
                    .with(KnownField.PRIORITY, e.priority().name())
                    .with(KnownField.TEAM, text(e.team()))
                    .with(KnownField.STATE, TicketState.NEW.key())
                    .with(KnownField.TURN, TicketState.NEW.turn().name());
            case TicketEvent.StateChanged e -> in(facts, e.state());
            case TicketEvent.PriorityChanged e -> facts.with(KnownField.PRIORITY, e.priority().name());
            case TicketEvent.TeamChanged e -> facts.with(KnownField.TEAM, text(e.team()));
            case TicketEvent.TopicChanged e -> facts.with(KnownField.TOPIC, e.topic());
            case TicketEvent.TagsChanged e -> facts.with(KnownField.TAGS, e.tags().stream().sorted().toList());
            case TicketEvent.CustomerChanged e -> known(facts, e.after());
            case TicketEvent.FieldSet e -> OwnField.of(e.field()).map(field -> facts.with(field, e.value())).orElse(facts);
            // A ticket that is a part of another one, or in the bin, is closed.
            case TicketEvent.Joined e -> in(facts, TicketState.CLOSED);
            case TicketEvent.Discarded e -> in(facts, TicketState.CLOSED);
            // What it had been before is known to the ticket's own fold alone; see of().
            case TicketEvent.Restored e -> facts;
            case TicketEvent.Parted e -> facts;
            case TicketEvent.Unlinked e -> facts;
            case TicketEvent.Continued e -> facts;
            case TicketEvent.NoteTakenBack e -> facts;
            case TicketEvent.CustomerWrote e -> facts;
            case TicketEvent.WeWrote e -> facts;
            case TicketEvent.NoteAdded e -> facts;
            case TicketEvent.Bounced e -> facts;
            case TicketEvent.OwnerChanged e -> facts;
            case TicketEvent.Linked e -> facts;
            case TicketEvent.TimeAgreed e -> facts;
            case TicketEvent.BringBackSet e -> facts;
            case TicketEvent.BroughtBack e -> facts;
        };
    }

    /** The same with everything that lists ask besides: who owns it, since when things are as they are, and what falls due. */
    public static Facts withTimes(Facts facts, Ticket ticket, List<TargetClock> clocks) {
        // The ticket's own fold knows into which state one comes back that was in the bin.
        Facts known = in(facts, ticket.state())
                .with(KnownField.OWNER, text(ticket.owner()))
                .with(KnownField.AGE, ticket.openedAt().toString())
                .with(KnownField.IN_TURN, ticket.turnSince().toString())
                .with(KnownField.SINCE_CUSTOMER, ticket.lastCustomerAt().map(Instant::toString).orElse(""))
                .with(KnownField.SINCE_BACK, ticket.broughtBackAt().map(Instant::toString).orElse(""))
                .with(KnownField.COMES_BACK, ticket.bringBackAt().map(Instant::toString).orElse(""))
                .with(KnownField.NEXT_TARGET, nextTarget(clocks));
        for (TargetClock clock : clocks) {
            if (clock.state() instanceof ClockState.Running(Optional<Instant> due) && due.isPresent()) {
                known = known.with(field(clock.objective()), times(due.get(), clock.riskFrom()));
            }
        }
        return known;
    }

    /** When the first falls due, and when the first comes to be at risk. */
    private static List<String> nextTarget(List<TargetClock> clocks) {
        Optional<Instant> risk = clocks.stream().filter(c -> c.dueMark().isPresent()).flatMap(c -> c.riskFrom().stream()).min(Instant::compareTo);
        return Reckoning.nextDue(clocks).flatMap(TargetClock::dueMark).map(due -> times(due, risk)).orElse(List.of());
    }

    private static List<String> times(Instant due, Optional<Instant> risk) {
        return risk.map(at -> List.of(due.toString(), at.toString())).orElse(List.of(due.toString()));
    }

    /** The field that asks about the clock of an objective. */
    public static KnownField field(Objective objective) {
        return switch (objective) {
            case FIRST_REPLY -> KnownField.FIRST_REPLY;
            case NEXT_REPLY -> KnownField.NEXT_REPLY;
            case RESOLUTION -> KnownField.RESOLUTION;
            case PICK_UP -> KnownField.PICK_UP;
            case REGULAR_UPDATE -> KnownField.REGULAR_UPDATE;
        };
    }

    private static Facts in(Facts facts, TicketState state) {
        return facts.with(KnownField.STATE, state.key()).with(KnownField.TURN, state.turn().name());
    }

    /** The fields that an event changes after the opening. */
    static List<KnownField> changed(TicketEvent event) {
        return switch (event) {
            case TicketEvent.StateChanged e -> BY_STATE;
            case TicketEvent.PriorityChanged e -> BY_PRIORITY;
            case TicketEvent.TeamChanged e -> BY_TEAM;
            case TicketEvent.TopicChanged e -> BY_TOPIC;
            case TicketEvent.TagsChanged e -> BY_TAGS;
            case TicketEvent.CustomerChanged e -> BY_CUSTOMER;
            case TicketEvent.Joined e -> BY_STATE;
            case TicketEvent.Discarded e -> BY_STATE;
            case TicketEvent.Restored e -> BY_STATE;
            case TicketEvent.Parted e -> BY_STATE;
            case TicketEvent.Opened e -> List.of();
            case TicketEvent.FieldSet e -> List.of();
            case TicketEvent.CustomerWrote e -> List.of();
            case TicketEvent.WeWrote e -> List.of();
            case TicketEvent.NoteAdded e -> List.of();
            case TicketEvent.Bounced e -> List.of();
            case TicketEvent.OwnerChanged e -> List.of();
            case TicketEvent.Linked e -> List.of();
            case TicketEvent.Unlinked e -> List.of();
            case TicketEvent.Continued e -> List.of();
            case TicketEvent.NoteTakenBack e -> List.of();
            case TicketEvent.TimeAgreed e -> List.of();
            case TicketEvent.BringBackSet e -> List.of();
            case TicketEvent.BroughtBack e -> List.of();
        };
    }

    private static Facts known(Facts facts, TicketEvent.CustomerKnown customer) {
        return facts.with(KnownField.COMPANY, text(customer.company())).with(KnownField.PLAN, customer.plan());
    }

    private static String text(OptionalLong id) {
        return id.isPresent() ? Long.toString(id.getAsLong()) : "";
    }
}
