package rafter.core.ticket;

import java.time.Instant;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import java.util.TreeSet;

/**
 * A ticket as it stands after its events: their fold, and nothing that is not in them.
 *
 * @param way how it came, and how answers go back
 * @param seq the number of events folded
 * @param lastPublicSeq the number of the last event in which either side wrote to the other
 * @param resolvedAt when it entered the ending state it is in
 * @param handedBy who made its owner its owner, or last took it from one
 * @param linkedTo the earlier ticket that it follows, or the one that it is a part of
 * @param links all that it follows and all that go on with it
 * @param turnSince since when it has been the move of whose it is
 * @param lastCustomerAt when the customer last wrote
 * @param joined how it became a part of another ticket; nothing when it is one of its own
 * @param discarding how it came into the bin; nothing when it is not in it
 * @param agreedDue the time promised to the customer for the resolution, where it is another one than the policy says
 * @param bringBackAt when it is to come back, should nothing be heard before
 * @param broughtBackAt when it last came back
 * @param own what it has in own fields, by their key; those without a value are left out
 */
public record Ticket(
        String subject,
        Way way,
        long contact,
        TicketState state,
        Priority priority,
        OptionalLong owner,
        Optional<Actor> handedBy,
        OptionalLong team,
        String topic,
        Set<String> tags,
        Instant openedAt,
        Instant changedAt,
        Optional<Instant> resolvedAt,
        OptionalLong linkedTo,
        Set<Long> links,
        int messages,
        int seq,
        int lastPublicSeq,
        Instant turnSince,
        Optional<Instant> lastCustomerAt,
        Optional<Discarding> discarding,
        Optional<Joining> joined,
        Optional<Instant> agreedDue,
        Optional<Instant> bringBackAt,
        Optional<Instant> broughtBackAt,
        Map<String, String> own) {

    public Ticket {
        tags = Set.copyOf(tags);
        links = Set.copyOf(links);
        own = Map.copyOf(own);
    }

    /**
     * How a ticket became a part of another one.
     *
     * @param into that ticket
     * @param state what it was in before
     * @param linkedTo what it was linked to before
     */
    public record Joining(long into, TicketState state, OptionalLong linkedTo) {}

    /**
     * How a ticket came into the bin.
     *
     * @param state what it was in before
     * @param why in words
     */
    public record Discarding(TicketState state, String why) {}

    /** The ticket that it has become a part of. */
    public OptionalLong joinedInto() {
        return joined.map(joining -> OptionalLong.of(joining.into())).orElse(OptionalLong.empty());
    }

    /** The key of the channel by which it came. */
    public String channel() {
        return way.channel();
    }

    /** Whose move it is. */
    public Turn turn() {
        return state.turn();
    }

    /** Whether it is in the bin. */
    public boolean discarded() {
        return discarding.isPresent();
    }

    /** Why it is in the bin, in words; blank when it is not. */
    public String discardedWhy() {
        return discarding.map(Discarding::why).orElse("");
    }

    /** Whether work on it goes on. */
    public boolean open() {
        return !state.ending();
    }

    /**
     * The ticket that a list of events tells of.
     *
     * @throws IllegalArgumentException when the list is empty or does not begin with {@link TicketEvent.Opened}
     */
    public static Ticket replay(List<TicketEvent> events) {
        if (events.isEmpty() || !(events.getFirst() instanceof TicketEvent.Opened opened)) {
            throw new IllegalArgumentException("a ticket's events begin with its opening");
        }
        Ticket ticket = begin(opened);
        for (TicketEvent event : events.subList(1, events.size())) {
            ticket = ticket.after(event);
        }
        return ticket;
    }

    private static Ticket begin(TicketEvent.Opened o) {
        return new Ticket(
                o.subject(),
                o.way(),
                o.contact(),
                TicketState.NEW,
                o.priority(),
                OptionalLong.empty(),
                Optional.empty(),
                o.team(),
                "",
                Set.of(),
                o.at(),
                o.at(),
                Optional.empty(),
                OptionalLong.empty(),
                Set.of(),
                0,
                1,
                0,
                o.at(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Optional.empty(),
                Map.of());
    }

    /** The ticket after one more event. */
    public Ticket after(TicketEvent event) {
        return switch (event) {
            case TicketEvent.Opened again -> throw new IllegalArgumentException("opened twice, again at " + again.at());
            case TicketEvent.CustomerWrote e ->
                edit(event).spoken().byCustomer(e).done();
            case TicketEvent.WeWrote e -> edit(event).spoken().done();
            case TicketEvent.NoteAdded e -> edit(event).message().done();
            case TicketEvent.Bounced e -> edit(event).message().done();
            case TicketEvent.StateChanged e -> edit(event).state(e.state()).done();
            case TicketEvent.PriorityChanged e ->
                edit(event).priority(e.priority()).done();
            case TicketEvent.OwnerChanged e ->
                edit(event).owner(e.owner(), e.actor()).done();
            case TicketEvent.TeamChanged e -> edit(event).team(e.team()).done();
            case TicketEvent.TopicChanged e -> edit(event).topic(e.topic()).done();
            case TicketEvent.TagsChanged e -> edit(event).tags(e.tags()).done();
            case TicketEvent.Linked e ->
                edit(event).linkedTo(e.earlier()).link(e.earlier()).done();
            case TicketEvent.CustomerChanged e -> edit(event).done();
            case TicketEvent.Joined e -> edit(event).join(e.into()).done();
            case TicketEvent.Parted e -> edit(event).part().done();
            case TicketEvent.Unlinked e -> edit(event).unlinked(e.other()).done();
            case TicketEvent.Continued e -> edit(event).link(e.later()).done();
            case TicketEvent.NoteTakenBack e -> edit(event).unsaid().done();
            case TicketEvent.Discarded e -> edit(event).discard(e.why()).done();
            case TicketEvent.Restored e -> edit(event).restore().done();
            case TicketEvent.FieldSet e -> edit(event).own(e.field(), e.value()).done();
            case TicketEvent.TimeAgreed e -> edit(event).agreed(e.due()).done();
            case TicketEvent.BringBackSet e -> edit(event).bringBack(e.when()).done();
            case TicketEvent.BroughtBack e -> edit(event).broughtBack().done();
        };
    }

    private Edit edit(TicketEvent event) {
        return new Edit(this, event.at());
    }

    /** The parts of a ticket while one event is applied to it. */
    private static final class Edit {
        private final Ticket was;
        private final Instant at;
        private TicketState state;
        private Priority priority;
        private OptionalLong owner;
        private Optional<Actor> handedBy;
        private OptionalLong team;
        private String topic;
        private Set<String> tags;
        private Optional<Instant> resolvedAt;
        private OptionalLong linkedTo;
        private Set<Long> links;
        private int messages;
        private int lastPublicSeq;
        private Instant turnSince;
        private Optional<Instant> lastCustomerAt;
        private Optional<Discarding> discarding;
        private Optional<Joining> joined;
        private Optional<Instant> agreedDue;
        private Optional<Instant> bringBackAt;
        private Optional<Instant> broughtBackAt;
        private Map<String, String> own;

        Edit(Ticket was, Instant at) {
            this.was = was;
            this.at = at;
            this.state = was.state;
            this.priority = was.priority;
            this.owner = was.owner;
            this.handedBy = was.handedBy;
            this.team = was.team;
            this.topic = was.topic;
            this.tags = was.tags;
            this.resolvedAt = was.resolvedAt;
            this.linkedTo = was.linkedTo;
            this.links = was.links;
            this.messages = was.messages;
            this.lastPublicSeq = was.lastPublicSeq;
            this.turnSince = was.turnSince;
            this.lastCustomerAt = was.lastCustomerAt;
            this.discarding = was.discarding;
            this.joined = was.joined;
            this.agreedDue = was.agreedDue;
            this.bringBackAt = was.bringBackAt;
            this.broughtBackAt = was.broughtBackAt;
            this.own = was.own;
        }

        Edit message() {
            messages++;
            return this;
        }

        Edit unsaid() {
            messages--;
            return this;
        }

        Edit spoken() {
            messages++;
            lastPublicSeq = was.seq + 1;
            return this;
        }

        Edit byCustomer(TicketEvent.CustomerWrote message) {
            if (!message.automatic()) {
                lastCustomerAt = Optional.of(at);
                bringBackAt = Optional.empty();
            }
            return this;
        }

        Edit discard(String why) {
            discarding =
                    Optional.of(new Discarding(discarding.map(Discarding::state).orElse(state), why));
            return state(TicketState.CLOSED);
        }

        Edit restore() {
            TicketState former = discarding.map(Discarding::state).orElse(state);
            discarding = Optional.empty();
            return state(former);
        }

        Edit state(TicketState next) {
            turnSince = next.turn() == state.turn() ? turnSince : at;
            if (next.ending() && !state.ending()) {
                resolvedAt = Optional.of(at);
                bringBackAt = Optional.empty();
            } else if (!next.ending()) {
                resolvedAt = Optional.empty();
            }
            state = next;
            return this;
        }

        Edit priority(Priority next) {
            priority = next;
            return this;
        }

        Edit owner(OptionalLong next, Actor by) {
            owner = next;
            handedBy = Optional.of(by);
            return this;
        }

        Edit team(OptionalLong next) {
            team = next;
            return this;
        }

        Edit topic(String next) {
            topic = next;
            return this;
        }

        Edit tags(Set<String> next) {
            tags = new TreeSet<>(next);
            return this;
        }

        Edit linkedTo(long earlier) {
            linkedTo = OptionalLong.of(earlier);
            return this;
        }

        Edit own(String field, String value) {
            var next = new HashMap<>(own);
            if (value.isEmpty()) {
                next.remove(field);
            } else {
                next.put(field, value);
            }
            own = next;
            return this;
        }

        Edit agreed(Optional<Instant> due) {
            agreedDue = due;
            return this;
        }

        Edit bringBack(Optional<Instant> when) {
            bringBackAt = when;
            return this;
        }

        Edit broughtBack() {
            bringBackAt = Optional.empty();
            broughtBackAt = Optional.of(at);
            return this;
        }

        Edit unlinked(long other) {
            linkedTo = linkedTo.equals(OptionalLong.of(other)) ? OptionalLong.empty() : linkedTo;
            var left = new HashSet<>(links);
            left.remove(other);
            links = left;
            return this;
        }

        Edit link(long other) {
            var more = new HashSet<>(links);
            more.add(other);
            links = more;
            return this;
        }

        Edit join(long other) {
            joined = Optional.of(joined.orElse(new Joining(other, state, linkedTo)));
            return linkedTo(other).state(TicketState.CLOSED);
        }

        Edit part() {
            if (joined.isEmpty()) {
                return this;
            }
            linkedTo = joined.get().linkedTo();
            state(joined.get().state());
            joined = Optional.empty();
            return this;
        }

        Ticket done() {
            return new Ticket(
                    was.subject,
                    was.way,
                    was.contact,
                    state,
                    priority,
                    owner,
                    handedBy,
                    team,
                    topic,
                    tags,
                    was.openedAt,
                    at,
                    resolvedAt,
                    linkedTo,
                    links,
                    messages,
                    was.seq + 1,
                    lastPublicSeq,
                    turnSince,
                    lastCustomerAt,
                    discarding,
                    joined,
                    agreedDue,
                    bringBackAt,
                    broughtBackAt,
                    own);
        }
    }
}
