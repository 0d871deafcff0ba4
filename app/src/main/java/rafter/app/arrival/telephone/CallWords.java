package rafter.app.arrival.telephone;

import java.time.Duration;
import rafter.core.telephone.Course;

/** Calls in words. */
final class CallWords {

    private CallWords() {}

    /** A length as a telephone shows it, such as 4:05. */
    static String length(Duration length) {
        long seconds = length.toSeconds();
        return seconds < 3600
                ? "%d:%02d".formatted(seconds / 60, seconds % 60)
                : "%d:%02d:%02d".formatted(seconds / 3600, seconds / 60 % 60, seconds % 60);
    }

    /** How a call ended. */
    static String outcome(Course.Outcome outcome, boolean incoming) {
        return switch (outcome) {
            case ANSWERED -> "answered";
            case MESSAGE -> "left a message";
            case ABANDONED -> "gave up waiting";
            case MISSED -> incoming ? "rang briefly" : "not reached";
        };
    }
}
