package rafter.app.tickets.channel;

import java.util.Optional;
import rafter.core.id.TeamId;

/**
 * One of the addresses on a channel under which customers reach us.
 *
 * @param name what our messages from it are signed with
 * @param address as customers write it
 * @param team the team that its tickets go to
 */
public record OurAddress(long id, String name, String address, Optional<TeamId> team) {}
