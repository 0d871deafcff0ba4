package rafter.core.ticket;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import rafter.core.id.ContactId;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;

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
 * @param work the parts of the work on it
 * @param steering what was put on it over what follows from its facts
 * @param own what it has in own fields, by their key; those without a value are left out
 */
public record Ticket(
        String subject,
        Way way,
        ContactId contact,
        TicketState state,
        Priority priority,
        Optional<PersonId> owner,
        Optional<Actor> handedBy,
        Optional<TeamId> team,
        String topic,
        Set<String> tags,
        Instant openedAt,
        Instant changedAt,
        Optional<Instant> resolvedAt,
        Optional<TicketNumber> linkedTo,
        Set<TicketNumber> links,
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
        Map<String, String> own,
        Work work,
        Steering steering)
        implements Standing {

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
    public record Joining(TicketNumber into, TicketState state, Optional<TicketNumber> linkedTo) {}

    /**
     * How a ticket came into the bin.
     *
     * @param state what it was in before
     * @param why in words
     */
    public record Discarding(TicketState state, String why) {}

    /** The ticket that it has become a part of. */
    public Optional<TicketNumber> joinedInto() {
        return joined.map(Joining::into);
    }

    @Override
    public String channel() {
        return way.channel();
    }

    /** Whether it is in the bin. */
    public boolean discarded() {
        return discarding.isPresent();
    }

    /** Why it is in the bin, in words; blank when it is not. */
    public String discardedWhy() {
        return discarding.map(Discarding::why).orElse("");
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
        var folding = new Folding(opened);
        events.subList(1, events.size()).forEach(folding::take);
        return folding.ticket();
    }

    /** The ticket after one more event. */
    public Ticket after(TicketEvent event) {
        var folding = new Folding(this);
        folding.take(event);
        return folding.ticket();
    }
}
