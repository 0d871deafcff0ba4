package rafter.outside.demo;

import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.springframework.context.ApplicationContext;
import rafter.app.house.access.Holder;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Team;
import rafter.app.house.access.Viewer;
import rafter.app.platform.SafeHtml;
import rafter.app.tickets.macros.Macro;
import rafter.app.tickets.macros.Macros;
import rafter.app.tickets.phrases.Phrase;
import rafter.app.tickets.phrases.Phrases;
import rafter.app.tickets.phrases.Salutations;
import rafter.core.id.TeamId;

/** What the ferry line's agents keep in their phrasebook, and how their replies begin and end. */
final class DemoPhrases {

    /** One of the phrasebook; the team's name, or blank for everybody's. */
    private record Saying(String name, String folder, String language, String team, int used, String text) {}

    private static final List<Saying> ALL = List.of(
            new Saying(
                    "Sorry for the wait",
                    "Courtesy",
                    "en",
                    "",
                    31,
                    "Thank you for your patience, {first name}, and sorry for the wait."),
            new Saying(
                    "We are looking into it",
                    "Courtesy",
                    "en",
                    "",
                    44,
                    "We are looking into ticket {ticket} and will write again by {resolution due} at the latest."),
            new Saying(
                    "Refund is on its way",
                    "Refunds",
                    "en",
                    "",
                    27,
                    "The refund is on its way to the card that you paid with. It takes three to five working days."),
            new Saying(
                    "Refund: what we need",
                    "Refunds",
                    "en",
                    "",
                    12,
                    "To refund it we need the number of the booking and the name it was made under."),
            new Saying(
                    "Rückerstattung ist unterwegs",
                    "Refunds",
                    "de",
                    "",
                    5,
                    "Die Rückerstattung ist unterwegs zu der Karte, mit der Sie bezahlt haben. Das dauert drei bis fünf Werktage."),
            new Saying(
                    "Where lost things are kept",
                    "Lost property",
                    "en",
                    "Lost property",
                    19,
                    "What is found on board is kept at the Aldermouth terminal for sixty days, and can be collected from 07:00 to 19:00."),
            new Saying(
                    "Slot is confirmed",
                    "Freight/Slots",
                    "en",
                    "Freight desk",
                    23,
                    "The slot for {company} is confirmed. Please be at the gate forty minutes before departure."),
            new Saying(
                    "Late at the gate",
                    "Freight/Slots",
                    "en",
                    "Freight desk",
                    8,
                    "A trailer that reaches the gate after check-in has closed goes with the next sailing, at no charge."));

    private DemoPhrases() {}

    /** Fills the phrasebook as those would have who know best. */
    static void write(ApplicationContext context, DemoPeople people) {
        var phrases = context.getBean(Phrases.class);
        Viewer administrator = people.named("Ravi Nand");
        Viewer agent = people.named("Imani Okoro");
        List<Team> teams = context.getBean(Persons.class).teams();
        for (Saying one : ALL) {
            Holder holder = teams.stream()
                    .filter(team -> team.name().equals(one.team()))
                    .findFirst()
                    .map(Team::id)
                    .<Holder>map((TeamId id) -> new Holder.OfTeam(id))
                    .orElseGet(Holder.Everybody::new);
            save(
                    phrases,
                    one,
                    holder,
                    administrator,
                    one.team().equals("Lost property") ? people.named("Sefa Tui") : agent);
        }
        var mine = new Saying("Meeting point", "", "en", "", 3, "I will be at the information desk by gate 2.");
        save(phrases, mine, new Holder.One(agent.id()), agent, agent);
        macros(context.getBean(Macros.class), administrator);
        context.getBean(Salutations.class)
                .save(
                        new Salutations.Salutation(
                                "de", "Guten Tag {customer},", "Mit freundlichen Grüßen\n{agent}\n{workspace}", 0),
                        administrator);
    }

    /** What is done again and again. */
    private static void macros(Macros macros, Viewer by) {
        Macro.Step wait = new Macro.Step("state", Map.of("state", "with-customer"), false);
        save(
                macros,
                "Ask for the booking number",
                "Nothing can be looked up without it.",
                "Bookings",
                List.of(
                        new Macro.Step(
                                "answer",
                                Map.of(
                                        "text",
                                        "Dear {customer},\n\ncould you send us the number of your booking? It begins with TP.\n\nKind regards\n{agent}",
                                        "then",
                                        "CUSTOMER"),
                                true),
                        new Macro.Step("tag", Map.of("tag", "number missing"), false),
                        wait,
                        new Macro.Step("back", Map.of("back", "3 d"), false)),
                by);
        save(
                macros,
                "Lost on board",
                "What is done first when something was left on a ship.",
                "Lost property",
                List.of(
                        new Macro.Step("topic", Map.of("topic", "lost items"), false),
                        new Macro.Step("task", Map.of("task", "Ask the crew of the sailing", "by", "4 h"), false),
                        new Macro.Step("task", Map.of("task", "Look on the shelf at Aldermouth", "by", "2 d"), false),
                        new Macro.Step("person", Map.of("person", "me"), true)),
                by);
    }

    private static void save(
            Macros macros, String name, String description, String folder, List<Macro.Step> steps, Viewer by) {
        macros.save(new Macro(0, name, description, folder, new Holder.Everybody(), steps, Optional.empty(), 0, 0), by);
    }

    private static void save(Phrases phrases, Saying one, Holder holder, Viewer by, Viewer user) {
        long id = phrases.save(
                new Phrase(0, one.name(), one.folder(), one.language(), holder, SafeHtml.fromText(one.text()), 0, 0),
                by);
        for (int i = 0; i < one.used(); i++) {
            phrases.used(id, user);
        }
    }
}
