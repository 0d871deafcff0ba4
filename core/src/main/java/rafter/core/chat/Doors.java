package rafter.core.chat;

import java.time.Instant;
import java.util.Optional;

/** Whether a chat can be begun. */
public sealed interface Doors {

    /** It can, for we are open and somebody takes work. */
    record Open() implements Doors {}

    /**
     * It cannot; a message can be left.
     *
     * @param opens when we are open again, where that is known; empty where we are open, and nobody takes work
     */
    record Closed(Why why, Optional<Instant> opens) implements Doors {}

    /** Why a chat cannot be begun. */
    enum Why {
        /** The workspace has closed it by hand. */
        BY_HAND,
        /** It is outside of the opening hours. */
        HOURS,
        /** It is within them, and nobody takes work who could take a chat. */
        NOBODY
    }

    /**
     * Whether a chat can be begun.
     *
     * @param on whether the workspace has it open at all
     * @param within whether it is within the opening hours
     * @param next when they begin next, if ever
     * @param takers how many people take work who can take a chat, whether or not they have room just now
     */
    static Doors of(boolean on, boolean within, Optional<Instant> next, int takers) {
        if (!on) {
            return new Closed(Why.BY_HAND, Optional.empty());
        }
        if (!within) {
            return new Closed(Why.HOURS, next);
        }
        return takers > 0 ? new Open() : new Closed(Why.NOBODY, Optional.empty());
    }
}
