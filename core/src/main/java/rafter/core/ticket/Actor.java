package rafter.core.ticket;

/** Who did something. */
public sealed interface Actor {

    /** Somebody of ours. */
    record Person(long id) implements Actor {}

    /** Somebody who writes to us. */
    record Contact(long id) implements Actor {}

    /** Rafter itself, by a standing instruction. */
    record System() implements Actor {}

    /** Rafter itself. */
    static Actor system() {
        return new System();
    }
}
