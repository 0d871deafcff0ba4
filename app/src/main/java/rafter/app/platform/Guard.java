package rafter.app.platform;

/** Lets only those change something who may. Whoever sets Rafter up, before there is anybody, is 0. */
public interface Guard {

    /** The set-up and what Rafter does by itself. */
    long ITSELF = 0;

    /**
     * Insists that a person may change what holds for everybody.
     *
     * @param by the person's id
     * @throws Problem.NoRight when they may not
     */
    void houseRules(long by);

    /**
     * Insists that a person works on tickets.
     *
     * @throws Problem.NoRight when they do not
     */
    void work(long by);
}
