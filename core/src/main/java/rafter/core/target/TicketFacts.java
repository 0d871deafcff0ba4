package rafter.core.target;

import java.math.BigDecimal;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Function;
import java.util.stream.Collectors;
import rafter.core.criteria.Fact;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.criteria.OwnField;
import rafter.core.id.Id;
import rafter.core.id.PersonId;
import rafter.core.ticket.Folding;
import rafter.core.ticket.Standing;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketEvent;
import rafter.core.ticket.Work;

/** What criteria can ask about a ticket, as its events tell it. */
public final class TicketFacts {

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
            facts = ofCustomer(facts, event);
        }
        return of(facts, Ticket.replay(events));
    }

    /**
     * What was known at an instant, with the customer as they were then.
     *
     * @param at not before the opening
     */
    public static Facts at(Instant at, Facts customer, List<TicketEvent> events) {
        List<TicketEvent> happened =
                events.stream().takeWhile(event -> !event.at().isAfter(at)).toList();
        return of(begin(customer, events), happened);
    }

    /** What is known of a ticket and its customer. */
    public static Facts of(Facts customer, Ticket ticket) {
        Facts facts = customer.with(KnownField.SUBJECT, ticket.subject());
        for (Changing one : Changing.ALL) {
            facts = facts.with(one.field, one.fact.apply(ticket));
        }
        for (var own : ticket.own().entrySet()) {
            Optional<OwnField> field = OwnField.of(own.getKey());
            facts = field.isPresent() ? facts.with(field.get(), own.getValue()) : facts;
        }
        return facts;
    }

    /** What is known of the customer after one more event. */
    public static Facts ofCustomer(Facts customer, TicketEvent event) {
        return event instanceof TicketEvent.CustomerChanged changed ? known(customer, changed.after()) : customer;
    }

    /** Facts in which one field is as a ticket has it now. */
    static Facts with(Facts facts, KnownField field, Standing ticket) {
        return facts.with(
                field,
                Optional.ofNullable(Changing.BY_FIELD.get(field))
                        .orElseThrow()
                        .fact
                        .apply(ticket));
    }

    /** What was last seen of a ticket, to tell what an event changed. */
    static final class Seen {
        private final Folding ticket;
        private final Object[] values = new Object[Changing.ALL.size()];
        private int settings;

        Seen(Folding ticket) {
            this.ticket = ticket;
            changed();
        }

        /** The fields in which the ticket differs from when it was looked at before this event. */
        List<KnownField> changed(TicketEvent event) {
            if (event instanceof TicketEvent.CustomerChanged) {
                return BY_CUSTOMER;
            }
            return ticket.settings() == settings ? List.of() : changed();
        }

        private List<KnownField> changed() {
            settings = ticket.settings();
            List<KnownField> changed = List.of();
            for (int i = 0; i < values.length; i++) {
                Changing one = Changing.ALL.get(i);
                Object value = one.of(ticket);
                if (!value.equals(values[i])) {
                    values[i] = value;
                    changed = changed.isEmpty() ? new ArrayList<>(2) : changed;
                    changed.add(one.field);
                }
            }
            return changed;
        }
    }

    /** What lists can ask: the facts, and besides who owns it, since when things are as they are, and what falls due. */
    public static Facts withTimes(Facts facts, Ticket ticket, List<TargetClock> clocks) {
        Facts known = withWork(facts, ticket.work())
                .with(KnownField.OWNER, chosen(ticket.owner()))
                .with(KnownField.AGE, new Fact.Since(ticket.openedAt()))
                .with(KnownField.IN_TURN, new Fact.Since(ticket.turnSince()))
                .with(KnownField.SINCE_CUSTOMER, Fact.since(ticket.lastCustomerAt()))
                .with(KnownField.SINCE_BACK, Fact.since(ticket.broughtBackAt()))
                .with(
                        KnownField.COMES_BACK,
                        ticket.bringBackAt()
                                .<Fact>map(at -> new Fact.Ahead(at, Optional.empty()))
                                .orElse(Fact.NOTHING))
                .with(KnownField.NEXT_TARGET, nextTarget(clocks));
        for (TargetClock clock : clocks) {
            if (clock.state() instanceof ClockState.Running(Optional<Instant> due) && due.isPresent()) {
                known = known.with(field(clock.objective()), new Fact.Ahead(due.get(), clock.riskFrom()));
            }
        }
        return known;
    }

    private static Fact several(Set<String> values) {
        return values.isEmpty() ? Fact.NOTHING : new Fact.Several(values);
    }

    private static Facts withWork(Facts facts, Work work) {
        Set<String> watchers = work.watchers().stream().map(PersonId::toString).collect(Collectors.toSet());
        return facts.with(KnownField.WATCHERS, several(watchers))
                .with(KnownField.HELPERS, several(work.helpers()))
                .with(KnownField.HELPING_TEAMS, several(work.helpingTeams()))
                .with(KnownField.OPEN_TASKS, new Fact.Amount(BigDecimal.valueOf(work.openTasks())))
                .with(KnownField.TIME_SPENT, new Fact.Amount(BigDecimal.valueOf(work.minutes())))
                .with(KnownField.CAUSE, Fact.chosen(work.resolution().cause()))
                .with(
                        KnownField.RATING,
                        Fact.chosen(
                                work.rated().map(rated -> rated.rating().name()).orElse("")));
    }

    /** When the first falls due, and when the first comes to be at risk. */
    private static Fact nextTarget(List<TargetClock> clocks) {
        Optional<Instant> risk = clocks.stream()
                .filter(c -> c.dueMark().isPresent())
                .flatMap(c -> c.riskFrom().stream())
                .min(Instant::compareTo);
        return Reckoning.nextDue(clocks)
                .flatMap(TargetClock::dueMark)
                .<Fact>map(due -> new Fact.Ahead(due, risk))
                .orElse(Fact.NOTHING);
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

    private static Facts known(Facts facts, TicketEvent.CustomerKnown customer) {
        return facts.with(KnownField.COMPANY, chosen(customer.company())).with(KnownField.PLAN, customer.plan());
    }

    private static Fact chosen(Optional<? extends Id> id) {
        return id.<Fact>map(known -> new Fact.Chosen(known.toString())).orElse(Fact.NOTHING);
    }

    /** What about a ticket changes while it lives, and criteria ask about. */
    private enum Changing {
        STATE(KnownField.STATE, ticket -> new Fact.Chosen(ticket.state().key())),
        TURN(KnownField.TURN, ticket -> new Fact.Chosen(ticket.turn().name())),
        PRIORITY(KnownField.PRIORITY, ticket -> new Fact.Ranked(ticket.priority())),
        TEAM(KnownField.TEAM, ticket -> chosen(ticket.team())),
        CHANNEL(KnownField.CHANNEL, ticket -> Fact.chosen(ticket.channel())),
        TOPIC(KnownField.TOPIC, ticket -> Fact.chosen(ticket.topic())),
        TAGS(KnownField.TAGS, ticket -> ticket.tags().isEmpty() ? Fact.NOTHING : new Fact.Several(ticket.tags()));

        private static final List<Changing> ALL = List.of(values());
        private static final Map<KnownField, Changing> BY_FIELD =
                ALL.stream().collect(Collectors.toUnmodifiableMap(one -> one.field, Function.identity()));

        private final KnownField field;
        private final Function<Standing, Fact> fact;

        Changing(KnownField field, Function<Standing, Fact> fact) {
            this.field = field;
            this.fact = fact;
        }

        /** The value itself; asked after every event, so without a function of its own for each. */
        Object of(Folding ticket) {
            return switch (this) {
                case STATE -> ticket.state();
                case TURN -> ticket.turn();
                case PRIORITY -> ticket.priority();
                case TEAM -> ticket.team();
                case CHANNEL -> ticket.channel();
                case TOPIC -> ticket.topic();
                case TAGS -> ticket.tags();
            };
        }
    }
}
