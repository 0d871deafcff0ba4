package rafter.app.promises.hours;

import java.time.LocalDate;
import java.time.Month;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.time.format.TextStyle;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import org.springframework.web.util.HtmlUtils;
import rafter.app.platform.Say;
import rafter.core.time.Closing;
import rafter.core.time.YearSheet;

/**
 * A year of a calendar as a drawing: a row a month, a cell a day, open time where it lies within the day.
 *
 * @param months the names of the rows
 * @param svg the cells
 * @param summary the same in few words
 * @param unusual the days that differ from the usual week, for those who do not see the drawing
 */
record SheetDrawing(int year, List<Row> months, String svg, String summary, List<Unusual> unusual) {

    private static final int LEFT = 36;
    private static final int CELL = 15;
    private static final int HIGH = 19;
    private static final int BAR = 15;
    private static final DateTimeFormatter DAY = DateTimeFormatter.ofPattern("EEE d MMM", Locale.ENGLISH);

    public record Row(int y, String name) {}

    public record Unusual(String day, String open, String because) {}

    static SheetDrawing of(YearSheet sheet, ZoneId zone) {
        var svg = new StringBuilder();
        var unusual = new ArrayList<Unusual>();
        for (YearSheet.Day day : sheet.days()) {
            draw(day, sheet.clockChanges().contains(day.date()), zone, svg);
            boolean exceptional = day.open().stream().anyMatch(part -> part.tone() == YearSheet.Tone.EXCEPTIONAL);
            if (exceptional || !day.closings().isEmpty()) {
                unusual.add(new Unusual(DAY.format(day.date()), open(day), because(day, zone)));
            }
        }
        var rows = new ArrayList<Row>();
        for (Month month : Month.values()) {
            rows.add(new Row(HIGH * month.ordinal() + 12, month.getDisplayName(TextStyle.SHORT, Locale.ENGLISH)));
        }
        String changes = sheet.clockChanges().stream()
                .map(d -> DateTimeFormatter.ofPattern("d MMM", Locale.ENGLISH).format(d))
                .collect(Collectors.joining(" and "));
        String summary =
                String.format(Locale.ENGLISH, "%,d working hours", sheet.open().toHours())
                        + (changes.isEmpty() ? "" : ", clocks change " + changes);
        return new SheetDrawing(sheet.year().getValue(), rows, svg.toString(), summary, unusual);
    }

    private static void draw(YearSheet.Day day, boolean clocksChange, ZoneId zone, StringBuilder svg) {
        int x = LEFT + CELL * (day.date().getDayOfMonth() - 1);
        int y = HIGH * (day.date().getMonthValue() - 1);
        svg.append("<g><title>").append(HtmlUtils.htmlEscape(title(day, zone))).append("</title>");
        rectangle(svg, "cell", x, y, BAR + 1);
        for (YearSheet.Part part : day.open()) {
            int top = y + Math.round(part.from() * BAR / 1440f);
            int height = Math.max(2, Math.round((part.to() - part.from()) * BAR / 1440f));
            rectangle(svg, part.tone() == YearSheet.Tone.USUAL ? "usual" : "rare", x, top, height);
        }
        if (!day.closings().isEmpty()) {
            svg.append("<path class=\"shut\" d=\"M%d %dl6 6m0-6-6 6\"></path>".formatted(x + 4, y + 5));
        }
        if (clocksChange) {
            svg.append("<path class=\"change-mark\" d=\"M%d %dh6l-3 4z\"></path>".formatted(x + 4, y - 1));
        }
        svg.append("</g>");
    }

    private static void rectangle(StringBuilder svg, String tone, int x, int y, int height) {
        svg.append("<rect class=\"%s\" x=\"%d\" y=\"%d\" width=\"14\" height=\"%d\"></rect>"
                .formatted(tone, x, y, height));
    }

    private static String title(YearSheet.Day day, ZoneId zone) {
        String because = because(day, zone);
        return DAY.format(day.date()) + ": " + open(day) + (because.isEmpty() ? "" : "; " + because);
    }

    private static String open(YearSheet.Day day) {
        return day.open().isEmpty()
                ? "closed"
                : day.open().stream()
                        .map(part -> clock(part.from()) + " to " + clock(part.to()))
                        .collect(Collectors.joining(", "));
    }

    private static String clock(int minutes) {
        return String.format("%02d:%02d", minutes / 60, minutes % 60);
    }

    /** Names what closes it, and by which zone's day where that is not the calendar's own. */
    private static String because(YearSheet.Day day, ZoneId zone) {
        return day.closings().stream().map(closing -> name(closing, zone)).collect(Collectors.joining(", "));
    }

    static String name(Closing closing, ZoneId zone) {
        String name = closing.name().isBlank() ? "closed" : closing.name();
        return closing.zone().equals(zone)
                ? name
                : name + ", a day of " + closing.zone().getId() + ": here from "
                        + Say.exactly(closing.time().startInclusive(), zone) + " to "
                        + Say.exactly(closing.time().endExclusive(), zone);
    }

    /** The day on which a line of text begins. */
    static String day(LocalDate date) {
        return DAY.format(date);
    }
}
