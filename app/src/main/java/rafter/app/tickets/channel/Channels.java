package rafter.app.tickets.channel;

import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import rafter.app.house.criteria.ChannelNames;
import rafter.core.id.MessageId;
import rafter.core.id.TeamId;
import rafter.core.id.TicketNumber;
import rafter.core.ticket.Way;

/** The channels that this installation has. */
@Component
public class Channels implements ChannelNames {

    private final Map<String, Channel> byKey;

    Channels(List<Channel> all) {
        byKey = all.stream()
                .collect(Collectors.toMap(Channel::key, Function.identity(), (one, other) -> one, TreeMap::new));
    }

    /**
     * The channel of a key.
     *
     * @throws IllegalStateException when this installation has none of that key: its tickets cannot be served here
     */
    public Channel of(String key) {
        return Optional.ofNullable(byKey.get(key))
                .orElseThrow(() -> new IllegalStateException("no channel is called " + key));
    }

    /** All channels, by their keys. */
    public List<Channel> all() {
        return List.copyOf(byKey.values());
    }

    /** What a channel can do; nothing when this installation does not have it. */
    public Abilities abilities(String key) {
        return Optional.ofNullable(byKey.get(key)).map(Channel::abilities).orElse(Abilities.NONE);
    }

    /** The page on which a ticket of a channel is worked on that is theirs who took it. */
    public String desk(String key, TicketNumber ticket) {
        return Optional.ofNullable(byKey.get(key))
                .map(channel -> channel.desk(ticket))
                .orElse("/tickets/" + ticket);
    }

    /** What people call a channel, also one that this installation does not have. */
    public String name(String key) {
        return Optional.ofNullable(byKey.get(key)).map(Channel::name).orElse(key);
    }

    /** The address of ours that a ticket came to, if it is still there. */
    public Optional<OurAddress> ours(Way way) {
        return way.address().stream()
                .boxed()
                .findFirst()
                .flatMap(id -> of(way.channel()).ours(id));
    }

    /** A channel, and an address of ours on it. */
    public record Sender(Channel channel, OurAddress ours) {}

    /**
     * From where letters about a ticket go to people of whom no more than an address is known: by its own way where that takes letters, else
     * from the address of its team that does, or from the first. Nothing when there is none, or the ticket's own is gone.
     */
    public Optional<Sender> letters(Way way) {
        Channel own = of(way.channel());
        Optional<OurAddress> ours = ours(way);
        if (own.abilities().letters()) {
            return ours.map(address -> new Sender(own, address));
        }
        Optional<TeamId> team = ours.flatMap(OurAddress::team);
        List<Sender> all = byKey.values().stream()
                .filter(channel -> channel.abilities().letters())
                .flatMap(channel -> channel.addresses().stream().map(address -> new Sender(channel, address)))
                .toList();
        return all.stream()
                .filter(one -> team.isPresent() && one.ours().team().equals(team))
                .findFirst()
                .or(() -> all.stream().findFirst());
    }

    /**
     * How the messages behind these entries stand, whichever channel they took: as letters, or one of these.
     *
     * @param keys of the channels by which answers of their tickets ever went
     */
    public Map<MessageId, Delivery> deliveries(Collection<MessageId> entries, Set<String> keys) {
        var found = new HashMap<MessageId, Delivery>();
        byKey.values().stream()
                .filter(channel -> channel.abilities().letters() || keys.contains(channel.key()))
                .forEach(channel -> found.putAll(channel.deliveries(entries)));
        return found;
    }

    @Override
    public SortedMap<String, String> channelNames() {
        var names = new TreeMap<String, String>();
        byKey.forEach((key, channel) -> names.put(key, channel.name()));
        return names;
    }

    @Override
    public SortedMap<String, String> ourAddresses() {
        var all = new TreeMap<String, String>();
        byKey.values()
                .forEach(channel -> channel.addresses()
                        .forEach(address -> all.put(Long.toString(address.id()), address.address())));
        return all;
    }
}
