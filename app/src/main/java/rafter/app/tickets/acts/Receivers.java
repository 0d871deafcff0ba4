package rafter.app.tickets.acts;

import java.time.Instant;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import rafter.app.house.access.Person;
import rafter.app.house.access.Role;
import rafter.app.platform.SafeHtml;
import rafter.app.tickets.channel.Channels;
import rafter.app.tickets.channel.Outgoing;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Act;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.Way;

/** Whom a standing instruction tells of a ticket, and the mail to an address that it writes. */
public final class Receivers {

    private Receivers() {}

    /**
     * Who of us is told.
     *
     * @param people who works here
     * @param members who is in which team
     */
    public static Collection<PersonId> of(
            Ticket ticket, Act.Whom whom, Map<PersonId, Person> people, Map<TeamId, List<PersonId>> members) {
        List<PersonId> team =
                ticket.team().map(id -> members.getOrDefault(id, List.of())).orElse(List.of());
        var found = new LinkedHashSet<PersonId>();
        switch (whom) {
            // A ticket that nobody owns concerns its team.
            case OWNER -> found.addAll(ticket.owner().map(List::of).orElse(team));
            case TEAM -> found.addAll(team);
            case LEAD -> {
                List<PersonId> leads = people.values().stream()
                        .filter(p -> p.role() == Role.LEAD)
                        .map(Person::id)
                        .toList();
                List<PersonId> own = leads.stream().filter(team::contains).toList();
                found.addAll(own.isEmpty() ? leads : own);
            }
            case ADDRESS -> {}
        }
        found.removeIf(person -> !people.containsKey(person));
        return found;
    }

    /** Writes to an address that is nobody's on the ticket; it is no entry of it. */
    public static void mail(
            Channels channels, TicketNumber number, Way way, String address, String about, String words, Instant now) {
        channels.letters(way)
                .ifPresent(sender -> sender.channel()
                        .send(new Outgoing(
                                number,
                                Optional.empty(),
                                sender.ours(),
                                sender.channel().newIdentity(number, sender.ours()),
                                sender.ours().name(),
                                List.of(address),
                                List.of(),
                                List.of(),
                                "Ticket " + number + ": " + about,
                                SafeHtml.fromText(words),
                                words,
                                Optional.empty(),
                                List.of(),
                                List.of(),
                                true,
                                now)));
    }
}
