package rafter.core.time;

import java.time.Duration;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.dmfs.rfc5545.DateTime;
import org.dmfs.rfc5545.recur.InvalidRecurrenceRuleException;
import org.dmfs.rfc5545.recur.RecurrenceRule;

/**
 * How often an entry comes again: a recurrence rule as RFC 5545 writes it, without its end.
 *
 * @param rule such as {@code FREQ=MONTHLY;BYDAY=2SU}; may hold a COUNT, never an UNTIL
 * @param until the last local time at which an occurrence may begin; empty: it goes on
 */
public record Repeat(String rule, Optional<LocalDateTime> until) {

    /** The most occurrences an entry may have: those of ten hours a day through all the years that are compiled. */
    public static final int MOST = 200_000;

    private static final Duration LONGEST_SEARCH = Duration.ofSeconds(3);

    private static final List<String> ORDER = List.of(
            "FREQ",
            "INTERVAL",
            "COUNT",
            "BYMONTH",
            "BYWEEKNO",
            "BYYEARDAY",
            "BYMONTHDAY",
            "BYDAY",
            "BYHOUR",
            "BYMINUTE",
            "BYSECOND",
            "BYSETPOS",
            "WKST");

    /** How often a rule may skip at most: so many of its steps are longer than all the years that are compiled. */
    private static final Map<String, Integer> LONGEST_INTERVAL =
            Map.of("YEARLY", 200, "MONTHLY", 2_400, "WEEKLY", 10_400, "DAILY", 73_000, "HOURLY", 1_750_000);

    private static final Pattern INTERVAL = Pattern.compile("(?:^|;)INTERVAL=(\\d+)");
    private static final Pattern FREQUENCY = Pattern.compile("(?:^|;)FREQ=([A-Z]+)");
    /** The library finds such a week in every year. */
    private static final Pattern LAST_WEEK = Pattern.compile("(?:^|;)BYWEEKNO=[^;]*53");

    private static final int LONGEST_RULE = 500;

    /**
     * A rule that cannot be used is kept as it is written, for data may hold one: it never occurs, and {@link #trouble} says why.
     */
    public Repeat {
        rule = wrong(rule).isEmpty() ? inOrder(rule) : rule;
    }

    /** A rule's parts may stand in any order; the same rule is always written the same. */
    private static String inOrder(String rule) {
        return Stream.of(rule.toUpperCase(Locale.ROOT).split(";"))
                .sorted(Comparator.comparingInt(part -> ORDER.indexOf(part.substring(0, part.indexOf('=')))))
                .collect(Collectors.joining(";"));
    }

    /** A repetition without an end. */
    public static Repeat of(String rule) {
        return new Repeat(rule, Optional.empty());
    }

    /** What is wrong with a rule as it is written, in words; empty when nothing is. */
    public static Optional<String> wrong(String rule) {
        if (rule.length() > LONGEST_RULE) {
            return Optional.of("a rule has at most " + LONGEST_RULE + " letters");
        }
        try {
            var parsed = new RecurrenceRule(rule, RecurrenceRule.RfcMode.RFC5545_STRICT);
            return parsed.getUntil() == null
                    ? beyondReason(rule.toUpperCase(Locale.ROOT))
                    : Optional.of("the end of the repetition is stored apart from its rule");
        } catch (InvalidRecurrenceRuleException | RuntimeException e) {
            return Optional.of("“" + rule + "” is not a recurrence rule of RFC 5545"
                    + (e.getMessage() == null ? "" : ": " + e.getMessage()));
        }
    }

    private static Optional<String> beyondReason(String rule) {
        Matcher frequency = FREQUENCY.matcher(rule);
        String often = frequency.find() ? frequency.group(1) : "";
        Integer longest = LONGEST_INTERVAL.get(often);
        if (longest == null) {
            return Optional.of("“" + rule + "” repeats within the hour, which opening hours have no use for");
        }
        if (LAST_WEEK.matcher(rule).find()) {
            return Optional.of("“" + rule + "” names week 53, which most years lack");
        }
        Matcher interval = INTERVAL.matcher(rule);
        boolean tooLong =
                interval.find() && (interval.group(1).length() > 9 || Integer.parseInt(interval.group(1)) > longest);
        return tooLong ? Optional.of("“" + rule + "” skips more than " + longest + " at a time") : Optional.empty();
    }

    /**
     * Why it cannot be used from a beginning on, in words; empty when it can. Found out by expanding it, for some rules name days that no calendar has.
     */
    public Optional<String> trouble(LocalDateTime start) {
        Optional<String> wrong = wrong(rule);
        if (wrong.isPresent()) {
            return wrong;
        }
        List<LocalDateTime> all =
                beginnings(start, WorkingTime.Span.USUAL.endExclusive().atStartOfDay());
        if (all.size() >= MOST) {
            return Optional.of("“" + rule + "” occurs more than " + MOST + " times");
        }
        return all.isEmpty() && until.isEmpty() ? Optional.of("“" + rule + "” never occurs") : Optional.empty();
    }

    /**
     * Where occurrences begin, as local times, in order; none when the rule cannot be used. The search is bounded in steps and in time.
     *
     * @param start the first possible beginning; it is an occurrence only when the rule says so
     * @param before occurrences from here on are left out
     */
    List<LocalDateTime> beginnings(LocalDateTime start, LocalDateTime before) {
        if (wrong(rule).isPresent()) {
            return List.of();
        }
        var found = new ArrayList<LocalDateTime>();
        try {
            var instances = expanded().iterator(floating(start));
            long limit = System.nanoTime() + LONGEST_SEARCH.toNanos();
            while (instances.hasNext() && found.size() < MOST && System.nanoTime() < limit) {
                LocalDateTime next = local(instances.nextDateTime());
                boolean backwards = !found.isEmpty() && !next.isAfter(found.getLast());
                if (backwards
                        || !next.isBefore(before)
                        || until.filter(next::isAfter).isPresent()) {
                    break;
                }
                found.add(next);
            }
        } catch (RuntimeException theLibraryGivesUp) {
            // What it found until then is right; a rule that never occurs is found out so.
            return found;
        }
        return found;
    }

    /** Days of the month of a yearly rule that names no month are those of every month; the library takes the first month's alone. */
    private RecurrenceRule expanded() {
        boolean everyMonth = rule.contains("FREQ=YEARLY")
                && rule.contains("BYMONTHDAY=")
                && !rule.contains("BYMONTH=")
                && !rule.contains("BYWEEKNO=")
                && !rule.contains("BYYEARDAY=");
        return parsed(everyMonth ? rule + ";BYMONTH=1,2,3,4,5,6,7,8,9,10,11,12" : rule);
    }

    RecurrenceRule parsed() {
        return parsed(rule);
    }

    private static RecurrenceRule parsed(String rule) {
        try {
            return new RecurrenceRule(rule, RecurrenceRule.RfcMode.RFC5545_STRICT);
        } catch (InvalidRecurrenceRuleException e) {
            throw new IllegalStateException("a rule that was checked when it was made: " + rule, e);
        }
    }

    /** The library's months begin with zero. */
    private static DateTime floating(LocalDateTime at) {
        return new DateTime(
                at.getYear(), at.getMonthValue() - 1, at.getDayOfMonth(), at.getHour(), at.getMinute(), at.getSecond());
    }

    private static LocalDateTime local(DateTime at) {
        return LocalDateTime.of(
                at.getYear(), at.getMonth() + 1, at.getDayOfMonth(), at.getHours(), at.getMinutes(), at.getSeconds());
    }
}
