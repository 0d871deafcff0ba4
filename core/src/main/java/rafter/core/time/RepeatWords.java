package rafter.core.time;

import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.Month;
import java.time.format.DateTimeFormatter;
import java.time.format.TextStyle;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;
import org.dmfs.rfc5545.Weekday;
import org.dmfs.rfc5545.recur.RecurrenceRule;
import org.dmfs.rfc5545.recur.RecurrenceRule.Part;
import org.dmfs.rfc5545.recur.RecurrenceRule.WeekdayNum;

/** Says an entry as a sentence. A rule for which there are no plain words is shown as it is written, never wrongly. */
public final class RepeatWords {

    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("EEE d MMM uuuu", Locale.ENGLISH);
    private static final List<String> NTH = List.of("first", "second", "third", "fourth", "fifth");
    private static final Set<Part> PLAIN =
            Set.of(Part.FREQ, Part.INTERVAL, Part.COUNT, Part.WKST, Part.BYDAY, Part.BYMONTHDAY, Part.BYMONTH);

    private RepeatWords() {}

    /** Such as "Every month on the second Sunday, 10:00 to 14:00". */
    public static String sentence(Entry entry) {
        String what = entry.kind() == Entry.Kind.CLOSING ? "Closed " : "";
        String times = times(entry);
        String when = entry.repeat().map(repeat -> repeats(repeat, entry)).orElse("once, " + DAY.format(entry.start()));
        // "Closed all day" reads better than "Closed once, Mon 2 August, all day".
        String begin = what.isEmpty() ? capital(when) + ", " + times : what + when + ", " + times;
        return begin + extras(entry) + (entry.name().isBlank() ? "" : ": " + entry.name());
    }

    private static String extras(Entry entry) {
        var extras = new StringBuilder();
        if (entry.evenOnHolidays()) {
            extras.append(", even on holidays");
        }
        if (!entry.without().isEmpty()) {
            extras.append(", but not ").append(days(entry.without()));
        }
        if (!entry.also().isEmpty()) {
            extras.append(", and also ").append(days(entry.also()));
        }
        entry.zone().ifPresent(zone -> extras.append(" (").append(zone.getId()).append(" time)"));
        return extras.toString();
    }

    private static String days(Set<LocalDateTime> times) {
        return times.size() > 3
                ? "on " + times.size() + " days"
                : times.stream().map(DAY::format).collect(Collectors.joining(", "));
    }

    private static String times(Entry entry) {
        long days = entry.length().toDays();
        if (entry.allDay()) {
            return days == 1 ? "all day" : days + " days";
        }
        LocalTime end = entry.end().toLocalTime();
        String last = end.equals(LocalTime.MIDNIGHT) ? "24:00" : end.toString();
        LocalDate endDay = end.equals(LocalTime.MIDNIGHT)
                ? entry.end().toLocalDate().minusDays(1)
                : entry.end().toLocalDate();
        long over = ChronoUnit.DAYS.between(entry.start().toLocalDate(), endDay);
        String next = over == 0 ? "" : over == 1 ? " the next day" : " " + over + " days later";
        return entry.start().toLocalTime() + " to " + last + next;
    }

    private static String repeats(Repeat repeat, Entry entry) {
        if (Repeat.wrong(repeat.rule()).isPresent()) {
            return "never, for its rule cannot be used (" + repeat.rule() + ")";
        }
        RecurrenceRule rule = repeat.parsed();
        String core = isPlain(repeat) ? plain(rule, entry.start()) : "by the rule " + repeat.rule();
        String from = entry.start()
                        .toLocalDate()
                        .isAfter(WorkingTime.Span.USUAL.firstDay().plusDays(40))
                ? " from " + DAY.format(entry.start())
                : "";
        String count =
                rule.getCount() == null ? "" : rule.getCount() == 1 ? ", once" : ", " + rule.getCount() + " times";
        String until = repeat.until().map(end -> " until " + DAY.format(end)).orElse("");
        return core + from + count + until;
    }

    private static boolean isPlain(Repeat repeat) {
        for (Part part : Part.values()) {
            if (repeat.parsed().hasPart(part) && !PLAIN.contains(part)) {
                return false;
            }
        }
        return Set.of("DAILY", "WEEKLY", "MONTHLY", "YEARLY")
                        .contains(repeat.parsed().getFreq().toString())
                && !isOdd(repeat.parsed());
    }

    /** Combinations that have no short words. */
    private static boolean isOdd(RecurrenceRule rule) {
        boolean byDay = rule.hasPart(Part.BYDAY);
        boolean byDate = rule.hasPart(Part.BYMONTHDAY);
        boolean numbered = byDay && rule.getByDayPart().stream().anyMatch(d -> d.pos != 0);
        boolean mixed = byDay
                && rule.getByDayPart().stream().map(d -> d.pos != 0).distinct().count() > 1;
        return switch (rule.getFreq().toString()) {
            case "DAILY" -> byDay || byDate || rule.hasPart(Part.BYMONTH);
            case "WEEKLY" -> byDate || rule.hasPart(Part.BYMONTH) || numbered;
            case "MONTHLY" -> (byDay && byDate) || mixed || rule.hasPart(Part.BYMONTH) || (byDay && !numbered);
            default ->
                (byDay && byDate)
                        || mixed
                        || (byDay && !rule.hasPart(Part.BYMONTH))
                        || (byDay && !numbered)
                        || (byDate && !rule.hasPart(Part.BYMONTH));
        };
    }

    private static String plain(RecurrenceRule rule, LocalDateTime start) {
        int every = rule.getInterval();
        return switch (rule.getFreq().toString()) {
            case "DAILY" -> every == 1 ? "every day" : "every " + every + " days";
            case "WEEKLY" -> every(every, "week") + " on " + weekdays(rule, start);
            case "MONTHLY" -> every(every, "month") + " on " + ofMonth(rule, start);
            default -> every(every, "year") + " on " + ofMonth(rule, start) + " of " + months(rule, start);
        };
    }

    private static String every(int interval, String unit) {
        return interval == 1 ? "every " + unit : "every " + interval + " " + unit + "s";
    }

    private static String weekdays(RecurrenceRule rule, LocalDateTime start) {
        if (!rule.hasPart(Part.BYDAY)) {
            return name(start.getDayOfWeek());
        }
        List<DayOfWeek> days = rule.getByDayPart().stream()
                .map(d -> day(d.weekday))
                .sorted()
                .distinct()
                .toList();
        boolean inOneRun =
                days.size() > 2 && days.getLast().getValue() - days.getFirst().getValue() == days.size() - 1;
        return inOneRun
                ? name(days.getFirst()) + " to " + name(days.getLast())
                : list(days.stream().map(RepeatWords::name).toList());
    }

    private static String ofMonth(RecurrenceRule rule, LocalDateTime start) {
        if (rule.hasPart(Part.BYDAY)) {
            return "the "
                    + list(rule.getByDayPart().stream().map(RepeatWords::nth).toList());
        }
        List<Integer> dates =
                rule.hasPart(Part.BYMONTHDAY) ? rule.getByPart(Part.BYMONTHDAY) : List.of(start.getDayOfMonth());
        return "the "
                + list(dates.stream()
                        .map(d -> d == -1 ? "last day" : d < 0 ? "day " + -d + " before the end" : ordinal(d))
                        .toList());
    }

    private static String months(RecurrenceRule rule, LocalDateTime start) {
        List<Integer> months = rule.hasPart(Part.BYMONTH)
                ? rule.getByPart(Part.BYMONTH).stream().map(m -> m + 1).toList()
                : List.of(start.getMonthValue());
        return list(months.stream()
                .map(m -> Month.of(m).getDisplayName(TextStyle.FULL, Locale.ENGLISH))
                .toList());
    }

    private static String nth(WeekdayNum day) {
        String which = day.pos == -1
                ? "last"
                : day.pos < -1 ? NTH.get(Math.min(-day.pos, 5) - 1) + " last" : NTH.get(Math.min(day.pos, 5) - 1);
        return which + " " + name(day(day.weekday));
    }

    private static String ordinal(int n) {
        String end = n % 100 / 10 == 1 ? "th" : n % 10 == 1 ? "st" : n % 10 == 2 ? "nd" : n % 10 == 3 ? "rd" : "th";
        return n + end;
    }

    private static DayOfWeek day(Weekday weekday) {
        return switch (weekday) {
            case MO -> DayOfWeek.MONDAY;
            case TU -> DayOfWeek.TUESDAY;
            case WE -> DayOfWeek.WEDNESDAY;
            case TH -> DayOfWeek.THURSDAY;
            case FR -> DayOfWeek.FRIDAY;
            case SA -> DayOfWeek.SATURDAY;
            case SU -> DayOfWeek.SUNDAY;
        };
    }

    private static String name(DayOfWeek day) {
        return day.getDisplayName(TextStyle.FULL, Locale.ENGLISH);
    }

    private static String list(List<String> words) {
        var all = new ArrayList<>(words);
        if (all.size() < 2) {
            return String.join("", all);
        }
        String last = all.removeLast();
        return String.join(", ", all) + " and " + last;
    }

    private static String capital(String words) {
        return words.substring(0, 1).toUpperCase(Locale.ROOT) + words.substring(1);
    }

    /** Openings first, then closings, each in order of their beginning; as a page lists them. */
    public static Comparator<Entry> order() {
        return Comparator.comparing(Entry::kind).thenComparing(Entry::start);
    }
}
