package rafter.app.arrival.chat;

import java.util.List;
import java.util.Optional;
import java.util.OptionalLong;
import rafter.app.tickets.channel.OurAddress;
import rafter.core.chat.Site;
import rafter.core.id.TeamId;
import rafter.core.ticket.Way;

/**
 * A website with the panel on it.
 *
 * @param word what its script tag names
 * @param origins which pages may hold the panel
 * @param team who gets its chats
 * @param calendar the calendar of its hours; blank: the workspace's
 */
public record ChatSite(
        long id, String name, String word, List<Site> origins, Optional<TeamId> team, String calendar, int version) {

    /** The key of the channel. */
    public static final String CHANNEL = "chat";

    public ChatSite {
        origins = List.copyOf(origins);
    }

    /** The site as one of our addresses. */
    OurAddress asAddress() {
        return new OurAddress(id, name, name, team);
    }

    /** The way by which a ticket comes from it. */
    Way way() {
        return new Way(CHANNEL, OptionalLong.of(id));
    }
}
