package rafter.app.promises.targets;

import java.time.DateTimeException;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import rafter.app.promises.targets.CalendarEvent.Line;
import rafter.core.time.Entry;
import rafter.core.time.Repeat;

/** Makes entries of the events of one file, and remarks of what they have no place for. */
final class CalendarReading {

    private final ZoneId zone;
    private final Entry.Kind usual;
    private final Map<String, Entry> entries = new LinkedHashMap<>();
    private final List<String> remarks = new ArrayList<>();

    /**
     * A reading that has not begun.
     *
     * @param zone the zone of the calendar that takes the entries
     * @param usual what an event is when the file does not say
     */
    CalendarReading(ZoneId zone, Entry.Kind usual) {
        this.zone = zone;
        this.usual = usual;
    }

    /** Reads all events of a file. */
    CalendarFile.Read read(List<CalendarEvent> all) {
        List<CalendarEvent> events = all.stream()
                .filter(event -> event.value(CalendarFile.KIND)
                        .filter(CalendarFile.HOLIDAY::equals)
                        .isEmpty())
                .toList();
        if (events.size() < all.size()) {
            remarks.add((all.size() - events.size())
                    + " days of holiday sets were left out; tick the sets in the calendar instead.");
        }
        // What changes single occurrences comes after what it changes, wherever it stands in the file.
        for (boolean changes : new boolean[] {false, true}) {
            events.stream()
                    .filter(event -> event.line("RECURRENCE-ID").isPresent() == changes)
                    .forEach(this::take);
        }
        return new CalendarFile.Read(List.copyOf(entries.values()), remarks);
    }

    private void take(CalendarEvent event) {
        String name = event.value("SUMMARY").map(CalendarReading::plain).orElse("");
        try {
            if (event.line("RECURRENCE-ID").isPresent()) {
                change(event, name);
            } else if (event.value("STATUS")
                    .filter("CANCELLED"::equalsIgnoreCase)
                    .isEmpty()) {
                add(event, name, usual);
            }
        } catch (DateTimeException | ArithmeticException | IllegalArgumentException e) {
            remarks.add("“" + name + "” (" + event.value("DTSTART").orElse("without a beginning") + ") was left out: "
                    + e.getMessage());
        }
    }

    /** One event as the entries that say it: itself, and occurrences on top that have a length of their own. */
    private void add(CalendarEvent event, String name, Entry.Kind otherwise) {
        String uid = unused(event.value("UID").filter(id -> !id.isBlank()).orElse("event-" + entries.size()));
        Line start = event.line("DTSTART").orElseThrow(() -> new IllegalArgumentException("it has no beginning"));
        boolean allDay = start.value().length() == 8;
        Optional<ZoneId> own = zone(event, start, name);
        ZoneId its = own.orElse(zone);
        LocalDateTime from = local(start, its);
        var kind = event.value(CalendarFile.KIND).map(Entry.Kind::valueOf).orElse(otherwise);
        var even =
                event.value(CalendarFile.EVEN).filter("TRUE"::equalsIgnoreCase).isPresent();
        Optional<Repeat> repeat = repeat(event, name, its, allDay);
        var also = new TreeSet<LocalDateTime>();
        var entry = new Entry(
                uid,
                name,
                kind,
                even,
                allDay,
                from,
                end(event, from, allDay, its),
                repeat,
                without(event, from, its),
                also,
                own);
        entry.trouble().ifPresent(trouble -> {
            throw new IllegalArgumentException(trouble);
        });
        List<Entry> single = onTop(event, entry, its, also);
        entries.put(
                uid, new Entry(uid, name, kind, even, allDay, from, entry.end(), repeat, entry.without(), also, own));
        single.forEach(one -> entries.put(one.id(), one));
    }

    private Optional<Repeat> repeat(CalendarEvent event, String name, ZoneId its, boolean allDay) {
        List<Line> rules = event.lines("RRULE").toList();
        remark(event, name, rules);
        return rules.stream().findFirst().map(rule -> repeat(rule.value(), its, allDay));
    }

    /** The occurrences on top: those as long as all are come to {@code also}, the others are entries of their own. */
    private List<Entry> onTop(CalendarEvent event, Entry entry, ZoneId its, SortedSet<LocalDateTime> also) {
        var single = new ArrayList<Entry>();
        for (Line dates : event.lines("RDATE").toList()) {
            for (String one : dates.value().split(",")) {
                LocalDateTime at = local(new Line("RDATE", dates.parameters(), one.replaceFirst("/.*", "")), its);
                LocalDateTime to = one.contains("/") ? periodEnd(one, dates, at, its) : at.plus(entry.length());
                if (to.equals(at.plus(entry.length()))) {
                    also.add(at);
                } else {
                    single.add(single(entry, at, to));
                }
            }
        }
        return single;
    }

    private static Entry single(Entry of, LocalDateTime at, LocalDateTime to) {
        return new Entry(
                of.id() + "-" + CalendarFile.TIME.format(at),
                of.name(),
                of.kind(),
                of.evenOnHolidays(),
                false,
                at,
                to,
                Optional.empty(),
                new TreeSet<>(),
                new TreeSet<>(),
                of.zone());
    }

    private String unused(String uid) {
        String id = uid;
        for (int i = 2; entries.containsKey(id); i++) {
            id = uid + "-" + i;
        }
        return id;
    }

    /** What an event says that opening hours have no place for. */
    private void remark(CalendarEvent event, String name, List<Line> rules) {
        if (rules.size() > 1) {
            remarks.add("“" + name + "” has " + rules.size() + " rules; only the first was taken: RRULE:"
                    + rules.getFirst().value() + ".");
        }
        event.line("EXRULE")
                .ifPresent(rule -> remarks.add("“" + name
                        + "” leaves days out by a rule, which today’s standard no longer has; check its days. EXRULE:"
                        + rule.value()));
        if (event.line("BEGIN-VALARM").isPresent()) {
            remarks.add("“" + name + "” has a reminder, which opening hours have no use for.");
        }
        String lost = Stream.of("DESCRIPTION", "LOCATION", "CATEGORIES")
                .filter(what ->
                        event.line(what).filter(l -> !l.value().isBlank()).isPresent())
                .collect(Collectors.joining(", "));
        if (!lost.isEmpty()) {
            remarks.add("“" + name + "” has " + lost + ", which opening hours have no place for.");
        }
    }

    private static SortedSet<LocalDateTime> without(CalendarEvent event, LocalDateTime from, ZoneId zone) {
        var found = new TreeSet<LocalDateTime>();
        for (Line line : event.lines("EXDATE").toList()) {
            for (String one : line.value().split(",")) {
                LocalDateTime at = local(new Line("EXDATE", line.parameters(), one), zone);
                // A date leaves out what begins on it, at whatever time that is.
                found.add(one.length() == 8 ? at.toLocalDate().atTime(from.toLocalTime()) : at);
            }
        }
        return found;
    }

    private static LocalDateTime periodEnd(String period, Line dates, LocalDateTime at, ZoneId zone) {
        String end = period.substring(period.indexOf('/') + 1);
        return end.startsWith("P") ? at.plus(duration(end)) : local(new Line("RDATE", dates.parameters(), end), zone);
    }

    /** Another time for one occurrence, or its cancellation. */
    private void change(CalendarEvent event, String name) {
        Line moved = event.line("RECURRENCE-ID").orElseThrow();
        if (moved.parameters().getOrDefault("RANGE", "").equalsIgnoreCase("THISANDFUTURE")) {
            throw new IllegalArgumentException(
                    "it changes all occurrences from one on, which is not supported; end the entry there and add another. RECURRENCE-ID;RANGE=THISANDFUTURE:"
                            + moved.value());
        }
        String uid = event.value("UID").orElse("");
        Entry whole = entries.get(uid);
        if (whole == null) {
            remarks.add("“" + name + "” changes an occurrence of an entry that is not in the file: RECURRENCE-ID:"
                    + moved.value() + ".");
        } else {
            entries.put(uid, without(whole, moved));
        }
        if (event.value("STATUS").filter("CANCELLED"::equalsIgnoreCase).isEmpty()) {
            var single = new CalendarEvent(event.lines().stream()
                    .filter(l -> !l.name().equals("RRULE"))
                    .map(l -> l.name().equals("UID") ? new Line("UID", l.parameters(), uid + "-" + moved.value()) : l)
                    .toList());
            add(single, name, whole == null ? usual : whole.kind());
        }
    }

    /** The entry without the occurrence that another time is told for. */
    private Entry without(Entry whole, Line moved) {
        LocalDateTime at = local(moved, whole.zone().orElse(zone));
        var without = new TreeSet<>(whole.without());
        without.add(
                moved.value().length() == 8 && !whole.allDay()
                        ? at.toLocalDate().atTime(whole.start().toLocalTime())
                        : at);
        return new Entry(
                whole.id(),
                whole.name(),
                whole.kind(),
                whole.evenOnHolidays(),
                whole.allDay(),
                whole.start(),
                whole.end(),
                whole.repeat(),
                without,
                whole.also(),
                whole.zone());
    }

    /** The event's own zone, when it is another one than the calendar's. */
    private Optional<ZoneId> zone(CalendarEvent event, Line start, String name) {
        Optional<String> id = event.value(CalendarFile.ZONE)
                .or(() -> Optional.ofNullable(start.parameters().get("TZID")));
        if (id.isEmpty()) {
            return start.value().endsWith("Z") && !zone.equals(ZoneOffset.UTC)
                    ? Optional.of(ZoneId.of("UTC"))
                    : Optional.empty();
        }
        try {
            return Optional.of(ZoneId.of(id.get())).filter(own -> !own.equals(zone));
        } catch (DateTimeException e) {
            remarks.add("“" + name + "” is in the zone " + id.get()
                    + ", which is not known here; it was taken as the calendar’s own.");
            return Optional.empty();
        }
    }

    private static LocalDateTime end(CalendarEvent event, LocalDateTime from, boolean allDay, ZoneId zone) {
        Optional<Line> end = event.line("DTEND");
        if (end.isPresent()) {
            return local(end.get(), zone);
        }
        Optional<Line> duration = event.line("DURATION");
        if (duration.isPresent()) {
            return from.plus(duration(duration.get().value()));
        }
        if (allDay) {
            return from.plusDays(1);
        }
        throw new IllegalArgumentException("it has a beginning but no end");
    }

    private static Duration duration(String written) {
        return written.contains("W")
                ? Duration.ofDays(7 * Long.parseLong(written.replaceAll("\\D", "")))
                : Duration.parse(written);
    }

    private static Repeat repeat(String rule, ZoneId zone, boolean allDay) {
        String bare = Stream.of(rule.split(";"))
                .filter(part -> !part.toUpperCase(Locale.ROOT).startsWith("UNTIL="))
                .collect(Collectors.joining(";"));
        Repeat.wrong(bare).ifPresent(words -> {
            throw new IllegalArgumentException(words);
        });
        Optional<LocalDateTime> until = Stream.of(rule.split(";"))
                .filter(part -> part.toUpperCase(Locale.ROOT).startsWith("UNTIL="))
                .findFirst()
                .map(part -> part.substring("UNTIL=".length()))
                // An end that is only a date takes in all of that date.
                .map(end -> {
                    LocalDateTime last = local(new Line("UNTIL", Map.of(), end), zone);
                    return end.length() == 8 && !allDay
                            ? last.toLocalDate().atTime(LocalTime.of(23, 59, 59))
                            : allDay ? last.toLocalDate().atStartOfDay() : last;
                });
        return new Repeat(bare, until);
    }

    /** A time as the zone of its entry reads it; it may be written in UTC or in a zone of its own. */
    private static LocalDateTime local(Line line, ZoneId zone) {
        String written = line.value();
        if (written.length() == 8) {
            return LocalDate.parse(written, CalendarFile.DATE).atStartOfDay();
        }
        if (written.endsWith("Z")) {
            return LocalDateTime.parse(written.substring(0, written.length() - 1), CalendarFile.TIME)
                    .atZone(ZoneOffset.UTC)
                    .withZoneSameInstant(zone)
                    .toLocalDateTime();
        }
        LocalDateTime at = LocalDateTime.parse(written, CalendarFile.TIME);
        return known(line.parameters().getOrDefault("TZID", ""))
                .filter(own -> !own.equals(zone))
                .map(own -> at.atZone(own).withZoneSameInstant(zone).toLocalDateTime())
                .orElse(at);
    }

    private static Optional<ZoneId> known(String id) {
        try {
            return id.isEmpty() ? Optional.empty() : Optional.of(ZoneId.of(id));
        } catch (DateTimeException unknown) {
            return Optional.empty();
        }
    }

    private static String plain(String escaped) {
        return escaped.replace("\\n", " ").replace("\\N", " ").replaceAll("\\\\([,;\\\\])", "$1");
    }
}
