package rafter.app.promises.targets;

import java.io.IOException;
import java.io.StringReader;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.stream.Stream;
import net.fortuna.ical4j.data.CalendarParserImpl;
import net.fortuna.ical4j.data.ContentHandler;
import net.fortuna.ical4j.data.ParserException;
import net.fortuna.ical4j.data.UnfoldingReader;
import rafter.app.platform.Problem;

/** An event of an iCalendar file, line by line as it stands there, for dates are read here by the rules of opening hours. */
record CalendarEvent(List<Line> lines) {

    /** A property as it stands in a file. */
    public record Line(String name, Map<String, String> parameters, String value) {}

    /**
     * The events of a file.
     *
     * @throws Problem.Invalid when it is no iCalendar file
     */
    static List<CalendarEvent> of(String text) {
        var collector = new Collector();
        try {
            new CalendarParserImpl().parse(new UnfoldingReader(new StringReader(text)), collector);
        } catch (IOException | ParserException e) {
            throw new Problem.Invalid(
                    "That is not an iCalendar file, or it is damaged: " + e.getMessage() + ". Nothing was changed.");
        }
        return collector.events.stream().map(CalendarEvent::new).toList();
    }

    /** Its first line of a name. */
    Optional<Line> line(String name) {
        return lines(name).findFirst();
    }

    /** Its lines of a name. */
    Stream<Line> lines(String name) {
        return lines.stream().filter(line -> line.name().equals(name));
    }

    /** What stands in its first line of a name. */
    Optional<String> value(String name) {
        return line(name).map(Line::value);
    }

    /** Gathers the lines of each event. */
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
