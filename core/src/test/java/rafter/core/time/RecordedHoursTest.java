package rafter.core.time;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.Year;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Random;
import org.junit.jupiter.api.Test;
import rafter.core.Recorded;
import rafter.core.Seeds;

/** Random calendars: how their entries read, and how much working time lies between random instants, stay as they were. */
class RecordedHoursTest {

    private static final List<String> ZONES = List.of("Europe/Oslo", "America/St_Johns", "Asia/Kolkata", "UTC");
    private static final List<String> DAYS = List.of(
            "MO",
            "TU",
            "WE",
            "TH",
            "FR",
            "SA",
            "SU",
            "2SU",
            "-1FR",
            "1MO",
            "MO,WE,FR",
            "SA,SU",
            "MO,TU,WE,TH,FR",
            "TU,TH");

    private static String rule(Random random) {
        var rule = new StringBuilder("FREQ=")
                .append(List.of("DAILY", "WEEKLY", "MONTHLY", "YEARLY").get(random.nextInt(4)));
        boolean numbered =
                rule.toString().endsWith("MONTHLY") || rule.toString().endsWith("YEARLY");
        if (random.nextInt(3) == 0) {
            rule.append(";INTERVAL=").append(1 + random.nextInt(4));
        }
        if (random.nextInt(3) == 0) {
            rule.append(";BYMONTH=")
                    .append(1 + random.nextInt(12))
                    .append(random.nextBoolean() ? "," + (1 + random.nextInt(12)) : "");
        }
        if (random.nextInt(2) == 0) {
            rule.append(";BYDAY=").append(DAYS.get(numbered ? random.nextInt(DAYS.size()) : random.nextInt(7)));
        } else if (numbered && random.nextBoolean()) {
            rule.append(";BYMONTHDAY=").append(random.nextBoolean() ? 1 + random.nextInt(28) : -1 - random.nextInt(3));
        }
        if (random.nextInt(5) == 0) {
            rule.append(";COUNT=").append(1 + random.nextInt(6));
        }
        return rule.toString();
    }

    private static Entry entry(Random random) {
        LocalDateTime start = LocalDate.of(2027, 1, 1)
                .plusDays(random.nextInt(300))
                .atTime(random.nextInt(24), 15 * random.nextInt(4));
        LocalDateTime end = random.nextInt(6) == 0
                ? start.toLocalDate().plusDays(1 + random.nextInt(3)).atStartOfDay()
                : start.plusMinutes(30L + 15 * random.nextInt(40));
        boolean untilSet = random.nextInt(4) == 0;
        Optional<Repeat> repeat = random.nextInt(4) == 0
                ? Optional.empty()
                : Optional.of(new Repeat(
                        rule(random).replaceAll(untilSet ? ";COUNT=\\d+" : "^$", ""),
                        untilSet ? Optional.of(start.plusDays(200)) : Optional.empty()));
        Entry.Kind kind = random.nextInt(3) == 0 ? Entry.Kind.CLOSING : Entry.Kind.OPENING;
        return Entry.of("e" + random.nextInt(1000), random.nextBoolean() ? "" : "Market", kind, start, end, repeat);
    }

    @Test
    void calendars_read_and_count_as_they_did() {
        var lines = new ArrayList<String>();
        for (int seed = 0; seed < Seeds.rounds(150); seed++) {
            var random = new Random(seed);
            var entries = new ArrayList<Entry>();
            for (int i = 0; i <= random.nextInt(4); i++) {
                Entry entry = entry(random);
                if (entry.trouble().isEmpty()) {
                    entries.add(random.nextInt(5) == 0 ? entry.overHolidays() : entry);
                    lines.add(seed + ": " + RepeatWords.sentence(entry));
                }
            }
            var holidays = HolidaySet.of(
                    "h",
                    "Holidays",
                    List.of(
                            new Holiday(LocalDate.of(2027, 5, 1), "May Day"),
                            new Holiday(LocalDate.of(2027, 1, 1).plusDays(random.nextInt(365)), "Some day")));
            var calendar = new WorkCalendar(
                    "Any", ZoneId.of(ZONES.get(random.nextInt(ZONES.size()))), false, entries, List.of(holidays));
            lines.add(seed + ": " + counted(WorkingTime.of(calendar), random));
        }
        Recorded.check("hours", lines);
    }

    private static String counted(WorkingTime hours, Random random) {
        Instant from = Instant.parse("2027-01-01T00:00:00Z").plusSeconds(random.nextInt(20_000_000));
        Instant to = from.plusSeconds(random.nextInt(3_000_000));
        Duration amount = Duration.ofMinutes(random.nextInt(6_000));
        YearSheet sheet = YearSheet.of(hours, Year.of(2027));
        return "open " + hours.between(from, to).toMinutes() + " in "
                + hours.openings(from, to).size() + " openings, " + hours.isOpen(from) + ", next "
                + hours.nextOpen(from).map(Instant::toString).orElse("never")
                + ", " + amount.toMinutes() + " m end "
                + hours.add(from, amount).map(Instant::toString).orElse("never") + ", closings "
                + hours.closings(from, to).stream().map(Closing::name).toList()
                + ", year " + sheet.open().toMinutes() + " m "
                + sheet.days().stream().filter(day -> !day.open().isEmpty()).count() + " days, ahead "
                + Outlook.next(hours, from, Duration.ofHours(20)).lines().stream()
                        .limit(6)
                        .map(RecordedHoursTest::line)
                        .toList();
    }

    private static String line(Outlook.Line line) {
        return switch (line) {
            case Outlook.Line.Counted counted ->
                counted.time() + "=" + counted.soFar().toMinutes()
                        + counted.cut().stream().map(Closing::name).toList();
            case Outlook.Line.Skipped skipped ->
                skipped.first() + ".." + skipped.last()
                        + skipped.because().stream().map(Closing::name).toList();
        };
    }
}
