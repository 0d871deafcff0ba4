package rafter.app.tickets.acts;

import java.util.Collection;
import java.util.OptionalLong;
import rafter.core.id.TicketNumber;

/** Mail about a ticket that belongs to something beside its conversation. It is asked for before the conversation is. */
public interface OtherMail {

    /**
     * By what this knows a mail again that belongs to it; empty when it does not.
     *
     * @param references the identities that it answers
     * @param marked the tickets whose mark one of its recipients carries
     * @param from who wrote it
     */
    OptionalLong belonging(Collection<String> references, Collection<TicketNumber> marked, String from);

    /**
     * Takes it, within the running transaction.
     *
     * @param mail nothing of it is an entry of a ticket yet
     * @param once by which a second delivery is known
     * @param automatic written by a machine: it answers nothing
     * @return what became of it, in words
     */
    String take(long belonging, NewMessage mail, String once, boolean automatic);
}
