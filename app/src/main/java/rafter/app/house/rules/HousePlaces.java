package rafter.app.house.rules;

import java.util.List;
import java.util.stream.Stream;
import org.springframework.stereotype.Component;
import rafter.app.house.access.Place;
import rafter.app.house.access.Right;
import rafter.app.house.access.Viewer;

/** The pages that everybody has, and those of the house rules for who may change them. */
@Component
class HousePlaces implements Place.Source {

    private static final List<Place> EVERYBODYS = List.of(
            Place.page("Today", "/today"),
            Place.page("Worklist", "/worklist"),
            Place.page("Chats", "/chats"),
            Place.page("Calls", "/calls"),
            Place.page("Call somebody", "/calls/out"),
            Place.page("Social", "/social"),
            Place.page("Floor", "/floor"),
            Place.page("People: contacts", "/people"),
            Place.page("People: companies", "/people/companies"),
            Place.page("Reports: targets", "/reports/targets"),
            Place.page("Log a request", "/requests/new"),
            Place.page("Search", "/search"),
            Place.page("Time spent", "/reports/time"),
            Place.page("Notices", "/notices"),
            Place.page("What you are told of", "/notices/choices"),
            Place.page("Phrasebook", "/phrases"),
            Place.page("Macros", "/macros"),
            Place.page("Draft answers", "/answers/drafts"),
            Place.page("My batches", "/batches"));
    private static final List<Place> HOUSE_RULES = List.of(
            rule("Service targets", "targets"),
            rule("Changes of service targets and hours", "targets/changes"),
            rule("Opening hours", "hours"),
            rule("Rules", "rules"),
            rule("Try a message with the rules", "rules/try"),
            rule("What rules did", "rules/share"),
            rule("Queues", "queues"),
            rule("Handing out", "handing-out"),
            rule("Skills", "skills"),
            rule("Consults", "consults"),
            rule("Automatic mails", "mails"),
            rule("Who is told", "notices"),
            rule("States", "states"),
            rule("Fields", "fields"),
            rule("Forms", "forms"),
            rule("Greetings and closings", "salutations"),
            rule("Arriving mail", "arriving"),
            rule("Acknowledgement", "acknowledgement"),
            rule("Ratings", "rating"),
            rule("Set aside", "set-aside"),
            Place.page("Import and export contacts", "/people/import"),
            rule("People and teams", "people"),
            rule("Companies", "companies"));

    private static Place rule(String words, String path) {
        return new Place(words, "house rule", "/house-rules/" + path);
    }

    @Override
    public List<Place> of(Viewer me) {
        return me.role().has(Right.HOUSE_RULES)
                ? Stream.concat(EVERYBODYS.stream(), HOUSE_RULES.stream()).toList()
                : EVERYBODYS;
    }
}
