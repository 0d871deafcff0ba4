package rafter.app.platform;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** Says times and amounts as people say them. */
public final class Say {

    private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("HH:mm", Locale.ENGLISH);
    private static final DateTimeFormatter DAY_TIME = DateTimeFormatter.ofPattern("EEE HH:mm", Locale.ENGLISH);
    private static final DateTimeFormatter DATE_TIME = DateTimeFormatter.ofPattern("d MMM HH:mm", Locale.ENGLISH);
    private static final DateTimeFormatter YEAR = DateTimeFormatter.ofPattern("d MMM yyyy", Locale.ENGLISH);
    private static final DateTimeFormatter EXACT =
            DateTimeFormatter.ofPattern("EEEE d MMMM yyyy, HH:mm:ss VV", Locale.ENGLISH);
    private static final int DAYS_BY_NAME = 6;

    private Say() {}

    /** An amount in its two largest parts: "2 d 3 h", "1 h 20", "13 m". The sign is left to the words around it. */
    public static String amount(Duration amount) {
        long minutes = amount.abs().toMinutes();
        long days = minutes / (24 * 60);
        long hours = minutes / 60 % 24;
        if (days > 0) {
            return hours == 0 ? days + " d" : days + " d " + hours + " h";
        }
        if (hours > 0) {
            return minutes % 60 == 0 ? hours + " h" : hours + " h %02d".formatted(minutes % 60);
        }
        return minutes == 0 ? "under 1 m" : minutes + " m";
    }

    /** An amount of working time, in hours and minutes only, for a working day is no day: "27 h", "1 h 20", "13 m". */
    public static String worked(Duration amount) {
        long minutes = amount.abs().toMinutes();
        if (minutes < 60) {
            return minutes == 0 ? "under 1 m" : minutes + " m";
        }
        boolean exact = minutes < 10 * 60 && minutes % 60 != 0;
        return minutes / 60 + " h" + (exact ? " %02d".formatted(minutes % 60) : "");
    }

    /** An instant near now: "10:34" today, "Mon 09:30" within the week, "3 Mar 09:30" else, with the year when it differs. */
    public static String when(Instant at, Instant now, ZoneId zone) {
        ZonedDateTime local = at.atZone(zone);
        LocalDate today = now.atZone(zone).toLocalDate();
        long days = ChronoUnit.DAYS.between(today, local.toLocalDate());
        if (days == 0) {
            return TIME.format(local);
        }
        if (Math.abs(days) <= DAYS_BY_NAME) {
            return DAY_TIME.format(local);
        }
        return local.getYear() == today.getYear() ? DATE_TIME.format(local) : YEAR.format(local);
    }

    /** An instant with its zone, to the second. */
    public static String exactly(Instant at, ZoneId zone) {
        return EXACT.format(at.atZone(zone));
    }

    /** A size in bytes: "84 kB", "2.4 MB". */
    public static String size(long bytes) {
        if (bytes < 1000) {
            return bytes + " B";
        }
        return bytes < 1_000_000
                ? Math.round(bytes / 1000.0) + " kB"
                : String.format(Locale.ENGLISH, "%.1f MB", bytes / 1_000_000.0);
    }

    /** The first letters of the first and last word of a name. */
    public static String initials(String name) {
        String[] words = name.strip().split("\\s+");
        String first = words[0].isEmpty() ? "?" : words[0].substring(0, 1);
        String last = words.length > 1 ? words[words.length - 1].substring(0, 1) : "";
        return (first + last).toUpperCase(Locale.ROOT);
    }

    /** Words with a capital letter first. */
    public static String capital(String words) {
        return words.isEmpty() ? words : words.substring(0, 1).toUpperCase(Locale.ROOT) + words.substring(1);
    }

    /** A whole number with thin gaps between its thousands. */
    public static String number(long value) {
        return String.format(Locale.ENGLISH, "%,d", value).replace(',', '\u202f');
    }

    /** A text that may not be there, such as one of a row that nothing was joined to; then blank. */
    public static String orBlank(@Nullable String text) {
        return text == null ? "" : text;
    }
}
