package rafter.core.telephone;

import java.time.Duration;
import java.time.Instant;
import rafter.core.id.PersonId;

/** Something that happened to a call, as the exchange tells it: maybe late, twice, or in another order. */
public sealed interface CallEvent {

    /** By which the exchange knows what it tells; the same for a second telling. */
    String id();

    /** When it happened, by the exchange's clock. */
    Instant at();

    /**
     * It began.
     *
     * @param incoming whether they called us
     * @param number theirs, as the exchange writes it; blank when they hide it
     * @param line which of our lines it is on
     */
    record Began(String id, Instant at, boolean incoming, String number, String line) implements CallEvent {}

    /** Somebody of ours took it, or was given it by whoever had it. */
    record Taken(String id, Instant at, PersonId person) implements CallEvent {}

    /** Who called waits while whoever has it looks something up. */
    record Held(String id, Instant at) implements CallEvent {}

    /** They speak again. */
    record Resumed(String id, Instant at) implements CallEvent {}

    /** They spoke on our machine. */
    record Spoken(String id, Instant at, Duration length) implements CallEvent {}

    /** It is over. */
    record Ended(String id, Instant at) implements CallEvent {}
}
