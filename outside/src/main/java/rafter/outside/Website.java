package rafter.outside;

import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.thymeleaf.context.Context;

/** The ferry line's website, with the chat panel on it. A stand-in: no part of Rafter. */
final class Website {

    /** A page of it. */
    record Page(String path, String title, String language, String intro, List<String> lines) {}

    /** Something that a search finds. */
    record Found(String path, String title) {}

    private static final List<Page> PAGES = List.of(
            new Page(
                    "/site/",
                    "Crossings",
                    "en",
                    "Four towns, two vessels, every day.",
                    List.of(
                            "Aldermouth to Skelby, four crossings a day",
                            "Skelby to Vessa, two crossings a day",
                            "Vessa to North Quill, one crossing a day")),
            new Page(
                    "/site/timetable",
                    "Timetable",
                    "en",
                    "The winter timetable holds until the end of March.",
                    List.of(
                            "Aldermouth 07:10, 11:40, 16:20, 22:10",
                            "Skelby 09:00, 13:30, 18:15",
                            "Vessa 10:45, 20:30",
                            "North Quill 12:20")),
            new Page(
                    "/site/bookings",
                    "Bookings",
                    "en",
                    "Your booking has a number that begins with TP.",
                    List.of("Change it until two hours before departure", "Bring it on paper or on your telephone")),
            new Page(
                    "/site/freight",
                    "Freight slots",
                    "en",
                    "Slots on MV Saltmarsh, by the metre.",
                    List.of("Be at the gate forty minutes before departure", "Papers are looked at from 06:00")),
            new Page(
                    "/site/lost",
                    "Lost items",
                    "en",
                    "What is found on board goes ashore at the end of the day.",
                    List.of("Kept for sixty days at Aldermouth", "Open from 07:00 to 19:00")),
            new Page(
                    "/site/fundsachen",
                    "Fundsachen",
                    "de",
                    "Was an Bord gefunden wird, geht am Abend an Land.",
                    List.of("Sechzig Tage lang in Aldermouth", "Offen von 07:00 bis 19:00")));

    private final String rafter;

    Website(String rafter) {
        this.rafter = rafter;
    }

    /** What a page shows; nothing where there is none. */
    Optional<Context> page(String path, Map<String, String> query) {
        String wanted = path.equals("/site") ? "/site/" : path;
        return PAGES.stream()
                .filter(page -> page.path().equals(wanted))
                .findFirst()
                .map(page -> {
                    String searched = query.getOrDefault("q", "").strip();
                    var context = new Context(Locale.ENGLISH);
                    context.setVariable("page", page);
                    context.setVariable("pages", PAGES);
                    context.setVariable("rafter", rafter);
                    context.setVariable("word", path.startsWith("/site/freight") ? "freight" : "ferries");
                    context.setVariable("searched", searched);
                    context.setVariable("found", searched.isEmpty() ? List.of() : found(searched));
                    return context;
                });
    }

    private static List<Found> found(String searched) {
        String word = searched.toLowerCase(Locale.ROOT);
        return PAGES.stream()
                .filter(page -> (page.title() + " " + page.intro() + " " + page.lines())
                        .toLowerCase(Locale.ROOT)
                        .contains(word))
                .map(page -> new Found(page.path(), page.title()))
                .toList();
    }
}
