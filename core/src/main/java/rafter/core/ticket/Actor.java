package rafter.core.ticket;

import rafter.core.id.ContactId;
import rafter.core.id.PersonId;

/** Who did something. */
public sealed interface Actor {

    /** Somebody of ours. */
    record Person(PersonId id) implements Actor {}

    /** Somebody who writes to us. */
    record Contact(ContactId id) implements Actor {}

    /** Rafter itself, by a standing instruction. */
    record System() implements Actor {}

    /** Rafter itself. */
    static Actor system() {
        return new System();
    }
}
