package rafter.app.arrival.social;

import java.util.OptionalInt;
import org.springframework.stereotype.Component;
import rafter.app.tickets.channel.Abilities;

/** Answers that everybody can read, beneath what was written. */
@Component
class PublicPosts extends NetworkChannel {

    static final String KEY = "post";

    /** So long a post may be. */
    static final int LONGEST = 300;

    PublicPosts(Network network) {
        super(
                network,
                KEY,
                "public post",
                new Abilities(true, false, OptionalInt.of(LONGEST), false, false, false, false, "the network has it"));
    }
}
