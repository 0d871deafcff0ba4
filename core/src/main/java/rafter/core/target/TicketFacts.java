package rafter.core.target;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import rafter.core.criteria.Facts;
import rafter.core.criteria.Field;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.TicketState;

/** What criteria can ask about a ticket, as its events tell it. */
public final class TicketFacts {

    private static final List<Field> BY_STATE = List.of(Field.STATE, Field.TURN);
    private static final List<Field> BY_PRIORITY = List.of(Field.PRIORITY);
    private static final List<Field> BY_TEAM = List.of(Field.TEAM);
    private static final List<Field> BY_TOPIC = List.of(Field.TOPIC);
    private static final List<Field> BY_TAGS = List.of(Field.TAGS);
    private static final List<Field> BY_CUSTOMER = List.of(Field.PLAN, Field.COMPANY);

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
            case TicketEvent.Opened e -> facts.with(Field.CHANNEL, e.channel())
                    .with(Field.SUBJECT, e.subject())
                    .with(Field.PRIORITY, e.priority().name())
                    .with(Field.TEAM, text(e.team()))
                    .with(Field.STATE, TicketState.NEW.key())
                    .with(Field.TURN, TicketState.NEW.turn().name());
            case TicketEvent.StateChanged e -> facts.with(Field.STATE, e.state().key()).with(Field.TURN, e.state().turn().name());
            case TicketEvent.PriorityChanged e -> facts.with(Field.PRIORITY, e.priority().name());
            case TicketEvent.TeamChanged e -> facts.with(Field.TEAM, text(e.team()));
            case TicketEvent.TopicChanged e -> facts.with(Field.TOPIC, e.topic());
            case TicketEvent.TagsChanged e -> facts.with(Field.TAGS, e.tags().stream().sorted().toList());
            case TicketEvent.CustomerChanged e -> known(facts, e.after());
            default -> facts;
        };
    }

    /** The same with everything that lists ask besides: who owns it, since when things are as they are, and what falls due. */
    public static Facts withTimes(Facts facts, Ticket ticket, List<TargetClock> clocks) {
        Facts known = facts.with(Field.OWNER, text(ticket.owner()))
                .with(Field.AGE, ticket.openedAt().toString())
                .with(Field.IN_TURN, ticket.turnSince().toString())
                .with(Field.SINCE_CUSTOMER, ticket.lastCustomerAt().map(Instant::toString).orElse(""))
                .with(Field.SINCE_BACK, ticket.broughtBackAt().map(Instant::toString).orElse(""))
                .with(Field.COMES_BACK, ticket.bringBackAt().map(Instant::toString).orElse(""))
                .with(Field.NEXT_TARGET, Reckoning.nextDue(clocks).flatMap(TargetClock::dueMark).map(Instant::toString).orElse(""));
        for (TargetClock clock : clocks) {
            if (clock.state() instanceof ClockState.Running(Optional<Instant> due) && due.isPresent()) {
                known = known.with(field(clock.objective()), due.get().toString());
            }
        }
        return known;
    }

    /** The field that asks about the clock of an objective. */
    public static Field field(Objective objective) {
        return switch (objective) {
            case FIRST_REPLY -> Field.FIRST_REPLY;
            case NEXT_REPLY -> Field.NEXT_REPLY;
            case RESOLUTION -> Field.RESOLUTION;
            case PICK_UP -> Field.PICK_UP;
            case REGULAR_UPDATE -> Field.REGULAR_UPDATE;
        };
    }

    /** The fields that an event changes after the opening. */
    static List<Field> changed(TicketEvent event) {
        return switch (event) {
            case TicketEvent.StateChanged e -> BY_STATE;
            case TicketEvent.PriorityChanged e -> BY_PRIORITY;
            case TicketEvent.TeamChanged e -> BY_TEAM;
            case TicketEvent.TopicChanged e -> BY_TOPIC;
            case TicketEvent.TagsChanged e -> BY_TAGS;
            case TicketEvent.CustomerChanged e -> BY_CUSTOMER;
            default -> List.of();
        };
    }

    private static Facts known(Facts facts, TicketEvent.CustomerKnown customer) {
        return facts.with(Field.COMPANY, text(customer.company())).with(Field.PLAN, customer.plan());
    }

    private static String text(OptionalLong id) {
        return id.isPresent() ? Long.toString(id.getAsLong()) : "";
    }
}
