package rafter.core.social;

import java.time.Instant;

/** Something that happened to a post on a network, as the network tells it: maybe late, twice, or in another order. */
public sealed interface PostEvent {

    /** By which the network knows what it tells; the same for a second telling. */
    String id();

    /** When it happened, by the network's clock. */
    Instant at();

    /** It was written. */
    record Written(String id, Instant at, String author, String text) implements PostEvent {}

    /** Its text is another one now. */
    record Edited(String id, Instant at, String text) implements PostEvent {}

    /** It is not there any more. */
    record Deleted(String id, Instant at) implements PostEvent {}

    /** So many people like it. */
    record Liked(String id, Instant at, int people) implements PostEvent {}
}
