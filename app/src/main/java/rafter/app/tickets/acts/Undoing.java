package rafter.app.tickets.acts;

import rafter.app.platform.Problem;
import rafter.core.ticket.ActJson;
import rafter.core.ticket.Decision;
import tools.jackson.core.JacksonException;

/** Reads what takes an act back, as a page keeps it between an act and its undo. */
public final class Undoing {

    private Undoing() {}

    /**
     * What takes an act back.
     *
     * @throws Problem.Invalid when it is none
     */
    public static Decision.Undo read(String written) {
        try {
            return ActJson.readUndo(written);
        } catch (JacksonException e) {
            throw new Problem.Invalid("That cannot be taken back.");
        }
    }
}
