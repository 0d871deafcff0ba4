package rafter.app.arrival.social;

import java.time.Instant;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.stereotype.Component;
import rafter.app.arrival.providers.Errands;
import rafter.app.arrival.providers.OurLine;
import rafter.app.arrival.providers.OurLines;
import rafter.app.arrival.providers.Provider;
import rafter.app.platform.Problem;
import rafter.app.tickets.channel.Delivery;
import rafter.app.tickets.channel.OurAddress;
import rafter.app.tickets.channel.Outgoing;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;

/** What the two ways by which people are answered on networks have in common. */
@Component
class Network {

    private final Posts posts;
    private final OurLines lines;
    private final Errands errands;

    Network(Posts posts, OurLines lines, Errands errands) {
        this.posts = posts;
        this.lines = lines;
        this.errands = errands;
    }

    List<OurAddress> addresses() {
        return lines.all(Provider.Kind.SOCIAL).stream().map(OurLine::asAddress).toList();
    }

    Optional<OurAddress> ours(long id) {
        return lines.of(id).map(OurLine::asAddress);
    }

    boolean isOurs(String address) {
        return lines.all(Provider.Kind.SOCIAL).stream()
                .anyMatch(line -> line.address().equalsIgnoreCase(address));
    }

    /** Under which name the customer of a ticket is answered: publicly where they wrote, privately wherever they are known. */
    Optional<String> reaches(TicketNumber ticket, boolean publicly) {
        return posts.latest(ticket)
                .map(Posts.Post::handle)
                .or(() -> known(ticket, publicly).map(Posts.Account::handle));
    }

    private Optional<Posts.Account> known(TicketNumber ticket, boolean publicly) {
        return publicly ? Optional.empty() : posts.accountOf(ticket);
    }

    /** Our accounts from which they can be answered: first the one that they wrote to. */
    List<OurAddress> from(TicketNumber ticket, boolean publicly) {
        Optional<Posts.Post> latest = posts.latest(ticket);
        if (latest.isEmpty()) {
            return known(ticket, publicly).stream()
                    .flatMap(account -> lines.at(account.provider()).stream())
                    .map(OurLine::asAddress)
                    .toList();
        }
        return latest.map(post -> lines.at(post.provider()).stream()
                        .sorted((a, b) -> Boolean.compare(
                                post.line().filter(id -> id == b.id()).isPresent(),
                                post.line().filter(id -> id == a.id()).isPresent()))
                        .map(OurLine::asAddress)
                        .toList())
                .orElse(List.of());
    }

    /** Has a message be written there. */
    void send(Outgoing message, boolean publicly) {
        Optional<Posts.Post> post = posts.latest(message.ticket());
        Posts.Account to = post.map(one -> new Posts.Account(one.provider(), one.handle()))
                .or(() -> known(message.ticket(), publicly))
                .orElseThrow(() ->
                        new Problem.Invalid("Nobody wrote on a network here. Choose another way; your text is saved."));
        var body = new HashMap<String, Object>();
        body.put("key", message.identity());
        body.put("account", message.from().address());
        body.put("text", message.text());
        body.put("private", !publicly);
        body.put("to", to.handle());
        post.filter(one -> one.publicly() || !publicly).ifPresent(one -> body.put("answers", one.outsideId()));
        errands.put(new Errands.Errand(
                to.provider(),
                message.identity(),
                "POST",
                "/posts",
                body,
                Optional.of(message.ticket()),
                message.entry()));
    }

    Map<MessageId, Delivery> deliveries(Collection<MessageId> entries) {
        return errands.deliveries(entries);
    }

    void again(long delivery, Instant now, PersonId by) {
        errands.again(delivery, by);
    }
}
