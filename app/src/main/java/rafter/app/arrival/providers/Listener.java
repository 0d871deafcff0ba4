package rafter.app.arrival.providers;

import java.util.List;

/** Makes something of what providers of a kind tell. */
public interface Listener {

    /** Of which kind. */
    Provider.Kind kind();

    /**
     * Takes what was told about one call or post, within a transaction in which nobody else does so. It may have been taken in part before, and comes
     * in the order of the provider's clock.
     *
     * @param all everything that was told of it, each thing once
     * @return whether anything came of it; else it is forgotten after a while
     * @throws Told.Unreadable when something in it is wrong for good
     */
    boolean take(Provider provider, String subject, List<Told> all);
}
