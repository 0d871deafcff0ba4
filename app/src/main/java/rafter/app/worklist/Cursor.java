package rafter.app.worklist;

import java.time.Instant;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A place in a list: after this ticket.
 *
 * @param at the instant by which the list is ordered; nothing among tickets that have none
 */
record Cursor(Optional<Instant> at, long number) {

    private static final Pattern WRITTEN = Pattern.compile("(-|\\d{1,12}\\.\\d{1,9})~(\\d{1,18})");

    /** As it stands in an address. */
    String written() {
        return at.map(i -> i.getEpochSecond() + "." + i.getNano()).orElse("-") + "~" + number;
    }

    /** Reads a cursor; nothing when it is none. */
    static Optional<Cursor> read(String written) {
        Matcher found = WRITTEN.matcher(written);
        if (!found.matches()) {
            return Optional.empty();
        }
        long number = Long.parseLong(found.group(2));
        if (found.group(1).equals("-")) {
            return Optional.of(new Cursor(Optional.empty(), number));
        }
        String[] parts = found.group(1).split("\\.");
        return Optional.of(new Cursor(Optional.of(Instant.ofEpochSecond(Long.parseLong(parts[0]), Long.parseLong(parts[1]))), number));
    }
}
