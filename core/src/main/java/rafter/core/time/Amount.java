package rafter.core.time;

import java.time.Duration;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Lengths of time as people type them: "3 d", "4 h", "1 h 30 m", "45"; a bare number means minutes. */
public final class Amount {

    private static final Pattern WRITTEN = Pattern.compile(
            "(?:(\\d{1,4})\\s*d)?\\s*(?:(\\d{1,5})\\s*h)?\\s*(?:(\\d{1,6})\\s*(?:m(?:in)?)?)?",
            Pattern.CASE_INSENSITIVE);

    private Amount() {}

    /** Reads one; nothing when it is none. */
    public static Optional<Duration> read(String typed) {
        Matcher found = WRITTEN.matcher(typed.strip());
        if (typed.isBlank() || !found.matches()) {
            return Optional.empty();
        }
        return Optional.of(
                Duration.ofDays(number(found, 1)).plusHours(number(found, 2)).plusMinutes(number(found, 3)));
    }

    /** An amount as {@link #read} reads it, in hours and minutes: "1 h 30 m". */
    public static String written(Duration amount) {
        long hours = amount.toHours();
        long minutes = amount.toMinutesPart();
        return hours == 0 ? minutes + " m" : minutes == 0 ? hours + " h" : hours + " h " + minutes + " m";
    }

    private static long number(Matcher found, int group) {
        return found.group(group) == null ? 0 : Long.parseLong(found.group(group));
    }
}
