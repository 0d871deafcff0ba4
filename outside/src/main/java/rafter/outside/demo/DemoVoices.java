package rafter.outside.demo;

import static rafter.database.Tables.CALL;
import static rafter.database.Tables.ERRAND;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalInt;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.jooq.DSLContext;
import org.springframework.context.ApplicationContext;
import org.springframework.core.env.Environment;
import org.springframework.transaction.support.TransactionTemplate;
import rafter.app.arrival.providers.OurLine;
import rafter.app.arrival.providers.OurLines;
import rafter.app.arrival.providers.Provider;
import rafter.app.arrival.providers.Providers;
import rafter.app.arrival.providers.Told;
import rafter.app.arrival.providers.ToldBook;
import rafter.app.arrival.social.Posts;
import rafter.app.arrival.social.SocialDesk;
import rafter.app.arrival.social.SocialRules;
import rafter.app.arrival.telephone.CallBook;
import rafter.app.arrival.telephone.CallDesk;
import rafter.app.house.access.Persons;
import rafter.app.house.access.Team;
import rafter.app.house.people.Contact;
import rafter.app.house.people.Contacts;
import rafter.app.house.people.KnownBy;
import rafter.app.tickets.acts.Acts;
import rafter.app.tickets.acts.Tickets;
import rafter.core.id.PersonId;
import rafter.core.id.TeamId;
import rafter.core.ticket.Act;
import rafter.core.ticket.Call;
import rafter.core.ticket.Ticket;
import rafter.core.ticket.TicketState;
import rafter.core.ticket.Turn;
import tools.jackson.databind.json.JsonMapper;

/** Who called the ferry line and wrote about it on the last days, as its exchange and its network told of it. */
public final class DemoVoices {

    /** Something that somebody wrote publicly. */
    public record Said(String handle, String text) {}

    /** What people write while the demo runs. */
    public static final List<Said> SAID = List.of(
            new Said("@oskardahl", "@ternpassage the 16:20 left on time and the coffee was excellent. Thank you!"),
            new Said(
                    "@hannalund", "@ternpassage why is the lift on MV Kestrel Light broken again? Not good for prams."),
            new Said("@wenpaints", "Fog over Skelby, and the Kestrel Light glides out of it like a thought."),
            new Said("@piotrz", "@ternfreight forty minutes at the gate and nobody to look at the papers. Terrible."),
            new Said("@kaisan", "@ternpassage can I bring a kayak on the Vessa boat?"),
            new Said("@rowanpell", "Stuck in Vessa. The late ferry is cancelled and nobody tells us anything."),
            new Said("@cecilym", "@ternpassage do two dogs need two tickets?"),
            new Said("@harbourlottery", "@ternpassage WIN a free cruise today, follow the harbour lottery page now"),
            new Said("@fatousarr", "@ternpassage lovely crew this morning, they waited for our whole class."),
            new Said("@brambrews", "@ternfreight is slot F-88 still free on Thursday?"));

    private static final List<String> CANCELLED = List.of(
            "@ternpassage the 20:30 from Vessa is cancelled and I am stuck. Awful.",
            "@ternpassage cancelled again? The 20:30 from Vessa was my way home",
            "20:30 from Vessa cancelled, no ferry, no bus, no words. Terrible @ternpassage",
            "@ternpassage so the 20:30 Vessa ferry is cancelled. Do I get my money back?",
            "Stuck in Vessa, the 20:30 ferry is cancelled. Anyone with a car?",
            "@ternpassage 20:30 Vessa cancelled with two children and a dog. Not good enough.",
            "Is the 20:30 from Vessa really cancelled? @ternpassage");

    /** A call as it went: seconds until it was taken, talked, held; nothing: nobody took it. */
    private record Rang(int caller, int line, int waited, int talked, int held, String notes) {}

    private static final List<Rang> RANG = List.of(
            new Rang(0, 1, 24, 310, 40, "Two pallets of lettuce more on Thursday. Told him slot F-91 is free."),
            new Rang(2, 1, 51, 190, 0, "Wants the bill of lading by mail."),
            new Rang(4, 0, 18, 260, 30, "Ramp at Skelby: 90 cm, chair 74 cm. Booked help at the gate."),
            new Rang(5, 0, 95, 0, 0, ""),
            new Rang(1, 0, 33, 420, 65, "Group of twelve on Saturday, wants one invoice."),
            new Rang(6, 0, 12, 80, 0, "Asked for the winter timetable."),
            new Rang(3, 0, 140, 0, 0, ""),
            new Rang(7, 0, 4, 0, 0, ""));

    private static final List<String> AGENTS = List.of("Imani Okoro", "Jonas Weir", "Sefa Tui", "Priya Raman");
    private static final JsonMapper JSON = JsonMapper.builder().build();

    private final ApplicationContext context;
    private final DemoPeople people;
    private final DemoClock clock;
    private final PersonId ravi;
    private final Map<String, TeamId> teams;
    private final ToldBook book;
    private final CallDesk desk;
    private final CallBook calls;
    private final Posts posts;
    private final SocialDesk social;
    private final TransactionTemplate transaction;
    private final DSLContext sql;
    private final Random random = new Random(20261127);
    private int count;

    private DemoVoices(ApplicationContext context, DemoPeople people, DemoClock clock) {
        this.context = context;
        this.people = people;
        this.clock = clock;
        this.ravi = people.named("Ravi Nand").id();
        this.teams = context.getBean(Persons.class).teams().stream().collect(Collectors.toMap(Team::name, Team::id));
        this.book = context.getBean(ToldBook.class);
        this.desk = context.getBean(CallDesk.class);
        this.calls = context.getBean(CallBook.class);
        this.posts = context.getBean(Posts.class);
        this.social = context.getBean(SocialDesk.class);
        this.transaction = context.getBean(TransactionTemplate.class);
        this.sql = context.getBean(DSLContext.class);
    }

    static void settle(ApplicationContext context, DemoPeople people, DemoClock clock) {
        var demo = new DemoVoices(context, people, clock);
        Instant now = clock.instant();
        String outside =
                "http://127.0.0.1:" + context.getBean(Environment.class).getProperty("demo.outside-port", "8490");
        Provider exchange = demo.provider(
                Provider.Kind.TELEPHONE,
                "Harbour exchange",
                "exchange",
                outside + "/telephones/api",
                Cast.EXCHANGE_SECRET);
        Provider gangway = demo.provider(
                Provider.Kind.SOCIAL, "Gangway", "gangway", outside + "/network/api", Cast.NETWORK_SECRET);
        for (Cast.Line line : Cast.LINES) {
            var says = new java.util.HashSet<>(Set.of(OurLine.Wish.ABANDONED));
            if (line.recorded()) {
                says.add(OurLine.Wish.RECORDED);
            }
            demo.line(exchange, line, says, Duration.ofSeconds(60));
        }
        for (Cast.Line account : Cast.ACCOUNTS) {
            demo.line(gangway, account, Set.of(OurLine.Wish.PRIVATE, OurLine.Wish.REPLY), Duration.ZERO);
        }
        demo.numbers();
        var rules = context.getBean(SocialRules.class);
        rules.save(0, "Our vessels", "\"kestrel light\", \"saltmarsh\"", false, demo.ravi);
        rules.save(0, "Ferry trouble", "ferry cancelled, ferry late, ferry stuck", false, demo.ravi);
        rules.save(0, "Danger", "fire, smoke, \"man overboard\"", true, demo.ravi);
        demo.called(exchange, now);
        demo.wrote(gangway, now);
        clock.goTo(now);
    }

    private Provider provider(Provider.Kind kind, String name, String word, String address, String secret) {
        var providers = context.getBean(Providers.class);
        long id = providers.save(
                new Provider(0, kind, name, word, address, 0, "", Optional.empty()), Optional.of(secret), ravi);
        return providers.of(id).orElseThrow();
    }

    private void line(Provider provider, Cast.Line line, Set<OurLine.Wish> says, Duration after) {
        context.getBean(OurLines.class)
                .save(
                        new OurLine(
                                0,
                                provider.id(),
                                line.number(),
                                line.name(),
                                Optional.ofNullable(teams.get(line.team())),
                                says,
                                after,
                                0),
                        ravi);
    }

    /** People are known by their numbers, and two of them by their names on the network. */
    private void numbers() {
        var contacts = context.getBean(Contacts.class);
        var known = context.getBean(KnownBy.class);
        transaction.executeWithoutResult(status -> {
            for (Cast.Caller caller : Cast.CALLERS) {
                Cast.PEOPLE.stream()
                        .filter(one -> one.name().equals(caller.name()))
                        .findFirst()
                        .flatMap(one -> contacts.find(one.address()))
                        .map(Contact::id)
                        .ifPresent(id -> known.addNumber(id, caller.number()));
            }
        });
    }

    private void tell(Provider provider, String subject, Instant at, String what, Object... more) {
        var body = new LinkedHashMap<String, Object>();
        String id = "demo-" + ++count;
        body.put("id", id);
        body.put("subject", subject);
        body.put("at", at.toString());
        body.put("what", what);
        for (int i = 0; i < more.length; i += 2) {
            body.put((String) more[i], more[i + 1]);
        }
        clock.goTo(at);
        book.keep(provider, List.of(new Told(id, subject, at, JSON.valueToTree(body))));
        book.takeAll();
    }

    // ------------------------------------------------------------------ calls

    private void called(Provider exchange, Instant now) {
        for (int day = 5; day >= 0; day--) {
            Instant morning = now.minus(Duration.ofDays(day))
                    .atZone(DemoBook.ZONE)
                    .with(LocalTime.of(8, 20))
                    .toInstant();
            for (int i = 0; i < 4; i++) {
                Instant at = morning.plus(Duration.ofMinutes(70L * i + random.nextInt(50)));
                if (at.isBefore(now.minus(Duration.ofMinutes(20)))) {
                    call(exchange, RANG.get((day * 4 + i) % RANG.size()), at);
                }
            }
        }
    }

    private void call(Provider exchange, Rang rang, Instant at) {
        String id = "demo-call-" + ++count;
        String agent = AGENTS.get(random.nextInt(AGENTS.size()));
        tell(
                exchange,
                id,
                at,
                "began",
                "number",
                Cast.CALLERS.get(rang.caller()).number(),
                "line",
                Cast.LINES.get(rang.line()).number());
        if (rang.talked() == 0) {
            tell(exchange, id, at.plusSeconds(rang.waited()), "ended");
            calledBack(exchange, id, agent);
            return;
        }
        Instant taken = at.plusSeconds(rang.waited());
        tell(exchange, id, taken, "taken", "person", people.named(agent).id().toString());
        if (rang.line() == 0) {
            tell(exchange, id, taken.plusSeconds(2), "noticed");
        }
        if (rang.held() > 0) {
            tell(exchange, id, taken.plusSeconds(rang.talked() / 2), "held");
            tell(exchange, id, taken.plusSeconds(rang.talked() / 2 + rang.held()), "resumed");
        }
        long call = transaction
                .execute(status -> calls.of(people.named(agent).id(), clock.instant()))
                .map(CallBook.Call::id)
                .orElseThrow();
        desk.notes(call, rang.notes(), 0, people.named(agent));
        tell(exchange, id, taken.plusSeconds(rang.talked() + rang.held()), "ended");
        clock.goTo(clock.instant().plusSeconds(40));
        desk.finish(call, Optional.of(Turn.CUSTOMER), people.named(agent));
    }

    /** Most were reached later by the telephone of their own. */
    private void calledBack(Provider exchange, String id, String agent) {
        if (random.nextInt(4) == 0) {
            return;
        }
        clock.goTo(clock.instant().plus(Duration.ofMinutes(6 + random.nextInt(40))));
        sql.select(CALL.TICKET)
                .from(CALL)
                .where(CALL.PROVIDER_ID.eq(exchange.id()))
                .and(CALL.OUTSIDE_ID.eq(id))
                .fetchOptional(CALL.TICKET)
                .filter(number -> context.getBean(Tickets.class)
                        .find(number, people.named(agent))
                        .filter(Ticket::open)
                        .isPresent())
                .ifPresent(number -> context.getBean(Acts.class)
                        .performAll(
                                number,
                                List.of(
                                        new Act.HandToPerson(
                                                Optional.of(people.named(agent).id())),
                                        new Act.LogCall(
                                                OptionalInt.empty(),
                                                new Call.Said(
                                                        false,
                                                        people.named(agent).id(),
                                                        clock.instant(),
                                                        Duration.ofMinutes(3),
                                                        "who had called",
                                                        "Called back; all is answered.")),
                                        new Act.MoveTo(TicketState.RESOLVED.key())),
                                people.named(agent)));
    }

    // ------------------------------------------------------------------ posts

    private String write(Provider gangway, Instant at, String handle, String text, Object... more) {
        String id = "demo-post-" + ++count;
        Cast.Voice voice = Cast.VOICES.stream()
                .filter(one -> one.handle().equals(handle))
                .findFirst()
                .orElseThrow();
        var all = new ArrayList<Object>(List.of(
                "handle",
                handle,
                "name",
                voice.name(),
                "about",
                voice.about(),
                "followers",
                voice.followers(),
                "text",
                text));
        all.addAll(List.of(more));
        tell(gangway, id, at, "written", all.toArray());
        return id;
    }

    private void wrote(Provider gangway, Instant now) {
        var at = new TreeMap<Instant, Said>();
        for (int hour = 60; hour >= 1; hour -= 2) {
            at.put(
                    now.minus(Duration.ofMinutes(60L * hour + random.nextInt(50))),
                    SAID.get(random.nextInt(SAID.size())));
        }
        at.forEach((when, said) -> write(gangway, when, said.handle(), said.text()));
        List<String> crowd =
                List.of("@rowanpell", "@hannalund", "@kaisan", "@oskardahl", "@skelbyview", "@cecilym", "@piotrz");
        for (int i = 0; i < CANCELLED.size(); i++) {
            String id = write(gangway, now.minus(Duration.ofMinutes(170L - 22L * i)), crowd.get(i), CANCELLED.get(i));
            tell(gangway, id, clock.instant().plusSeconds(60), "liked", "people", 3 + 4 * i);
        }
        String asked = write(
                gangway,
                now.minus(Duration.ofHours(5)),
                "@noorontheroad",
                "@ternpassage your ramp at Skelby is a disgrace. I waited twenty minutes in the rain.");
        long post = posts.find(gangway.id(), asked).orElseThrow().id();
        clock.goTo(now.minus(Duration.ofHours(4)));
        social.answer(
                post,
                new SocialDesk.Answer(
                        "We are sorry, that is not how it should be. Which crossing was it? We look into it at once.",
                        true,
                        0,
                        Turn.CUSTOMER),
                people.named("Sefa Tui"));
        // The network that is played has not taken it: it was answered days ago, as it were.
        String key = sql.update(ERRAND)
                .set(ERRAND.STATE, "SENT")
                .set(ERRAND.SENT_AT, clock.instant())
                .where(ERRAND.STATE.eq("QUEUED"))
                .returning(ERRAND.KEY)
                .fetchSingle(ERRAND.KEY);
        String answered = write(
                gangway,
                now.minus(Duration.ofHours(4)).plusSeconds(5),
                "@ternpassage",
                "We are sorry, that is not how it should be. Which crossing was it? We look into it at once.",
                "key",
                key,
                "answers",
                asked);
        write(
                gangway,
                now.minus(Duration.ofMinutes(200)),
                "@noorontheroad",
                "The 11:40. Thank you for asking, I had no hope of an answer.",
                "answers",
                answered);
        write(
                gangway,
                now.minus(Duration.ofMinutes(190)),
                "@skelbyview",
                "I saw that. The man at the gate was very helpful, in the end.",
                "answers",
                asked);
        write(
                gangway,
                now.minus(Duration.ofMinutes(95)),
                "@brambrews",
                "Hello, I cannot find the papers for slot F-88. Could you send them again?",
                "private",
                true,
                "account",
                "@ternfreight");
        String regretted = write(
                gangway, now.minus(Duration.ofMinutes(80)), "@piotrz", "@ternfreight your gate crew are all useless");
        tell(gangway, regretted, now.minus(Duration.ofMinutes(60)), "deleted");
        String spam = write(
                gangway,
                now.minus(Duration.ofMinutes(55)),
                "@harbourlottery",
                SAID.get(7).text());
        clock.goTo(now.minus(Duration.ofMinutes(50)));
        posts.find(gangway.id(), spam).ifPresent(found -> social.noise(found.id(), true, people.named("Sefa Tui")));
    }
}
