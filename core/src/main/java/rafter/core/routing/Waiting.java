package rafter.core.routing;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import rafter.core.id.ContactId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Priority;

/**
 * A ticket that waits for somebody.
 *
 * @param since from when it waits in its queue
 * @param due when its next target falls due; nothing when none runs
 * @param units how much of a person it takes, by its channel
 * @param language of its customer; blank when nobody knows
 */
public record Waiting(
        TicketNumber number,
        Priority priority,
        String plan,
        String topic,
        ContactId contact,
        Instant since,
        Optional<Instant> due,
        double units,
        String language,
        List<Need> needs) {

    public Waiting {
        needs = List.copyOf(needs);
    }
}
