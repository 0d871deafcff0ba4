package rafter.app.promises.hours;

import java.time.DateTimeException;
import java.time.ZoneId;
import java.util.Optional;
import rafter.app.platform.Problem;

/** Reads time zones as they are typed. */
final class Zones {

    private Zones() {}

    /**
     * The zone; nothing for blanks.
     *
     * @throws Problem.Invalid when it is none
     */
    static Optional<ZoneId> read(String typed) {
        try {
            return typed.isBlank() ? Optional.empty() : Optional.of(ZoneId.of(typed.strip()));
        } catch (DateTimeException e) {
            throw new Problem.Invalid("“" + typed + "” is not a time zone. Write it like Europe/Oslo.");
        }
    }
}
