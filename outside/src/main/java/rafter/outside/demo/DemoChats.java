package rafter.outside.demo;

import static rafter.database.Tables.CHAT;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.UUID;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jooq.DSLContext;
import org.springframework.context.ApplicationContext;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.arrival.chat.ChatSettings;
import rafter.app.arrival.chat.ChatSite;
import rafter.app.arrival.chat.ChatSites;
import rafter.app.arrival.chat.Chats;
import rafter.app.arrival.chat.Endings;
import rafter.app.arrival.chat.Invites;
import rafter.app.arrival.chat.Openers;
import rafter.app.arrival.chat.Talk;
import rafter.app.handout.people.HandOutSettings;
import rafter.app.house.access.Holder;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Team;
import rafter.app.house.access.Viewer;
import rafter.app.house.fields.OwnFields;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.macros.Macro;
import rafter.app.tickets.macros.Macros;
import rafter.app.tickets.writing.Answering;
import rafter.core.chat.ChatRules;
import rafter.core.chat.Gathering;
import rafter.core.chat.Invite;
import rafter.core.chat.Pages;
import rafter.core.chat.Site;
import rafter.core.criteria.OwnField;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.ticket.Act;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;
import rafter.core.ticket.Work;

/** How the ferry line chats, and what was chatted on the last days. */
final class DemoChats {

    /** Whoever is chatted with; what they said first, where, and how it went on. */
    record Talked(
            String page, String title, String first, String name, String booking, String topic, List<String> then) {}

    static final List<Talked> TALKS = List.of(
            new Talked(
                    "/site/bookings",
                    "Bookings",
                    "My chair is 74 cm wide. Is the ramp at Skelby wide enough?",
                    "Noor Haddad",
                    "TP-20811",
                    "access",
                    List.of(
                            "Good morning, I am {me}. Let me look at the ramp of the 11:40 for you.",
                            "thank you. I have to leave in twenty minutes",
                            "The ramp at Skelby is 90 cm wide, so there is room enough. Staff will be at the gate.",
                            "that is good to know, thank you")),
            new Talked(
                    "/site/freight",
                    "Freight slots",
                    "Can I still add two metres to Thursday?",
                    "Per Aamodt",
                    "TP-20455",
                    "freight slots",
                    List.of(
                            "Yes, until 18:00 today. Shall I change slot F-88 to 14 m?",
                            "one moment, I ask the driver",
                            "The price goes from 310 to 352.",
                            "fine, please do")),
            new Talked(
                    "/site/lost",
                    "Lost items",
                    "blue umbrella with a wooden handle, 18:15 yesterday, upper deck",
                    "Ilse Brandt",
                    "TP-20172",
                    "lost items",
                    List.of(
                            "I have looked: one was handed in at North Quill. Has it a small scratch on the handle?",
                            "yes! that is mine",
                            "It is kept for you at the counter until the end of the month.")),
            new Talked(
                    "/site/timetable",
                    "Timetable",
                    "Does the late boat run on the holiday?",
                    "Tomas Vik",
                    "TP-20640",
                    "timetable",
                    List.of(
                            "It does, and the one at 22:10 as well.",
                            "great",
                            "Shall I send you the sheet?",
                            "no need, thanks")),
            new Talked(
                    "/site/bookings",
                    "Bookings",
                    "I was charged twice for the same crossing",
                    "Runa Solberg",
                    "TP-20933",
                    "billing",
                    List.of(
                            "I see both payments. The second one goes back to your card today.",
                            "how long does it take?",
                            "Three to five working days.")));

    private static final List<String> AGENTS = List.of("Imani Okoro", "Jonas Weir", "Sefa Tui", "Priya Raman");

    private final ApplicationContext context;
    private final DemoPeople people;
    private final DemoClock clock;
    private final PersonId ravi;
    private final Talk talk;
    private final Endings endings;
    private final Answering answering;
    private final Acts acts;
    private final DSLContext sql;
    private final TransactionTemplate transaction;
    private final Random random = new Random(20261125);

    private DemoChats(ApplicationContext context, DemoPeople people, DemoClock clock) {
        this.context = context;
        this.people = people;
        this.clock = clock;
        this.ravi = people.named("Ravi Nand").id();
        this.talk = context.getBean(Talk.class);
        this.endings = context.getBean(Endings.class);
        this.answering = context.getBean(Answering.class);
        this.acts = context.getBean(Acts.class);
        this.sql = context.getBean(DSLContext.class);
        this.transaction = context.getBean(TransactionTemplate.class);
    }

    static void settle(ApplicationContext context, DemoPeople people, DemoClock clock) {
        var demo = new DemoChats(context, people, clock);
        demo.rules();
        ChatSite site = demo.sites();
        demo.openers();
        demo.invites();
        Instant now = clock.instant();
        demo.past(site, now);
        demo.going(site, now);
        clock.goTo(now);
    }

    private void rules() {
        var settings = context.getBean(ChatSettings.class);
        Optional<String> booking = context.getBean(OwnFields.class).shown(OwnField.Bearer.TICKET).stream()
                .filter(field -> field.name().equals("Booking"))
                .map(field -> field.key())
                .findFirst();
        var questions = new ArrayList<Gathering.Question>();
        questions.add(new Gathering.Question("name", "What is your name?", new Gathering.Into.Name(), List.of()));
        booking.ifPresent(key -> questions.add(new Gathering.Question(
                "field:" + key, "What is the number of your booking?", new Gathering.Into.Field(key), List.of())));
        questions.add(new Gathering.Question(
                "topic",
                "What is it about?",
                new Gathering.Into.Topic(),
                List.of("timetable", "bookings", "freight slots", "lost items", "access", "billing")));
        questions.add(new Gathering.Question(
                "address",
                "Where does a mail reach you, should we lose touch?",
                new Gathering.Into.Address(),
                List.of()));
        settings.save(
                new ChatRules(true, "Good day! How can we help?", Duration.ofMinutes(10), new Gathering(questions)),
                settings.kept().version(),
                ravi);
        var handing = context.getBean(HandOutSettings.class);
        HandOutSettings.Kept kept = handing.kept();
        handing.save(kept.rules().weighing(ChatSite.CHANNEL, 2), kept.version(), ravi);
    }

    private ChatSite sites() {
        var sites = context.getBean(ChatSites.class);
        Map<String, TeamId> teams =
                context.getBean(Persons.class).teams().stream().collect(Collectors.toMap(Team::name, Team::id));
        List<Site> origins = IntStream.range(8490, 8500)
                .boxed()
                .flatMap(port ->
                        List.of(new Site("http://127.0.0.1:" + port), new Site("http://localhost:" + port)).stream())
                .toList();
        long id = sites.save(
                new ChatSite(
                        0,
                        "Ferries site",
                        "ferries",
                        origins,
                        Optional.ofNullable(teams.get("Passengers")),
                        DemoBook.ALWAYS,
                        0),
                ravi);
        sites.save(
                new ChatSite(
                        0,
                        "Freight site",
                        "freight",
                        origins,
                        Optional.ofNullable(teams.get("Freight desk")),
                        DemoBook.SHORE,
                        0),
                ravi);
        return sites.of(id).orElseThrow();
    }

    private void openers() {
        opener(
                "I lost something on board",
                "Things that are found are kept for sixty days at the Aldermouth terminal, open from 07:00 to 19:00.",
                "lost items",
                "/site/lost*",
                "");
        opener(
                "Until when can I change my booking?",
                "Until two hours before departure, in your booking or here. The difference in price is all that you pay.",
                "bookings",
                "/site/bookings* /site/",
                "");
        opener(
                "When is the gate closed?",
                "For cars twenty minutes, for freight forty minutes before departure.",
                "timetable",
                "",
                "");
        opener(
                "Ich habe etwas an Bord verloren",
                "Fundsachen liegen sechzig Tage lang am Terminal in Aldermouth, offen von 07:00 bis 19:00.",
                "lost items",
                "",
                "de");
    }

    private void opener(String name, String answer, String topic, String pages, String language) {
        var steps = List.of(
                new Macro.Step("answer", Map.of("text", answer, "then", "CUSTOMER"), false),
                new Macro.Step("tag", Map.of("tag", "opener"), false),
                new Macro.Step("topic", Map.of("topic", topic), false));
        var macro = new Macro(
                0,
                name,
                "A ready question in the chat.",
                "Chat",
                new Holder.Everybody(),
                steps,
                Optional.empty(),
                0,
                0);
        long id = context.getBean(Macros.class).save(macro, people.named("Ravi Nand"));
        context.getBean(Openers.class).add(id, pages, language, ravi);
    }

    private void invites() {
        var invites = context.getBean(Invites.class);
        invites.add(
                new Invite(
                        0,
                        "Shall we look for a slot for you?",
                        new Pages("/site/freight*"),
                        Duration.ofSeconds(20),
                        "",
                        Duration.ofDays(1)),
                ravi);
        invites.add(
                new Invite(
                        0,
                        "Did you lose something? Ask us, we look at once.",
                        new Pages(""),
                        Duration.ofSeconds(5),
                        "umbrella, bag, jacket, lost",
                        Duration.ofDays(7)),
                ravi);
    }

    // ------------------------------------------------------------------ what was chatted

    private void past(ChatSite site, Instant now) {
        for (int day = 6; day >= 1; day--) {
            Instant morning = now.minus(Duration.ofDays(day))
                    .atZone(DemoBook.ZONE)
                    .with(LocalTime.of(8, 10))
                    .toInstant();
            for (int i = 0; i < 5; i++) {
                whole(site, morning.plus(Duration.ofMinutes(100L * i + random.nextInt(50))));
            }
        }
        for (int i = 4; i >= 1; i--) {
            whole(site, now.minus(Duration.ofMinutes(40L * i)));
        }
    }

    private void whole(ChatSite site, Instant at) {
        Talked one = TALKS.get(random.nextInt(TALKS.size()));
        Viewer agent = people.named(AGENTS.get(random.nextInt(AGENTS.size())));
        clock.goTo(at);
        Chats.Chat chat = begin(site, one, 4);
        for (int i = 0; i < one.then().size(); i++) {
            after(20 + random.nextInt(70));
            if (i % 2 == 0) {
                answer(chat, one.then().get(i), agent);
            } else {
                say(chat, one.then().get(i));
            }
        }
        after(60);
        // What a form still wants of a ticket keeps it open.
        transaction.executeWithoutResult(
                status -> acts.byItself(chat.ticket(), new Act.MoveTo(TicketState.RESOLVED.key())));
        read(chat);
        endings.end(chat, Chats.EndedBy.US, agent.name());
        if (random.nextInt(3) == 0) {
            endings.rate(chat, random.nextInt(4) == 0 ? Work.Rating.FAIR : Work.Rating.GOOD, "");
        }
    }

    /** Three that Imani has, and two who wait. */
    private void going(ChatSite site, Instant now) {
        Viewer imani = people.named("Imani Okoro");
        clock.goTo(now.minus(Duration.ofMinutes(6)));
        Chats.Chat ramp = begin(site, TALKS.get(0), 4);
        after(40);
        answer(ramp, TALKS.get(0).then().get(0), imani);
        Chats.Chat metres = begin(site, TALKS.get(1), 4);
        after(50);
        answer(metres, TALKS.get(1).then().get(0), imani);
        after(70);
        say(ramp, TALKS.get(0).then().get(1));
        Chats.Chat late = begin(site, TALKS.get(3), 2);
        after(30);
        answer(late, "Good day, I am Imani. Let me look at the winter timetable.", imani);
        read(metres);
        begin(site, TALKS.get(4), 4);
        begin(site, TALKS.get(2), 2);
        clock.goTo(now);
        sql.update(CHAT).set(CHAT.SEEN_AT, now).where(CHAT.ENDED_AT.isNull()).execute();
    }

    private void after(int seconds) {
        clock.goTo(clock.instant().plusSeconds(seconds));
    }

    /** Begins one and answers so many questions of the helper. */
    private Chats.Chat begin(ChatSite site, Talked one, int answers) {
        var place = new Chats.Place(one.page(), one.title(), "en", "");
        Chats.Chat chat = talk.begin(site, key(), new Talk.First.Words(one.first()), place, 0)
                .chat();
        String address = one.name().toLowerCase(Locale.ROOT).replace(' ', '.') + "@seamail.example";
        for (String said :
                List.of(one.name(), one.booking(), one.topic(), address).subList(0, answers)) {
            after(8);
            say(chat, said);
        }
        return chat;
    }

    private void say(Chats.Chat chat, String text) {
        talk.say(chat, key(), text, List.of());
    }

    private void read(Chats.Chat chat) {
        talk.read(chat, Integer.MAX_VALUE);
    }

    private void answer(Chats.Chat chat, String text, Viewer agent) {
        String words = text.replace("{me}", agent.name().split(" ")[0]);
        transaction.executeWithoutResult(status -> answering.answer(
                chat.ticket(),
                new Answering.Answer(
                        "<p>" + words + "</p>", "", Optional.of(""), "", Turn.CUSTOMER, Integer.MAX_VALUE, false),
                agent));
    }

    private static String key() {
        return UUID.randomUUID().toString();
    }
}
