package rafter.core.ticket;

/**
 * Who does something to a ticket, and what of it they may do.
 *
 * @param handOverAny whether they may hand on what a colleague owns
 * @param delete whether they may lay tickets into the bin, and take them out of it
 */
public record Doer(Actor actor, boolean handOverAny, boolean delete) {

    /** Rafter itself, by a standing instruction. */
    public static Doer rafter() {
        return new Doer(Actor.system(), true, true);
    }
}
