package rafter.app.tickets.writing;

import static rafter.database.Tables.CONTACT_ADDRESS;

import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import org.jooq.DSLContext;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Ends;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.channel.Channel;
import rafter.app.tickets.channel.Channels;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.Way;

/** By which ways the customer of a ticket can be answered, and choosing another one; it stays one ticket. */
@Component
public class Ways {

    /** A way, as people choose it. */
    public record Choice(String key, String name, boolean now) {}

    private final DSLContext sql;
    private final Channels channels;
    private final Tickets tickets;
    private final Acts acts;

    Ways(DSLContext sql, Channels channels, Tickets tickets, Acts acts) {
        this.sql = sql;
        this.channels = channels;
        this.tickets = tickets;
        this.acts = acts;
    }

    /** The ways there are, by their names; the one that answers take now is always among them. */
    public List<Choice> of(TicketNumber number, Ticket ticket) {
        return channels.all().stream()
                .filter(one -> one.key().equals(ticket.channel())
                        || way(number, ticket, one).isPresent())
                .map(one -> new Choice(one.key(), one.name(), one.key().equals(ticket.channel())))
                .toList();
    }

    /** By which of our addresses on a channel the customer can be answered; nothing where they cannot. */
    private Optional<Way> way(TicketNumber number, Ticket ticket, Channel channel) {
        if (channel.reaches(number).isPresent()) {
            return channel.ours(number).map(ours -> new Way(channel.key(), OptionalLong.of(ours.id())));
        }
        boolean reachable = channel.abilities().letters()
                && sql
                        .select(CONTACT_ADDRESS.ADDRESS)
                        .from(CONTACT_ADDRESS)
                        .where(CONTACT_ADDRESS.CONTACT_ID.eq(ticket.contact()))
                        .fetch(CONTACT_ADDRESS.ADDRESS)
                        .stream()
                        .anyMatch(channel::writable);
        return reachable
                ? channels.letters(ticket.way())
                        .filter(sender -> sender.channel().key().equals(channel.key()))
                        .map(sender -> new Way(
                                channel.key(), OptionalLong.of(sender.ours().id())))
                : Optional.empty();
    }

    /**
     * Has answers go another way from now on.
     *
     * @throws Problem.Invalid when the customer cannot be reached by it
     */
    @Transactional
    public void choose(TicketNumber number, String key, Viewer me) {
        Access.require(me, Right.WORK);
        Ticket ticket =
                tickets.find(number, me).orElseThrow(() -> new Problem.NotFound("There is no ticket " + number + "."));
        Ends.mayAnswer(number, ticket);
        if (key.equals(ticket.channel())) {
            return;
        }
        Way way = channels.all().stream()
                .filter(one -> one.key().equals(key))
                .flatMap(one -> way(number, ticket, one).stream())
                .findFirst()
                .orElseThrow(() -> new Problem.Invalid(
                        "The customer cannot be reached by that way. Nothing was changed; your draft is kept."));
        acts.perform(number, new Act.AnswerBy(way), me);
    }
}
