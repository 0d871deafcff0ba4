package rafter.app.promises.policies;

import java.time.Instant;
import java.util.List;
import java.util.Set;
import java.util.function.Consumer;
import rafter.core.criteria.Facts;
import rafter.core.criteria.KnownField;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.TicketEvent;

/** The recorded histories of tickets, against which changes are rehearsed. */
public interface Histories {

    /** The history of a ticket; {@code team} is the id of its team, or zero. */
    record History(TicketNumber ticket, TeamId team, Facts customer, List<TicketEvent> events) {}

    /** How many tickets lived in a period. */
    long count(Instant from, Instant to);

    /**
     * Gives the tickets that lived in a period, in parts, without holding them all.
     *
     * @param part which share of the tickets, from zero
     * @param parts into how many shares they are divided
     * @param asked the facts about customers that are wanted
     * @param each is given some hundred at a time
     */
    void walk(Instant from, Instant to, int part, int parts, Set<KnownField> asked, Consumer<List<History>> each);

    /** As {@link #walk}, with only the events with which each ticket came, for what asks about nothing later. */
    void walkBeginnings(
            Instant from, Instant to, int part, int parts, Set<KnownField> asked, Consumer<List<History>> each);
}
