package rafter.app.platform;

import rafter.core.id.PersonId;

/** Lets only those change something who may. Whoever sets Rafter up, before there is anybody, is 0. */
public interface Guard {

    /** The set-up and what Rafter does by itself. */
    PersonId ITSELF = new PersonId(0);

    /**
     * Insists that a person may change what holds for everybody.
     *
     * @param by the person's id
     * @throws Problem.NoRight when they may not
     */
    void houseRules(PersonId by);

    /**
     * Insists that a person works on tickets.
     *
     * @throws Problem.NoRight when they do not
     */
    void work(PersonId by);
}
