package rafter.app.platform;

import java.util.Collection;
import java.util.Set;

/** Tells which sessions have not ended. */
public interface OpenSessions {

    /** Those of these ids that are still open. */
    Set<String> stillOpen(Collection<String> ids);
}
