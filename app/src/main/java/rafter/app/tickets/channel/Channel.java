package rafter.app.tickets.channel;

import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import rafter.app.platform.Say;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;

/** A way by which customers reach us and we them. How it works is known to its adapter alone. */
public interface Channel {

    /** What it is called in events and rows, for good. */
    String key();

    /** What people call it. */
    String name();

    /** The page on which our addresses on it are set. */
    String settings();

    /** What that page is called. */
    default String settingsName() {
        return Say.capital(name());
    }

    /** What it can do. */
    Abilities abilities();

    /** All our addresses on it, by their names. */
    List<OurAddress> addresses();

    /** One of our addresses on it; nothing when it is gone. */
    Optional<OurAddress> ours(long id);

    /** Whether an address is one of ours, in whatever form answers come to it. */
    boolean isOurs(String address);

    /** Whether a message can be sent to an address. */
    boolean writable(String address);

    /**
     * The addresses in a list that a person typed, each once, in the form in which they are kept.
     *
     * @param where it was typed, in words
     * @throws rafter.app.platform.Problem.Invalid when one of them is none, or nothing can be sent to it
     */
    List<String> typed(String list, String where);

    /**
     * By what the customer of a ticket is reached, where the channel itself knows; nothing where the addresses that they are known by say it,
     * or where they cannot be reached by it.
     */
    default Optional<String> reaches(TicketNumber ticket) {
        return Optional.empty();
    }

    /** From which of our addresses they are reached, where {@link #reaches} knows them. */
    default Optional<OurAddress> ours(TicketNumber ticket) {
        return Optional.empty();
    }

    /** From which of our addresses they can be answered, where there are several to choose from; the usual one first. */
    default List<OurAddress> from(TicketNumber ticket) {
        return ours(ticket).stream().toList();
    }

    /** The page on which a ticket is worked on that is theirs who took it. */
    default String desk(TicketNumber ticket) {
        return "/tickets/" + ticket;
    }

    /** An identity for a message of a ticket that is about to be sent; nobody can guess it. */
    String newIdentity(TicketNumber ticket, OurAddress from);

    /** Has a message leave as soon as the running transaction commits, once. */
    void send(Outgoing message);

    /** How the messages behind these entries stand; those that were sent by this channel. */
    Map<MessageId, Delivery> deliveries(Collection<MessageId> entries);

    /** Tries to deliver a message again at once that failed or waits. */
    void again(long delivery, Instant now, PersonId by);
}
