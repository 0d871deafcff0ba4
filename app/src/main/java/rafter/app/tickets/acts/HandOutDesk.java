package rafter.app.tickets.acts;

import java.util.List;
import java.util.Optional;
import rafter.app.house.access.Viewer;
import rafter.core.id.TicketNumber;

/** What pages and acts of a ticket know of queues and skills, as the hand-out keeps them. */
public interface HandOutDesk {

    /** A queue or a skill, as people choose it. */
    record Choice(String id, String name) {}

    /**
     * Where a ticket waits for somebody.
     *
     * @param place from one
     * @param order how the queue is ordered, in words
     */
    record Place(String queue, int place, int of, String order) {}

    /** A skill that a ticket needs, and why. */
    record NeedLine(String skill, String why) {}

    /**
     * Where a ticket waits, and what it needs.
     *
     * @param place nothing when it waits nowhere
     */
    record Waiting(Optional<Place> place, List<NeedLine> needs) {
        /** It waits nowhere. */
        public static final Waiting NOWHERE = new Waiting(Optional.empty(), List.of());
    }

    /** The queues that are on, in their order. */
    List<Choice> queues();

    /** The skills, in the order of the catalogue. */
    List<Choice> skills();

    /** Where a ticket waits and what it needs, as far as somebody sees. */
    Waiting waiting(TicketNumber ticket, Viewer me);
}
