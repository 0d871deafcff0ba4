package rafter.app.targets;

import java.io.IOException;
import java.io.StringReader;
import java.io.StringWriter;
import java.time.Clock;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import net.fortuna.ical4j.data.CalendarOutputter;
import net.fortuna.ical4j.data.CalendarParserImpl;
import net.fortuna.ical4j.data.ContentHandler;
import net.fortuna.ical4j.data.ParserException;
import net.fortuna.ical4j.data.UnfoldingReader;
import net.fortuna.ical4j.model.Calendar;
import net.fortuna.ical4j.model.ParameterList;
import net.fortuna.ical4j.model.TimeZoneRegistryFactory;
import net.fortuna.ical4j.model.component.VEvent;
import net.fortuna.ical4j.model.component.VTimeZone;
import net.fortuna.ical4j.model.parameter.TzId;
import net.fortuna.ical4j.model.parameter.Value;
import net.fortuna.ical4j.model.property.DtEnd;
import net.fortuna.ical4j.model.property.DtStamp;
import net.fortuna.ical4j.model.property.DtStart;
import net.fortuna.ical4j.model.property.ExDate;
import net.fortuna.ical4j.model.property.ProdId;
import net.fortuna.ical4j.model.property.RDate;
import net.fortuna.ical4j.model.property.RRule;
import net.fortuna.ical4j.model.property.Summary;
import net.fortuna.ical4j.model.property.Uid;
import net.fortuna.ical4j.model.property.Version;
import net.fortuna.ical4j.model.property.XProperty;
import rafter.app.platform.Problem;
import rafter.core.time.Entry;
import rafter.core.time.Holiday;
import rafter.core.time.HolidaySet;
import rafter.core.time.Repeat;
import rafter.core.time.WorkCalendar;

/** The entries of a calendar as an iCalendar file (RFC 5545), and back. */
public final class CalendarFile {

    private static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("uuuuMMdd'T'HHmmss");
    private static final DateTimeFormatter DATE = DateTimeFormatter.BASIC_ISO_DATE;
    private static final String KIND = "X-RAFTER-KIND";
    private static final String EVEN = "X-RAFTER-EVEN-ON-HOLIDAYS";
    private static final String ZONE = "X-RAFTER-ZONE";
    private static final String HOLIDAY = "HOLIDAY";
    private static final String HOLIDAY_ID = "holiday-of-";
    private static final int MOST = 2_000;

    private CalendarFile() {}

    /**
     * What was read from a file.
     *
     * @param remarks what could not be taken over, in words
     */
    public record Read(List<Entry> entries, List<String> remarks) {}

    // ------------------------------------------------------------------ out

    /** Writes a calendar with its holidays. */
    public static String write(WorkCalendar hours, Clock clock) {
        var all = new ArrayList<>(hours.entries());
        for (HolidaySet set : hours.holidays()) {
            for (Holiday day : set.days()) {
                Entry closed = Entry.closed(day.date(), day.name());
                all.add(new Entry(
                        HOLIDAY_ID + set.id() + "-" + day.date(), day.name(), Entry.Kind.CLOSING, false, true, closed.start(), closed.end(), Optional.empty(), closed.without(),
                        closed.also(), set.zone()));
            }
        }
        return write(hours.name(), hours.zone(), all, clock);
    }

    /** Writes entries; {@code zone} is that of their calendar. */
    static String write(String name, ZoneId zone, List<Entry> entries, Clock clock) {
        var calendar = new Calendar();
        calendar.add(new ProdId("-//Rafter//Opening hours//EN"));
        calendar.add(new Version(new ParameterList(), "2.0"));
        calendar.add(new XProperty("X-WR-CALNAME", name.replaceAll("[\\r\\n]+", " ")));
        calendar.add(new XProperty("X-WR-TIMEZONE", zone.getId()));
        var registry = TimeZoneRegistryFactory.getInstance().createRegistry();
        Stream.concat(Stream.of(zone), entries.stream().flatMap(entry -> entry.zone().stream()))
                .distinct()
                .flatMap(used -> Optional.ofNullable(registry.getTimeZone(used.getId())).map(known -> named(known.getVTimeZone(), used)).stream())
                .forEach(calendar::add);
        entries.forEach(entry -> calendar.add(event(entry, zone, clock)));
        try {
            var out = new StringWriter();
            new CalendarOutputter(false).output(calendar, out);
            return out.toString();
        } catch (IOException e) {
            throw new IllegalStateException("writing to memory", e);
        }
    }

    /** The library gives some zones under the name of another one with the same rules; events refer to it by their own. */
    private static VTimeZone named(VTimeZone rules, ZoneId name) {
        VTimeZone copy = (VTimeZone) rules.copy();
        copy.replace(new net.fortuna.ical4j.model.property.TzId(name.getId()));
        return copy;
    }

    private static VEvent event(Entry entry, ZoneId calendar, Clock clock) {
        ZoneId zone = entry.zone().orElse(calendar);
        var event = new VEvent(false);
        event.add(new DtStamp(clock.instant()));
        event.add(new Uid(entry.id()));
        event.add(new Summary(entry.name()));
        event.add(new DtStart<>(times(entry, zone), written(entry, entry.start())));
        event.add(new DtEnd<>(times(entry, zone), written(entry, entry.end())));
        entry.repeat().ifPresent(repeat -> event.add(new RRule<>(rule(entry, repeat, zone))));
        if (!entry.without().isEmpty()) {
            event.add(new ExDate<>(times(entry, zone), list(entry, entry.without())));
        }
        if (!entry.also().isEmpty()) {
            event.add(new RDate<>(times(entry, zone), list(entry, entry.also())));
        }
        event.add(new XProperty(KIND, entry.id().startsWith(HOLIDAY_ID) ? HOLIDAY : entry.kind().name()));
        if (entry.evenOnHolidays()) {
            event.add(new XProperty(EVEN, "TRUE"));
        }
        // Dates have no zone in the format, so the entry's own is said beside them.
        entry.zone().ifPresent(own -> event.add(new XProperty(ZONE, own.getId())));
        return event;
    }

    private static ParameterList times(Entry entry, ZoneId zone) {
        return new ParameterList(List.of(entry.allDay() ? Value.DATE : new TzId(zone.getId())));
    }

    private static String written(Entry entry, LocalDateTime at) {
        return entry.allDay() ? DATE.format(at) : TIME.format(at);
    }

    private static String list(Entry entry, Collection<LocalDateTime> all) {
        return all.stream().map(at -> written(entry, at)).collect(Collectors.joining(","));
    }

    /** The end of a rule is said in UTC where its start has a zone. */
    private static String rule(Entry entry, Repeat repeat, ZoneId zone) {
        return repeat.until()
                .map(until -> repeat.rule() + ";UNTIL="
                        + (entry.allDay() ? DATE.format(until) : TIME.format(until.atZone(zone).withZoneSameInstant(ZoneOffset.UTC)) + "Z"))
                .orElse(repeat.rule());
    }

    // ------------------------------------------------------------------ in

    /** A property as it stands in a file. */
    private record Line(String name, Map<String, String> parameters, String value) {}

    /**
     * Reads a file.
     *
     * @param zone the zone of the calendar that takes the entries
     * @param usual what an event is when the file does not say
     * @throws Problem.Invalid when it is no iCalendar file
     */
    public static Read read(String text, ZoneId zone, Entry.Kind usual) {
        var collector = new Collector();
        try {
            new CalendarParserImpl().parse(new UnfoldingReader(new StringReader(text)), collector);
        } catch (IOException | ParserException e) {
            throw new Problem.Invalid("That is not an iCalendar file, or it is damaged: " + e.getMessage() + ". Nothing was changed.");
        }
        if (collector.events.size() > MOST) {
            throw new Problem.Invalid("The file has " + collector.events.size() + " events; at most " + MOST + " are taken. Nothing was changed.");
        }
        var remarks = new ArrayList<String>();
        var entries = new LinkedHashMap<String, Entry>();
        int events = collector.events.size();
        collector.events.removeIf(event -> value(event, KIND).filter(HOLIDAY::equals).isPresent());
        if (collector.events.size() < events) {
            remarks.add((events - collector.events.size()) + " days of holiday sets were left out; tick the sets in the calendar instead.");
        }
        // What changes single occurrences comes after what it changes, wherever it stands in the file.
        for (boolean changes : new boolean[] {false, true}) {
            for (List<Line> event : collector.events) {
                if (line(event, "RECURRENCE-ID").isPresent() == changes) {
                    take(event, zone, usual, entries, remarks);
                }
            }
        }
        return new Read(List.copyOf(entries.values()), remarks);
    }

    private static void take(List<Line> event, ZoneId zone, Entry.Kind usual, Map<String, Entry> entries, List<String> remarks) {
        String name = value(event, "SUMMARY").map(CalendarFile::plain).orElse("");
        try {
            if (line(event, "RECURRENCE-ID").isPresent()) {
                change(event, name, zone, usual, entries, remarks);
            } else if (value(event, "STATUS").filter("CANCELLED"::equalsIgnoreCase).isEmpty()) {
                add(event, name, zone, usual, entries, remarks);
            }
        } catch (DateTimeException | ArithmeticException | IllegalArgumentException e) {
            remarks.add("“" + name + "” (" + value(event, "DTSTART").orElse("without a beginning") + ") was left out: " + e.getMessage());
        }
    }

    /** One event as the entries that say it: itself, and occurrences on top that have a length of their own. */
    private static void add(List<Line> event, String name, ZoneId zone, Entry.Kind usual, Map<String, Entry> entries, List<String> remarks) {
        String uid = unused(value(event, "UID").filter(id -> !id.isBlank()).orElse("event-" + entries.size()), entries);
        Line start = line(event, "DTSTART").orElseThrow(() -> new IllegalArgumentException("it has no beginning"));
        boolean allDay = start.value().length() == 8;
        Optional<ZoneId> own = zone(event, start, zone, name, remarks);
        ZoneId its = own.orElse(zone);
        LocalDateTime from = local(start, its);
        Entry.Kind kind = value(event, KIND).map(Entry.Kind::valueOf).orElse(usual);
        boolean even = value(event, EVEN).filter("TRUE"::equalsIgnoreCase).isPresent();
        List<Line> rules = event.stream().filter(l -> l.name().equals("RRULE")).toList();
        Optional<Repeat> repeat = rules.stream().findFirst().map(rule -> repeat(rule.value(), its, allDay));
        remark(event, name, rules, remarks);
        var also = new TreeSet<LocalDateTime>();
        var entry = new Entry(uid, name, kind, even, allDay, from, end(event, from, allDay, its), repeat, without(event, from, its), also, own);
        entry.trouble().ifPresent(trouble -> {
            throw new IllegalArgumentException(trouble);
        });
        var single = new ArrayList<Entry>();
        for (Line dates : event.stream().filter(l -> l.name().equals("RDATE")).toList()) {
            for (String one : dates.value().split(",")) {
                LocalDateTime at = local(new Line("RDATE", dates.parameters(), one.replaceFirst("/.*", "")), its);
                LocalDateTime to = one.contains("/") ? periodEnd(one, dates, at, its) : at.plus(entry.length());
                if (to.equals(at.plus(entry.length()))) {
                    also.add(at);
                } else {
                    single.add(Entry.of(uid + "-" + TIME.format(at), name, kind, at, to, Optional.empty()));
                }
            }
        }
        entries.put(uid, new Entry(uid, name, kind, even, allDay, from, entry.end(), repeat, entry.without(), also, own));
        single.forEach(one -> entries.put(one.id(), new Entry(one.id(), name, kind, even, false, one.start(), one.end(), Optional.empty(), one.without(), one.also(), own)));
    }

    private static String unused(String uid, Map<String, Entry> entries) {
        String id = uid;
        for (int i = 2; entries.containsKey(id); i++) {
            id = uid + "-" + i;
        }
        return id;
    }

    /** What an event says that opening hours have no place for. */
    private static void remark(List<Line> event, String name, List<Line> rules, List<String> remarks) {
        if (rules.size() > 1) {
            remarks.add("“" + name + "” has " + rules.size() + " rules; only the first was taken: RRULE:" + rules.getFirst().value() + ".");
        }
        line(event, "EXRULE").ifPresent(rule -> remarks.add(
                "“" + name + "” leaves days out by a rule, which today’s standard no longer has; check its days. EXRULE:" + rule.value()));
        if (event.stream().anyMatch(l -> l.name().equals("BEGIN-VALARM"))) {
            remarks.add("“" + name + "” has a reminder, which opening hours have no use for.");
        }
        String lost = Stream.of("DESCRIPTION", "LOCATION", "CATEGORIES").filter(what -> line(event, what).filter(l -> !l.value().isBlank()).isPresent()).collect(Collectors.joining(", "));
        if (!lost.isEmpty()) {
            remarks.add("“" + name + "” has " + lost + ", which opening hours have no place for.");
        }
    }

    private static SortedSet<LocalDateTime> without(List<Line> event, LocalDateTime from, ZoneId zone) {
        var found = new TreeSet<LocalDateTime>();
        for (Line line : event.stream().filter(l -> l.name().equals("EXDATE")).toList()) {
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
    private static void change(List<Line> event, String name, ZoneId zone, Entry.Kind usual, Map<String, Entry> entries, List<String> remarks) {
        Line moved = line(event, "RECURRENCE-ID").orElseThrow();
        if (moved.parameters().getOrDefault("RANGE", "").equalsIgnoreCase("THISANDFUTURE")) {
            throw new IllegalArgumentException("it changes all occurrences from one on, which is not supported; end the entry there and add another. RECURRENCE-ID;RANGE=THISANDFUTURE:" + moved.value());
        }
        String uid = value(event, "UID").orElse("");
        Entry whole = entries.get(uid);
        if (whole == null) {
            remarks.add("“" + name + "” changes an occurrence of an entry that is not in the file: RECURRENCE-ID:" + moved.value() + ".");
        } else {
            ZoneId its = whole.zone().orElse(zone);
            LocalDateTime at = local(moved, its);
            var without = new TreeSet<>(whole.without());
            without.add(moved.value().length() == 8 && !whole.allDay() ? at.toLocalDate().atTime(whole.start().toLocalTime()) : at);
            entries.put(uid, new Entry(
                    whole.id(), whole.name(), whole.kind(), whole.evenOnHolidays(), whole.allDay(), whole.start(), whole.end(), whole.repeat(), without, whole.also(), whole.zone()));
        }
        if (value(event, "STATUS").filter("CANCELLED"::equalsIgnoreCase).isEmpty()) {
            var single = event.stream().map(l -> l.name().equals("UID") ? new Line("UID", l.parameters(), uid + "-" + moved.value()) : l).filter(l -> !l.name().equals("RRULE")).toList();
            add(single, name, zone, whole == null ? usual : whole.kind(), entries, remarks);
        }
    }

    /** The event's own zone, when it is another one than the calendar's. */
    private static Optional<ZoneId> zone(List<Line> event, Line start, ZoneId calendar, String name, List<String> remarks) {
        Optional<String> id = value(event, ZONE).or(() -> Optional.ofNullable(start.parameters().get("TZID")));
        if (id.isEmpty()) {
            return start.value().endsWith("Z") && !calendar.equals(ZoneOffset.UTC) ? Optional.of(ZoneId.of("UTC")) : Optional.empty();
        }
        try {
            return Optional.of(ZoneId.of(id.get())).filter(zone -> !zone.equals(calendar));
        } catch (DateTimeException e) {
            remarks.add("“" + name + "” is in the zone " + id.get() + ", which is not known here; it was taken as the calendar’s own.");
            return Optional.empty();
        }
    }

    private static LocalDateTime end(List<Line> event, LocalDateTime from, boolean allDay, ZoneId zone) {
        Optional<Line> end = line(event, "DTEND");
        if (end.isPresent()) {
            return local(end.get(), zone);
        }
        Optional<Line> duration = line(event, "DURATION");
        if (duration.isPresent()) {
            return from.plus(duration(duration.get().value()));
        }
        if (allDay) {
            return from.plusDays(1);
        }
        throw new IllegalArgumentException("it has a beginning but no end");
    }

    private static Duration duration(String written) {
        return written.contains("W") ? Duration.ofDays(7 * Long.parseLong(written.replaceAll("\\D", ""))) : Duration.parse(written);
    }

    private static Repeat repeat(String rule, ZoneId zone, boolean allDay) {
        String bare = Stream.of(rule.split(";")).filter(part -> !part.toUpperCase(Locale.ROOT).startsWith("UNTIL=")).collect(Collectors.joining(";"));
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
                    return end.length() == 8 && !allDay ? last.toLocalDate().atTime(LocalTime.of(23, 59, 59)) : allDay ? last.toLocalDate().atStartOfDay() : last;
                });
        return new Repeat(bare, until);
    }

    /** A time as the zone of its entry reads it; it may be written in UTC or in a zone of its own. */
    private static LocalDateTime local(Line line, ZoneId zone) {
        String written = line.value();
        if (written.length() == 8) {
            return LocalDate.parse(written, DATE).atStartOfDay();
        }
        if (written.endsWith("Z")) {
            return LocalDateTime.parse(written.substring(0, written.length() - 1), TIME).atZone(ZoneOffset.UTC).withZoneSameInstant(zone).toLocalDateTime();
        }
        LocalDateTime at = LocalDateTime.parse(written, TIME);
        return known(line.parameters().getOrDefault("TZID", "")).filter(own -> !own.equals(zone)).map(own -> at.atZone(own).withZoneSameInstant(zone).toLocalDateTime()).orElse(at);
    }

    private static Optional<ZoneId> known(String id) {
        try {
            return id.isEmpty() ? Optional.empty() : Optional.of(ZoneId.of(id));
        } catch (DateTimeException unknown) {
            return Optional.empty();
        }
    }

    private static Optional<Line> line(List<Line> event, String name) {
        return event.stream().filter(line -> line.name().equals(name)).findFirst();
    }

    private static Optional<String> value(List<Line> event, String name) {
        return line(event, name).map(Line::value);
    }

    private static String plain(String escaped) {
        return escaped.replace("\\n", " ").replace("\\N", " ").replaceAll("\\\\([,;\\\\])", "$1");
    }

    /** Gathers the lines of each event as they stand, for dates are read here by the rules of opening hours. */
    private static final class Collector implements ContentHandler {
        private final List<List<Line>> events = new ArrayList<>();
        private final List<String> open = new ArrayList<>();
        private String name = "";
        private String value = "";
        private Map<String, String> parameters = new HashMap<>();

        @Override
        public void startCalendar() {}

        @Override
        public void endCalendar() {}

        @Override
        public void startComponent(String component) {
            open.add(component.toUpperCase(Locale.ROOT));
            if (open.getLast().equals("VEVENT")) {
                events.add(new ArrayList<>());
            } else if (open.contains("VEVENT")) {
                events.getLast().add(new Line("BEGIN-" + open.getLast(), Map.of(), ""));
            }
        }

        @Override
        public void endComponent(String component) {
            open.removeLast();
        }

        @Override
        public void startProperty(String property) {
            name = property.toUpperCase(Locale.ROOT);
            parameters = new HashMap<>();
        }

        @Override
        public void propertyValue(String text) {
            value = text;
        }

        @Override
        public void parameter(String parameter, String text) {
            parameters.put(parameter.toUpperCase(Locale.ROOT), text);
        }

        @Override
        public void endProperty(String property) {
            if (!open.isEmpty() && open.getLast().equals("VEVENT")) {
                events.getLast().add(new Line(name, Map.copyOf(parameters), value));
            }
        }
    }
}
