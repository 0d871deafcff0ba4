package rafter.app.arrival.social;

import java.util.OptionalInt;
import org.springframework.stereotype.Component;
import rafter.app.tickets.channel.Abilities;

/** Messages on a network that only the two sides read. */
@Component
class PrivateMessages extends NetworkChannel {

    static final String KEY = "private-message";

    /** So long a message may be. */
    static final int LONGEST = 2000;

    PrivateMessages(Network network) {
        super(
                network,
                KEY,
                "private message",
                new Abilities(false, false, OptionalInt.of(LONGEST), false, false, false, false, "the network has it"));
    }
}
