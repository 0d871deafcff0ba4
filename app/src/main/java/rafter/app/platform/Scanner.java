package rafter.app.platform;

import java.util.Optional;

/** Whoever can tell whether a file does harm: a service outside of Rafter, behind this port. */
public interface Scanner {

    /**
     * Looks through a file.
     *
     * @return the name of what was found; nothing: it seems harmless
     */
    Optional<String> scan(byte[] content);
}
