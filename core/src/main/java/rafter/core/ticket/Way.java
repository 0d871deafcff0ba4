package rafter.core.ticket;

import java.util.OptionalLong;

/**
 * The way by which a ticket came, and by which answers go back unless somebody chooses another one.
 *
 * @param channel the key of the channel
 * @param address which of our addresses there it came to; empty when it came to none in particular, or that is not known any more
 */
public record Way(String channel, OptionalLong address) {

    /** A way by which no particular address of ours was reached. */
    public static Way by(String channel) {
        return new Way(channel, OptionalLong.empty());
    }
}
