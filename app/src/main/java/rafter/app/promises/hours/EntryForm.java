package rafter.app.promises.hours;

import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.format.DateTimeParseException;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import rafter.app.platform.Problem;
import rafter.app.platform.Say;
import rafter.core.time.Entry;
import rafter.core.time.Repeat;

/**
 * An entry of a calendar as it is typed into its form.
 *
 * @param repeat {@code once}, {@code daily}, {@code weekly}, {@code monthly-date}, {@code monthly-weekday}, {@code yearly-date}, {@code
 *     yearly-weekday} or {@code rule}
 * @param every each, or every second, and so on
 * @param days the days of the week, for weekly
 * @param nth which one in the month, for a weekday of a week; -1 is the last
 * @param rule a rule in the words of RFC 5545, for what the form has no fields for
 * @param without days that are left out, as dates with blanks between
 * @param also further days, likewise
 */
record EntryForm(
        String id,
        @Nullable String kind,
        @Nullable String name,
        @Nullable Boolean evenOnHolidays,
        @Nullable Boolean allDay,
        @Nullable String first,
        @Nullable String from,
        @Nullable String to,
        @Nullable String last,
        @Nullable String repeat,
        @Nullable String every,
        @Nullable List<String> days,
        @Nullable String nth,
        @Nullable String until,
        @Nullable String times,
        @Nullable String rule,
        @Nullable String without,
        @Nullable String also,
        @Nullable String zone) {

    private static final List<String> SHORT = List.of("MO", "TU", "WE", "TH", "FR", "SA", "SU");

    /** An empty form for a new entry. */
    static EntryForm empty(String kind, LocalDate today) {
        boolean opening = kind.equals("OPENING");
        return new EntryForm(
                "new",
                kind,
                "",
                false,
                false,
                today.toString(),
                opening ? "08:00" : "",
                opening ? "17:00" : "",
                "",
                opening ? "weekly" : "once",
                "1",
                opening ? List.of("MO", "TU", "WE", "TH", "FR") : List.of(),
                "1",
                "",
                "",
                "",
                "",
                "",
                "");
    }

    static EntryForm of(Entry e) {
        String rule = e.repeat().map(Repeat::rule).orElse("");
        String repeat = e.repeat().isEmpty() ? "once" : kindOf(rule);
        return new EntryForm(
                e.id(),
                e.kind().name(),
                e.name(),
                e.evenOnHolidays(),
                e.allDay(),
                e.start().toLocalDate().toString(),
                e.start().toLocalTime().toString(),
                e.end().toLocalTime().equals(LocalTime.MIDNIGHT)
                        ? "24:00"
                        : e.end().toLocalTime().toString(),
                lastDay(e),
                repeat,
                part(rule, "INTERVAL").orElse("1"),
                part(rule, "BYDAY")
                        .map(days -> Stream.of(days.split(","))
                                .map(d -> d.replaceAll("[-+0-9]", ""))
                                .toList())
                        .orElse(List.of()),
                part(rule, "BYDAY")
                        .map(day -> day.replaceAll("[A-Z]", ""))
                        .filter(n -> !n.isEmpty())
                        .orElse("1"),
                e.repeat()
                        .flatMap(Repeat::until)
                        .map(end -> end.toLocalDate().toString())
                        .orElse(""),
                part(rule, "COUNT").orElse(""),
                rule,
                dates(e.without()),
                dates(e.also()),
                e.zone().map(ZoneId::getId).orElse(""));
    }

    private static String lastDay(Entry e) {
        LocalDate last =
                e.allDay() ? e.end().toLocalDate().minusDays(1) : e.start().toLocalDate();
        return e.allDay() && !last.equals(e.start().toLocalDate()) ? last.toString() : "";
    }

    private static String dates(SortedSet<LocalDateTime> all) {
        return all.stream().map(at -> at.toLocalDate().toString()).collect(Collectors.joining(" "));
    }

    /** Which fields of the form can say a rule. */
    private static String kindOf(String rule) {
        String parts = Stream.of(rule.split(";"))
                .map(p -> p.substring(0, p.indexOf('=')))
                .filter(p -> !p.matches("INTERVAL|COUNT"))
                .sorted()
                .collect(Collectors.joining(","));
        String day = part(rule, "BYDAY").orElse("");
        boolean numbered = day.matches("-?[1-5][A-Z]{2}");
        return switch (part(rule, "FREQ").orElse("") + ":" + parts) {
            case "DAILY:FREQ" -> "daily";
            case "WEEKLY:FREQ" -> "weekly";
            case "WEEKLY:BYDAY,FREQ" -> "weekly";
            case "MONTHLY:FREQ" -> "monthly-date";
            case "MONTHLY:BYDAY,FREQ" -> numbered ? "monthly-weekday" : "rule";
            case "YEARLY:FREQ" -> "yearly-date";
            case "YEARLY:BYDAY,BYMONTH,FREQ" -> numbered ? "yearly-weekday" : "rule";
            default -> "rule";
        };
    }

    private static Optional<String> part(String rule, String name) {
        return Stream.of(rule.split(";"))
                .filter(p -> p.startsWith(name + "="))
                .map(p -> p.substring(name.length() + 1))
                .findFirst();
    }

    /**
     * The entry that the form says.
     *
     * @throws Problem.Invalid when something in it is missing or wrong
     */
    Entry entry() {
        LocalDate day = date(first, "the first day");
        // A closing without times is one of the whole day.
        boolean whole = on(allDay)
                || (Say.orBlank(kind).equals("CLOSING")
                        && Say.orBlank(from).isBlank()
                        && Say.orBlank(to).isBlank());
        LocalDateTime start = whole ? day.atStartOfDay() : day.atTime(time(from, "the beginning"));
        LocalDateTime end = whole ? wholeEnd(day) : end(start);
        Optional<Repeat> repetition = repetition(start, whole);
        try {
            Entry entry = new Entry(
                            id,
                            Say.orBlank(name).strip(),
                            Entry.Kind.valueOf(Say.orBlank(kind)),
                            on(evenOnHolidays),
                            whole,
                            start,
                            end,
                            repetition,
                            days(without, start.toLocalTime()),
                            days(also, start.toLocalTime()),
                            Zones.read(Say.orBlank(zone)))
                    .synchronised();
            entry.trouble().ifPresent(trouble -> {
                throw new Problem.Invalid("The entry cannot be used: " + trouble + ".");
            });
            return entry;
        } catch (IllegalArgumentException e) {
            throw new Problem.Invalid("The entry cannot be read: " + e.getMessage() + ".");
        }
    }

    private LocalDateTime wholeEnd(LocalDate day) {
        LocalDate until = Say.orBlank(last).isBlank() ? day : date(last, "the last day");
        if (until.isBefore(day)) {
            throw new Problem.Invalid("The last day is before the first.");
        }
        return until.plusDays(1).atStartOfDay();
    }

    private LocalDateTime end(LocalDateTime start) {
        if (Say.orBlank(to).strip().equals("24:00")) {
            return start.toLocalDate().plusDays(1).atStartOfDay();
        }
        LocalTime closes = time(to, "the end");
        return start.toLocalDate()
                .plusDays(closes.isAfter(start.toLocalTime()) ? 0 : 1)
                .atTime(closes);
    }

    private Optional<Repeat> repetition(LocalDateTime start, boolean whole) {
        String month = ";BYMONTH=" + start.getMonthValue();
        String weekday = nthDay(start.getDayOfWeek());
        String interval = number(every, "every so many") > 1
                ? ";INTERVAL=" + Say.orBlank(every).strip()
                : "";
        String written = switch (Say.orBlank(repeat)) {
            case "once" -> "";
            case "daily" -> "FREQ=DAILY" + interval;
            case "weekly" -> "FREQ=WEEKLY" + interval + ";BYDAY=" + weekdays(start);
            case "monthly-date" -> "FREQ=MONTHLY" + interval;
            case "monthly-weekday" -> "FREQ=MONTHLY" + interval + ";BYDAY=" + weekday;
            case "yearly-date" -> "FREQ=YEARLY" + interval;
            case "yearly-weekday" -> "FREQ=YEARLY" + interval + month + ";BYDAY=" + weekday;
            default -> Say.orBlank(rule).strip();
        };
        if (written.isEmpty() && !Say.orBlank(repeat).equals("rule")) {
            return Optional.empty();
        }
        boolean counted = !Say.orBlank(times).isBlank() && !Say.orBlank(repeat).equals("rule");
        String all = written + (counted ? ";COUNT=" + number(times, "how many times") : "");
        Repeat.wrong(all).ifPresent(words -> {
            throw new Problem.Invalid(words + ".");
        });
        return Optional.of(new Repeat(
                all,
                lastRepeated(start.toLocalDate())
                        .map(e -> whole ? e.toLocalDate().atStartOfDay() : e)));
    }

    private Optional<LocalDateTime> lastRepeated(LocalDate first) {
        if (Say.orBlank(until).isBlank()) {
            return Optional.empty();
        }
        LocalDate day = date(until, "the last day");
        if (day.isBefore(first)) {
            throw new Problem.Invalid("The last day of the repetition is before the first day.");
        }
        return Optional.of(day.atTime(LocalTime.of(23, 59, 59)));
    }

    private String weekdays(LocalDateTime start) {
        List<String> chosen =
                days == null ? List.of() : days.stream().filter(SHORT::contains).toList();
        return chosen.isEmpty() ? SHORT.get(start.getDayOfWeek().getValue() - 1) : String.join(",", chosen);
    }

    /** The day of the week that was chosen for it; where several are ticked, for they were for a week, the first day's own. */
    private String nthDay(DayOfWeek first) {
        String which = Say.orBlank(nth).matches("-?[1-5]") ? Say.orBlank(nth) : "1";
        List<String> chosen =
                days == null ? List.of() : days.stream().filter(SHORT::contains).toList();
        return which + (chosen.size() == 1 ? chosen.getFirst() : SHORT.get(first.getValue() - 1));
    }

    private SortedSet<LocalDateTime> days(@Nullable String written, LocalTime at) {
        var found = new TreeSet<LocalDateTime>();
        for (String one : new ArrayList<>(List.of(Say.orBlank(written).strip().split("[\\s,]+")))) {
            if (!one.isEmpty()) {
                found.add(date(one, "a day that is left out or added").atTime(at));
            }
        }
        return found;
    }

    private static LocalDate date(@Nullable String written, String what) {
        try {
            return LocalDate.parse(Say.orBlank(written).strip());
        } catch (DateTimeParseException e) {
            throw new Problem.Invalid(what.substring(0, 1).toUpperCase(Locale.ROOT) + what.substring(1)
                    + " is not a date: “" + Say.orBlank(written) + "”. Write it like 2027-05-17.");
        }
    }

    private static LocalTime time(@Nullable String written, String what) {
        try {
            return LocalTime.parse(
                    Say.orBlank(written).strip().length() == 4
                            ? "0" + Say.orBlank(written).strip()
                            : Say.orBlank(written).strip());
        } catch (DateTimeParseException e) {
            throw new Problem.Invalid(what.substring(0, 1).toUpperCase(Locale.ROOT) + what.substring(1)
                    + " is not a time of day: “" + Say.orBlank(written) + "”. Write it like 08:00.");
        }
    }

    private static int number(@Nullable String written, String what) {
        if (Say.orBlank(written).isBlank()) {
            return 1;
        }
        if (!Say.orBlank(written).strip().matches("[1-9]\\d{0,2}")) {
            throw new Problem.Invalid("“" + Say.orBlank(written) + "” is no number for “" + what + "”.");
        }
        return Integer.parseInt(Say.orBlank(written).strip());
    }

    private static boolean on(@Nullable Boolean box) {
        return Boolean.TRUE.equals(box);
    }
}
