package rafter.core.time;

import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
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

    private static final List<String> ORDER = List.of(
            "FREQ", "INTERVAL", "COUNT", "BYMONTH", "BYWEEKNO", "BYYEARDAY", "BYMONTHDAY", "BYDAY", "BYHOUR", "BYMINUTE", "BYSECOND", "BYSETPOS", "WKST");

    public Repeat {
        Optional<String> wrong = wrong(rule);
        if (wrong.isPresent()) {
            throw new IllegalArgumentException(wrong.get());
        }
        rule = inOrder(rule);
    }

    /** A rule's parts may stand in any order; the same rule is always written the same. */
    private static String inOrder(String rule) {
        return Stream.of(rule.toUpperCase(Locale.ROOT).split(";"))
                .sorted(Comparator.comparing(part -> ORDER.indexOf(part.substring(0, part.indexOf('=')))))
                .collect(Collectors.joining(";"));
    }

    /** A repetition without an end. */
    public static Repeat of(String rule) {
        return new Repeat(rule, Optional.empty());
    }

    /** What is wrong with a rule, in words; empty when nothing is. */
    public static Optional<String> wrong(String rule) {
        try {
            var parsed = new RecurrenceRule(rule, RecurrenceRule.RfcMode.RFC5545_STRICT);
            return parsed.getUntil() == null ? Optional.empty() : Optional.of("the end of the repetition is kept apart from its rule");
        } catch (InvalidRecurrenceRuleException | IllegalArgumentException e) {
            return Optional.of("“" + rule + "” is not a recurrence rule of RFC 5545" + (e.getMessage() == null ? "" : ": " + e.getMessage()));
        }
    }

    /**
     * Where occurrences begin, as local times, in order.
     *
     * @param start the first possible beginning; it is an occurrence only when the rule says so
     * @param before occurrences from here on are left out
     */
    List<LocalDateTime> beginnings(LocalDateTime start, LocalDateTime before) {
        var found = new ArrayList<LocalDateTime>();
        var instances = parsed().iterator(floating(start));
        while (instances.hasNext() && found.size() < MOST) {
            LocalDateTime next = local(instances.nextDateTime());
            if (!next.isBefore(before) || until.filter(next::isAfter).isPresent()) {
                break;
            }
            found.add(next);
        }
        return found;
    }

    RecurrenceRule parsed() {
        try {
            return new RecurrenceRule(rule, RecurrenceRule.RfcMode.RFC5545_STRICT);
        } catch (InvalidRecurrenceRuleException e) {
            throw new IllegalStateException("a rule that was checked when it was made: " + rule, e);
        }
    }

    /** The library's months begin with zero. */
    private static DateTime floating(LocalDateTime at) {
        return new DateTime(at.getYear(), at.getMonthValue() - 1, at.getDayOfMonth(), at.getHour(), at.getMinute(), at.getSecond());
    }

    private static LocalDateTime local(DateTime at) {
        return LocalDateTime.of(at.getYear(), at.getMonth() + 1, at.getDayOfMonth(), at.getHours(), at.getMinutes(), at.getSeconds());
    }
}
