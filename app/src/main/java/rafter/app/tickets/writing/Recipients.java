package rafter.app.tickets.writing;

import static rafter.database.Tables.CONTACT_ADDRESS;
import static rafter.database.Tables.MESSAGE;
import static rafter.database.Tables.PARTICIPANT;

import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Optional;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import rafter.app.tickets.channel.Channel;
import rafter.app.tickets.channel.Channels;
import rafter.core.id.ContactId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Ticket;

/**
 * To whom a reply goes: to the customer, where they wanted answers when the ticket was opened, and to the people who take part. What a later
 * mail says of its sender never moves the answer by itself.
 */
@Component
public class Recipients {

    private static final int MOST_COPIES = 20;

    /**
     * To whom a reply goes unless its writer says otherwise.
     *
     * @param to the customer's address; empty when they have none that can be written to
     * @param cc those of the others who take part
     * @param others further addresses from which the customer wrote or that they are known by
     */
    public record Proposed(String to, List<String> cc, List<String> others) {}

    private record Written(String from, String replyTo) {}

    private final DSLContext sql;
    private final Channels channels;

    Recipients(DSLContext sql, Channels channels) {
        this.sql = sql;
        this.channels = channels;
    }

    /** To whom a reply to a ticket goes by itself. */
    public Proposed proposed(TicketNumber number, Ticket ticket) {
        return proposed(number, ticket, known(ticket.contact()));
    }

    /** The addresses of a contact, in their order. */
    List<String> known(ContactId contact) {
        return sql.select(CONTACT_ADDRESS.ADDRESS)
                .from(CONTACT_ADDRESS)
                .where(CONTACT_ADDRESS.CONTACT_ID.eq(contact))
                .orderBy(CONTACT_ADDRESS.ADDRESS)
                .fetch(CONTACT_ADDRESS.ADDRESS);
    }

    /**
     * To whom a reply to a ticket goes by itself.
     *
     * @param known the addresses of its customer, in their order
     */
    public Proposed proposed(TicketNumber number, Ticket ticket, List<String> known) {
        Channel channel = channels.of(ticket.channel());
        Optional<String> reached = channel.reaches(number);
        if (reached.isPresent()) {
            return new Proposed(reached.get(), List.of(), List.of());
        }
        List<Written> written = sql.select(MESSAGE.FROM_ADDRESS, MESSAGE.REPLY_TO)
                .from(MESSAGE)
                .where(MESSAGE.TICKET.eq(number))
                .and(MESSAGE.KIND.eq("CUSTOMER"))
                .and(MESSAGE.CONTACT_ID.eq(ticket.contact()))
                .orderBy(MESSAGE.SEQ)
                .limit(200)
                .fetch(r -> new Written(r.value1(), r.value2()));
        String to = customersAddress(written, known, channel);
        var others = new LinkedHashSet<String>();
        written.forEach(one -> others.add(one.from()));
        others.addAll(known);
        others.remove(to);
        return new Proposed(
                to,
                copies(number, to, known, channel),
                others.stream().filter(channel::writable).toList());
    }

    /** Where they wanted answers at first; when that address is theirs no more, another one of theirs. */
    private static String customersAddress(List<Written> written, List<String> known, Channel channel) {
        Optional<Written> first = written.stream().findFirst();
        Optional<String> wanted = first.map(one -> one.replyTo().isEmpty() ? one.from() : one.replyTo());
        boolean gone = first.isPresent()
                && first.get().replyTo().isEmpty()
                && !known.isEmpty()
                && !known.contains(first.get().from());
        var inOrder = new ArrayList<String>();
        if (!gone) {
            wanted.ifPresent(inOrder::add);
        }
        written.reversed().stream().map(Written::from).filter(known::contains).forEach(inOrder::add);
        inOrder.addAll(known);
        return inOrder.stream().filter(channel::writable).findFirst().orElse("");
    }

    private List<String> copies(TicketNumber ticket, String to, List<String> known, Channel channel) {
        return sql
                .select(PARTICIPANT.ADDRESS)
                .from(PARTICIPANT)
                .where(PARTICIPANT.TICKET.eq(ticket))
                .orderBy(PARTICIPANT.ADDRESS)
                .fetch(PARTICIPANT.ADDRESS)
                .stream()
                .filter(address -> !address.equals(to)
                        && !known.contains(address)
                        && !channel.isOurs(address)
                        && channel.writable(address))
                .limit(MOST_COPIES)
                .toList();
    }
}
