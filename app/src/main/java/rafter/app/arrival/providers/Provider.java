package rafter.app.arrival.providers;

import java.time.Instant;
import java.util.Optional;

/**
 * An outside service by which customers reach us.
 *
 * @param word what its address with us is called
 * @param address where it is told what to do; blank: nothing can be told to it
 * @param trouble what went wrong when it was told something last; blank: nothing
 */
public record Provider(
        long id,
        Kind kind,
        String name,
        String word,
        String address,
        int version,
        String trouble,
        Optional<Instant> troubleAt) {

    /** What a provider is. */
    public enum Kind {
        /** An exchange of telephone calls. */
        TELEPHONE,
        /** A network on which people write publicly. */
        SOCIAL
    }
}
