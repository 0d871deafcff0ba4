package rafter.app.tickets.writing;

import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import rafter.app.house.access.Access;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Ends;
import rafter.app.tickets.acts.Tickets;
import rafter.app.tickets.acts.Traces;
import rafter.app.tickets.channel.Channel;
import rafter.app.tickets.channel.Channels;
import rafter.app.tickets.channel.OurAddress;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.Way;

/** By which ways the customer of a ticket can be answered, and choosing another one; it stays one ticket. */
@Component
public class Ways {

    /** A way, as people choose it. */
    public record Choice(String key, String name, boolean now) {}

    /** Between a channel and one of our addresses on it. */
    private static final char BETWEEN = ':';

    private final Recipients recipients;
    private final Channels channels;
    private final Tickets tickets;
    private final Acts acts;

    Ways(Recipients recipients, Channels channels, Tickets tickets, Acts acts) {
        this.recipients = recipients;
        this.channels = channels;
        this.tickets = tickets;
        this.acts = acts;
    }

    /**
     * The ways there are, by their names; the one that answers take now is always among them.
     *
     * @param known the addresses of the ticket's customer
     */
    public List<Choice> of(TicketNumber number, Ticket ticket, List<String> known, Traces.Found traces) {
        return channels.all().stream()
                .filter(one -> one.key().equals(ticket.channel())
                        || (traces.may(one.key())
                                && way(number, ticket, known, one, OptionalLong.empty())
                                        .isPresent()))
                .flatMap(one -> choices(number, ticket, one))
                .toList();
    }

    /** Where there are several addresses of ours on a channel, each is a way of its own. */
    private static Stream<Choice> choices(TicketNumber number, Ticket ticket, Channel channel) {
        List<OurAddress> from = channel.from(number);
        boolean now = channel.key().equals(ticket.channel());
        if (from.size() < 2) {
            return Stream.of(new Choice(channel.key(), channel.name(), now));
        }
        return from.stream()
                .map(ours -> new Choice(
                        channel.key() + BETWEEN + ours.id(),
                        channel.name() + ", from " + ours.address(),
                        now && ticket.way().address().equals(OptionalLong.of(ours.id()))));
    }

    /** By which of our addresses on a channel the customer can be answered; nothing where they cannot. */
    private Optional<Way> way(
            TicketNumber number, Ticket ticket, List<String> known, Channel channel, OptionalLong from) {
        if (channel.reaches(number).isPresent()) {
            return channel.from(number).stream()
                    .filter(ours -> from.isEmpty() || ours.id() == from.getAsLong())
                    .findFirst()
                    .map(ours -> new Way(channel.key(), OptionalLong.of(ours.id())));
        }
        boolean reachable = channel.abilities().letters() && known.stream().anyMatch(channel::writable);
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
        Ticket ticket = tickets.get(number, me);
        Ends.mayAnswer(number, ticket);
        if (key.equals(ticket.channel())) {
            return;
        }
        int between = key.indexOf(BETWEEN);
        String channel = between < 0 ? key : key.substring(0, between);
        String address = between < 0 ? "" : key.substring(between + 1);
        OptionalLong from =
                address.matches("\\d{1,15}") ? OptionalLong.of(Long.parseLong(address)) : OptionalLong.empty();
        List<String> known = recipients.known(ticket.contact());
        Way way = channels.all().stream()
                .filter(one -> one.key().equals(channel))
                .flatMap(one -> way(number, ticket, known, one, from).stream())
                .findFirst()
                .orElseThrow(() -> new Problem.Invalid(
                        "The customer cannot be reached by that way. Nothing was changed; your draft is kept."));
        acts.perform(number, new Act.AnswerBy(way), me);
    }
}
