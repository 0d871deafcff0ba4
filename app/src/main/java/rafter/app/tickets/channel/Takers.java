package rafter.app.tickets.channel;

import java.util.Optional;
import rafter.core.id.TeamId;

/** Who could take what comes by a channel, as the hand-out knows it. */
public interface Takers {

    /**
     * How much of it can go on at once.
     *
     * @param people how many are here and take work who could take one, were they free
     * @param places how many could go on at once with all of them
     * @param free how many could begin now
     */
    record Room(int people, int places, int free) {}

    /**
     * How much can go on at once.
     *
     * @param team whose it is; nothing: anybody's
     */
    Room room(String channel, Optional<TeamId> team);
}
