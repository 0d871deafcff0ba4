package rafter.outside.demo;

import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;

/** One story told about one customer, with its placeholders chosen once. */
record Telling(Story story, Cast.Someone who, Map<String, String> values) {

    private static final List<String> DAYS =
            List.of("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday");
    private static final List<String> TOWNS = List.of("Aldermouth", "Skelby", "Vessa", "North Quill");
    private static final List<String> TIMES = List.of("06:10", "07:40", "09:15", "12:30", "16:20", "18:15", "21:05");
    private static final List<String> VESSELS = List.of("MV Kestrel Light", "MV Saltmarsh");

    static Telling begin(Story story, Cast.Someone who, Random random, Instant at) {
        var values = new HashMap<String, String>();
        values.put("first", who.name().split(" ")[0]);
        values.put("name", who.name());
        values.put("firm", who.firm());
        values.put("day", pick(DAYS, random));
        values.put("town", pick(TOWNS, random));
        values.put("time", pick(TIMES, random));
        values.put("vessel", pick(VESSELS, random));
        values.put("booking", "TP-" + (20000 + random.nextInt(8000)));
        values.put("invoice", Integer.toString(8000 + random.nextInt(1900)));
        values.put("n", Integer.toString(12 + random.nextInt(40)));
        values.put(
                "date",
                DateTimeFormatter.ofPattern("d MMMM", Locale.ENGLISH)
                        .format(at.atZone(ZoneId.of("Europe/Oslo"))
                                .toLocalDate()
                                .plusDays(1 + random.nextInt(20))));
        return new Telling(story, who, Map.copyOf(values));
    }

    String fill(String text) {
        return rafter.core.text.Placeholders.fill(text, values);
    }

    String subject() {
        return fill(story.subject());
    }

    static <T> T pick(List<T> all, Random random) {
        return all.get(random.nextInt(all.size()));
    }
}
