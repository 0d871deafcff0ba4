package rafter.app.promises.targets;

import java.io.IOException;
import java.io.StringWriter;
import java.time.Clock;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import net.fortuna.ical4j.data.CalendarOutputter;
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

    static final DateTimeFormatter TIME = DateTimeFormatter.ofPattern("uuuuMMdd'T'HHmmss");
    static final DateTimeFormatter DATE = DateTimeFormatter.BASIC_ISO_DATE;
    static final String KIND = "X-RAFTER-KIND";
    static final String EVEN = "X-RAFTER-EVEN-ON-HOLIDAYS";
    static final String ZONE = "X-RAFTER-ZONE";
    static final String HOLIDAY = "HOLIDAY";
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
                        HOLIDAY_ID + set.id() + "-" + day.date(),
                        day.name(),
                        Entry.Kind.CLOSING,
                        false,
                        true,
                        closed.start(),
                        closed.end(),
                        Optional.empty(),
                        closed.without(),
                        closed.also(),
                        set.zone()));
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
                .flatMap(used -> Optional.ofNullable(registry.getTimeZone(used.getId()))
                        .map(known -> named(known.getVTimeZone(), used))
                        .stream())
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
        event.add(new XProperty(
                KIND, entry.id().startsWith(HOLIDAY_ID) ? HOLIDAY : entry.kind().name()));
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
                        + (entry.allDay()
                                ? DATE.format(until)
                                : TIME.format(until.atZone(zone).withZoneSameInstant(ZoneOffset.UTC)) + "Z"))
                .orElse(repeat.rule());
    }

    // ------------------------------------------------------------------ in

    /**
     * Reads a file.
     *
     * @param zone the zone of the calendar that takes the entries
     * @param usual what an event is when the file does not say
     * @throws Problem.Invalid when it is no iCalendar file
     */
    public static Read read(String text, ZoneId zone, Entry.Kind usual) {
        List<CalendarEvent> events = CalendarEvent.of(text);
        if (events.size() > MOST) {
            throw new Problem.Invalid(
                    "The file has " + events.size() + " events; at most " + MOST + " are taken. Nothing was changed.");
        }
        return new CalendarReading(zone, usual).read(events);
    }
}
