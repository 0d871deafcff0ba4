package rafter.app.arrival.social;

import java.time.Instant;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.UUID;
import org.jooq.Condition;
import org.jooq.Field;
import rafter.app.platform.Problem;
import rafter.app.tickets.acts.Trace;
import rafter.app.tickets.channel.Abilities;
import rafter.app.tickets.channel.Channel;
import rafter.app.tickets.channel.Delivery;
import rafter.app.tickets.channel.OurAddress;
import rafter.app.tickets.channel.Outgoing;
import rafter.core.id.MessageId;
import rafter.core.id.PersonId;
import rafter.core.id.TicketNumber;

/** A way by which people are answered on networks; our accounts there are our addresses. */
abstract class NetworkChannel implements Channel, Trace {

    private final Network network;
    private final String key;
    private final String name;
    private final Abilities abilities;

    NetworkChannel(Network network, String key, String name, Abilities abilities) {
        this.network = network;
        this.key = key;
        this.name = name;
        this.abilities = abilities;
    }

    @Override
    public String key() {
        return key;
    }

    @Override
    public String name() {
        return name;
    }

    @Override
    public String settings() {
        return "/house-rules/social";
    }

    @Override
    public String settingsName() {
        return "Social";
    }

    @Override
    public Abilities abilities() {
        return abilities;
    }

    @Override
    public List<OurAddress> addresses() {
        return network.addresses();
    }

    @Override
    public Optional<OurAddress> ours(long id) {
        return network.ours(id);
    }

    @Override
    public boolean isOurs(String address) {
        return network.isOurs(address);
    }

    @Override
    public boolean writable(String address) {
        return address.matches("@[^@\\s]{1,60}");
    }

    @Override
    public List<String> typed(String list, String where) {
        List<String> all = Arrays.stream(list.split("[,;\\s]+"))
                .filter(one -> !one.isEmpty())
                .distinct()
                .toList();
        all.stream().filter(one -> !writable(one)).findFirst().ifPresent(wrong -> {
            throw new Problem.Invalid(
                    "“" + wrong + "” in " + where + " is no name of an account. Nothing was sent; your text is saved.");
        });
        return all;
    }

    @Override
    public Condition there(Field<TicketNumber> ticket) {
        return abilities.publicly() ? Posts.wrote(ticket) : Posts.wrote(ticket).or(Posts.isKnown(ticket));
    }

    @Override
    public Optional<String> reaches(TicketNumber ticket) {
        return network.reaches(ticket, abilities.publicly());
    }

    @Override
    public Optional<OurAddress> ours(TicketNumber ticket) {
        return from(ticket).stream().findFirst();
    }

    @Override
    public List<OurAddress> from(TicketNumber ticket) {
        return network.from(ticket, abilities.publicly());
    }

    @Override
    public String newIdentity(TicketNumber ticket, OurAddress from) {
        return "post." + ticket + "." + UUID.randomUUID();
    }

    @Override
    public void send(Outgoing message) {
        network.send(message, abilities.publicly());
    }

    @Override
    public Map<MessageId, Delivery> deliveries(Collection<MessageId> entries) {
        return network.deliveries(entries);
    }

    @Override
    public void again(long delivery, Instant now, PersonId by) {
        network.again(delivery, now, by);
    }
}
