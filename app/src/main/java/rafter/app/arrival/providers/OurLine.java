package rafter.app.arrival.providers;

import java.time.Duration;
import java.util.Locale;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.Set;
import rafter.app.tickets.channel.OurAddress;
import rafter.core.id.TeamId;
import rafter.core.ticket.Way;

/**
 * A number or an account of ours at a provider.
 *
 * @param address as the provider writes it
 * @param says what becomes a ticket by itself, and what else is wished
 * @param after how long somebody is not free after a call
 */
public record OurLine(
        long id,
        long provider,
        String address,
        String name,
        Optional<TeamId> team,
        Set<Wish> says,
        Duration after,
        int version) {

    /** What is wished of a line. */
    public enum Wish {
        /** A call that nobody took, and that ended at once, becomes a ticket. */
        MISSED("a call that rang only briefly"),
        /** A call that nobody took, and whose caller waited, becomes a ticket. */
        ABANDONED("a call whose caller waited and gave up"),
        /** Calls are recorded, after the spoken notice. */
        RECORDED("calls are recorded, after a spoken notice"),
        /** A post that names us becomes a ticket. */
        MENTION("posts that name us"),
        /** An answer to a post of ours becomes a ticket. */
        REPLY("answers to what we wrote"),
        /** A private message becomes a ticket. */
        PRIVATE("private messages"),
        /** Of posts and answers only those whose mood is bad become tickets. */
        ANNOYED("of public posts only the annoyed ones");

        private final String words;

        Wish(String words) {
            this.words = words;
        }

        /** As people read it. */
        public String words() {
            return words;
        }

        /** As it is written in forms. */
        public String key() {
            return name().toLowerCase(Locale.ROOT);
        }
    }

    public OurLine {
        says = Set.copyOf(says);
    }

    /** Whether something is wished of it. */
    public boolean says(Wish wish) {
        return says.contains(wish);
    }

    /** The line as one of our addresses. */
    public OurAddress asAddress() {
        return new OurAddress(id, name, address, team);
    }

    /** The way by which a ticket comes by it. */
    public Way way(String channel) {
        return new Way(channel, OptionalLong.of(id));
    }
}
