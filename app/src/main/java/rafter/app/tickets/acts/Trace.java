package rafter.app.tickets.acts;

import org.jooq.Condition;
import org.jooq.Field;
import rafter.core.id.TicketNumber;

/**
 * Something that may be kept about a ticket, and mostly is not. A page asks for all traces at once, and then only for what there is, for most
 * tickets have neither chats nor rooms nor parts.
 */
public interface Trace {

    /** What it is asked for by; that of the channel where it is one. */
    String key();

    /** Whether there is anything of it about a ticket. */
    Condition there(Field<TicketNumber> ticket);
}
